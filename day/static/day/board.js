/* A card taken to another field: the board's form says where, and is sent. */

let held = null;

const field = (target) => target.closest("[data-day][data-key]");

document.addEventListener("dragstart", (event) => {
  held = event.target.closest(".board-card");
  if (!held) return;
  event.dataTransfer.effectAllowed = "move";
  event.dataTransfer.setData("text/plain", held.getAttribute("aria-label"));
});

document.addEventListener("dragover", (event) => {
  const over = held && field(event.target);
  for (const one of document.querySelectorAll(".board-under"))
    if (one !== over) one.classList.remove("board-under");
  if (!over) return;
  event.preventDefault();
  over.classList.add("board-under");
});

document.addEventListener("drop", (event) => {
  const over = held && field(event.target);
  if (!over) return;
  event.preventDefault();
  const [day, key = ""] = held.dataset.at.split(" ");
  /* beside the board nothing is said of truck or driver */
  const to = { day: over.dataset.day, key: over.dataset.day ? over.dataset.key : key };
  if (to.day === day && to.key === key) return;
  const form = document.getElementById("dropped");
  const { haul, was, base } = held.dataset;
  for (const [name, value] of Object.entries({ haul, was, base, ...to }))
    form.elements[name].value = value;
  form.requestSubmit();
});

document.addEventListener("dragend", () => {
  held = null;
  for (const one of document.querySelectorAll(".board-under")) one.classList.remove("board-under");
});
