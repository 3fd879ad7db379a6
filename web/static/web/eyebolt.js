/* Small behaviour shared by all pages. */
document.addEventListener("alpine:init", () => {
  Alpine.data("fold", () => ({
    open: false,
    get closed() {
      return !this.open;
    },
    get shown() {
      return this.open ? "true" : "false";
    },
    toggle() {
      this.open = !this.open;
    },
    close() {
      this.open = false;
    },
  }));

  /* a list of rows that grows: the empty row stands ready in a <template> */
  Alpine.data("rows", () => ({
    add() {
      const prefix = this.$root.dataset.prefix;
      const total = this.$root.querySelector(`[name="${prefix}-TOTAL_FORMS"]`);
      const template = this.$root.querySelector("template");
      const holder = this.$root.querySelector(".rows");
      const fresh = template.content.cloneNode(true);
      for (const element of fresh.querySelectorAll("[name], [id], [for]")) {
        for (const attribute of ["name", "id", "for"]) {
          const value = element.getAttribute(attribute);
          if (value) element.setAttribute(attribute, value.replace("__prefix__", total.value));
        }
      }
      const row = fresh.firstElementChild;
      holder.append(fresh);
      if (window.htmx) window.htmx.process(row);
      total.value = String(Number(total.value) + 1);
      holder.lastElementChild.querySelector("input:not([type=hidden])").focus();
    },
  }));

  /* sections that belong to one choice of a box: data-when="built=whole" */
  Alpine.data("choices", () => ({
    init() {
      this.choose();
    },
    choose() {
      for (const section of this.$root.querySelectorAll("[data-when]")) {
        const [name, values] = section.dataset.when.split("=");
        const box = this.$root.querySelector(`[name="${name}"]`);
        /* what is wrong is never hidden */
        section.hidden = !values.split(" ").includes(box.value) && !section.querySelector("p.wrong");
      }
    },
  }));
});

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-print]")) window.print();
});

/* --- arithmetic copied as text --- */
document.addEventListener("click", async (event) => {
  const button = event.target.closest("[data-copy]");
  if (!button) return;
  const text = button.dataset.copy;
  try {
    await navigator.clipboard.writeText(text);
    button.textContent = "Copied";
  } catch {
    /* without leave to write, the text is shown and marked for copying by hand */
    const box = document.createElement("textarea");
    box.className = "form-control copy-box";
    box.readOnly = true;
    box.value = text;
    box.rows = text.split("\n").length;
    box.setAttribute("aria-label", "Arithmetic as text");
    button.after(box);
    box.focus();
    box.select();
  }
});

/* --- a half-entered form survives a closed phone --- */
const draftOf = (form) => `draft-${form.dataset.draft}`;
const counter = (box) => box.name.endsWith("-TOTAL_FORMS");
const keptBoxes = (form) => [...form.elements].filter((box) => box.name && (counter(box) || !["hidden", "submit", "file"].includes(box.type)));
document.addEventListener("input", (event) => {
  const form = event.target.closest("form[data-draft]");
  if (!form) return;
  const kept = {};
  for (const box of keptBoxes(form)) kept[box.name] = box.type === "checkbox" ? box.checked : box.value;
  localStorage.setItem(draftOf(form), JSON.stringify(kept));
});
/* what was sent is let go once the next page is another one: a form that comes back was refused */
document.addEventListener("submit", (event) => {
  if (event.target.dataset.draft) sessionStorage.setItem("sent-draft", draftOf(event.target));
});
const sentDraft = sessionStorage.getItem("sent-draft");
if (sentDraft) {
  sessionStorage.removeItem("sent-draft");
  const back = [...document.querySelectorAll("form[data-draft]")].some((form) => draftOf(form) === sentDraft);
  if (!back) localStorage.removeItem(sentDraft);
}
for (const form of document.querySelectorAll("form[data-draft]")) {
  const kept = JSON.parse(localStorage.getItem(draftOf(form)) ?? "{}");
  /* what the server sent back with its faults is newer than what was kept */
  if (form.querySelector(".wrong, .note-error")) continue;
  const fill = () => {
    for (const box of keptBoxes(form)) {
      if (!(box.name in kept) || counter(box)) continue;
      if (box.type === "checkbox") box.checked = kept[box.name];
      else if (kept[box.name]) box.value = kept[box.name];
    }
  };
  fill();
  /* rows that were added are added again, once the lists of rows are alive */
  const totals = keptBoxes(form).filter((box) => counter(box) && Number(kept[box.name] ?? 0) > Number(box.value));
  if (totals.length) {
    document.addEventListener("alpine:initialized", () => {
      for (const total of totals) {
        const add = total.closest("[x-data]").querySelector("button[data-add-row]");
        while (Number(total.value) < Number(kept[total.name])) add.click();
        const fold = total.closest("details");
        if (fold) fold.open = true;
      }
      fill();
    });
  }
  /* the arithmetic is asked for once the page listens */
  if (Object.keys(kept).length) {
    window.addEventListener("load", () => form.dispatchEvent(new Event("change", { bubbles: true })));
  }
}
