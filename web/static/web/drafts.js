/* A half-entered form survives a closed phone. */

/* a phone may be shared: a draft belongs to whoever typed it */
const draftOf = (form) => `draft-${document.body.dataset.person ?? ""}-${form.dataset.draft}`;
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
