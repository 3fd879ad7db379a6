/* Switching units keeps what is typed. A bare number was meant in the unit that the page was in, so it gets
   that unit before the page comes back in the other. */

const KEPT = "typed-before-units";
const BARE = /^[−-]?[\d.,\s/]+$/;

const boxes = (form) => [...form.elements].filter((box) => box.name && !["hidden", "submit", "button", "file", "password"].includes(box.type));
const total = (box) => box.name.endsWith("-TOTAL_FORMS");
const forms = () => [...document.querySelectorAll('main form[method="post"]')];

const valueOf = (box) => {
  if (box.type === "checkbox" || box.type === "radio") return box.checked;
  const bare = box.classList.contains("measure") && BARE.test(box.value.trim()) && box.placeholder;
  return bare ? `${box.value.trim()} ${box.placeholder}` : box.value;
};

const changed = (box) => {
  if (box.type === "checkbox" || box.type === "radio") return box.checked !== box.defaultChecked;
  if (box.tagName === "SELECT") return [...box.options].some((one) => one.selected !== one.defaultSelected);
  return box.value !== box.defaultValue;
};

document.addEventListener("submit", (event) => {
  if (!event.target.matches(".units")) return;
  const typed = forms().map((form) => ({
    to: form.getAttribute("action") ?? "",
    rows: [...form.elements].filter(total).map((box) => [box.name, box.value]),
    boxes: boxes(form).filter(changed).map((box) => [box.name, box.type === "radio" ? box.value : "", valueOf(box)]),
  })).filter((form) => form.boxes.length);
  if (!typed.length) return;
  const own = forms().some((form) => new URL(form.action, location.href).pathname === location.pathname);
  const next = event.target.elements.next;
  if (own && !next.value) next.value = location.pathname;
  sessionStorage.setItem(KEPT, JSON.stringify({ path: next.value, typed }));
});

const fill = (form, kept) => {
  for (const [name, choice, value] of kept.boxes) {
    const box = boxes(form).find((one) => one.name === name && (one.type !== "radio" || one.value === choice));
    if (!box) continue;
    if (typeof value === "boolean") box.checked = value;
    else box.value = value;
    box.dispatchEvent(new Event("input", { bubbles: true }));
  }
};

const kept = JSON.parse(sessionStorage.getItem(KEPT) ?? "null");
sessionStorage.removeItem(KEPT);
if (kept && kept.path === location.pathname) {
  const pairs = kept.typed.map((one) => [forms().find((form) => (form.getAttribute("action") ?? "") === one.to), one]).filter(([form]) => form);
  for (const [form, one] of pairs) fill(form, one);
  document.addEventListener("alpine:initialized", () => {
    for (const [form, one] of pairs) {
      for (const [name, number] of one.rows) {
        const box = form.elements[name];
        const add = box?.closest("[x-data]")?.querySelector("button[data-add-row]");
        while (add && Number(box.value) < Number(number)) add.click();
      }
      fill(form, one);
    }
  });
}
