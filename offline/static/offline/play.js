/* A page as it is with what waits laid over it: ticks that are ticked, the step that comes next. All of
   it was on the page already; what it means is the server's to say, once it has been sent. */

const boxOf = (record, name) => record.boxes.find(([one]) => one === name)?.[1];

/* of a line, or of one of several of which one is chosen */
const press = (record) => {
  const [name, value] = record.boxes.find(([one]) => one === "tick" || one === "untick") ?? [];
  const button = document.querySelector(`form[data-outbox="tick"] button[value="${CSS.escape(value ?? "")}"]`);
  if (!button) return;
  button.setAttribute("aria-pressed", name === "tick" ? "true" : "false");
  button.closest("li")?.classList.add("waits");
  const list = button.closest("[data-list]");
  const left = list?.querySelector("[data-left]");
  if (left) {
    const open = list.querySelectorAll('li:not([hidden]) button[aria-pressed="false"]').length;
    left.textContent = open ? `${open} left` : "all done";
  }
};

/* the steps stand on the page one behind the other; the one that was done makes room for the next */
const step = (record) => {
  const forms = [...document.querySelectorAll('form[data-outbox="step"]')];
  const at = forms.findIndex((form) => form.elements.step?.value === boxOf(record, "step"));
  if (at < 0) return;
  forms.forEach((form, index) => {
    form.hidden = index !== at + 1;
  });
  document.querySelectorAll(".way-steps li").forEach((mark) => {
    if (mark.dataset.step === boxOf(record, "step")) mark.className = "way-done";
    else if (mark.dataset.step === forms[at + 1]?.elements.step?.value) mark.className = "way-next";
  });
  const now = document.querySelector(".way-now");
  const next = forms[at + 1];
  if (now) now.replaceChildren(Object.assign(document.createElement("span"), { textContent: `${record.words}, not sent yet` }), " ", Object.assign(document.createElement("b"), { textContent: next ? `next: ${next.dataset.comes}` : "all done" }));
  document.querySelectorAll("[data-for-step]").forEach((part) => {
    part.open = part.dataset.forStep === next?.elements.step?.value;
  });
  document.dispatchEvent(new CustomEvent("eyebolt:step", { detail: { step: boxOf(record, "step"), at: record.at } }));
};

const entry = (record) => {
  const form = [...document.querySelectorAll(`form[data-outbox="${record.kind}"]`)].find((one) => new URL(one.action, location.href).pathname === record.address);
  if (!form) return;
  const list = form.parentElement.querySelector(":scope > [data-noted]") ?? document.createElement("ul");
  list.dataset.noted = "";
  list.className = "plain noted";
  if (list.querySelector(`[data-key="${record.key}"]`)) return;
  const row = document.createElement("li");
  row.dataset.key = record.key;
  const typed = record.boxes.filter(([, value]) => value && !(value instanceof Blob)).map(([, value]) => value);
  row.textContent = `${record.words}: ${typed.join(", ")} (not sent yet)`;
  for (const [, value] of record.boxes) {
    if (!(value instanceof Blob)) continue;
    const picture = document.createElement("img");
    picture.alt = "Photo, not sent yet";
    const reader = new FileReader();
    reader.onload = () => {
      picture.src = reader.result;
    };
    reader.readAsDataURL(value);
    row.append(picture);
  }
  list.append(row);
  form.before(list);
};

const choose = (record) => {
  document.querySelectorAll(`form[data-outbox="${record.kind}"] button`).forEach((one) => {
    one.setAttribute("aria-pressed", String(one.value === boxOf(record, one.name)));
  });
};

const WAYS = { tick: press, step, weather: choose };

const lay = (record) => (WAYS[record.kind] ?? entry)(record);

/* folds that stood open, and where the page was, stay as they were */
const replaced = (text) => {
  const found = new DOMParser().parseFromString(text, "text/html").getElementById("main");
  const main = document.getElementById("main");
  if (!found || !main) return;
  const open = new Set([...main.querySelectorAll("details[id]")].filter((one) => one.open).map((one) => one.id));
  const focused = document.activeElement?.id;
  const at = window.scrollY;
  for (const fold of found.querySelectorAll("details[id]")) {
    if (open.has(fold.id)) fold.open = true;
  }
  main.replaceChildren(...found.childNodes);
  window.scrollTo(0, at);
  if (focused) document.getElementById(focused)?.focus({ preventScroll: true });
  document.dispatchEvent(new CustomEvent("eyebolt:afresh"));
};

let shown = "";

export const play = {
  note(form, record) {
    lay(record);
    if (record.kind !== "tick" && record.kind !== "step" && form.dataset.typed !== undefined && !navigator.onLine) form.reset();
  },
  waiting(records) {
    for (const record of records) {
      if (record.state === "waits" && record.page === location.pathname) lay(record);
    }
  },
  /* the page as the server has it by now, once all is sent */
  async afresh(records) {
    if (records.some((one) => one.state === "waits") || !document.querySelector("form[data-outbox]")) return;
    if (document.querySelector("form[data-typed] :focus")) return;
    try {
      const answer = await fetch(location.href, { headers: { "Eyebolt-Hold": "1" }, cache: "no-store" });
      const text = answer.ok && !answer.redirected ? await answer.text() : "";
      if (text && text !== shown) replaced(text);
      shown = text;
    } catch {
      /* no signal: the page stays as it is, and is asked for again with the next thing sent */
    }
  },
};
