/* A save that was refused: what is wrong stands on top, each fault leads to its box, and the first one has
   the focus. The words are the server's own. */

const BOX = 'input:not([type="hidden"]):not([type="submit"]), select, textarea';

const boxOf = (wrong) => {
  for (let part = wrong.parentElement; part && part.tagName !== "FORM"; part = part.parentElement) {
    const box = part.querySelector(BOX);
    if (box) return box;
  }
  return null;
};

const nameOf = (box) => {
  const label = box.labels?.[0] ?? box.closest("fieldset")?.querySelector("legend");
  return (label?.textContent ?? box.getAttribute("aria-label") ?? "").trim();
};

const leadTo = (box) => {
  for (let fold = box.closest("details"); fold; fold = fold.parentElement.closest("details")) fold.open = true;
  box.focus();
  box.scrollIntoView({ block: "center" });
};

const line = (wrong) => {
  const row = document.createElement("li");
  const box = boxOf(wrong);
  const name = box ? nameOf(box) : "";
  if (box) {
    const link = document.createElement("a");
    link.href = `#${box.id}`;
    link.textContent = name || "This box";
    link.addEventListener("click", (event) => {
      event.preventDefault();
      leadTo(box);
    });
    box.setAttribute("aria-invalid", "true");
    row.append(link, `: ${wrong.textContent.trim()}`);
  } else {
    row.textContent = wrong.textContent.trim();
  }
  return row;
};

for (const form of document.querySelectorAll('main form[method="post"]')) {
  const faults = [...form.querySelectorAll(".wrong")].filter((one) => one.textContent.trim() && !one.closest("template"));
  if (!faults.length || form.matches("[data-outbox=tick]")) continue;
  const list = document.createElement("ul");
  list.className = "faults";
  list.append(...faults.map(line));
  const said = form.querySelector(".note-error");
  if (said) said.after(list);
  else form.prepend(list);
  const first = faults.map(boxOf).find(Boolean);
  if (first) leadTo(first);
}
