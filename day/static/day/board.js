/* A card taken to another field: its own form says where, and is sent. */

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
  const form = held.querySelector("form");
  const [day, key] = ["day", "key"].map((name) => form.elements[name]);
  const before = [day.value, key.value];
  day.value = over.dataset.day;
  /* beside the board nothing is said of truck or driver */
  if (over.dataset.day) key.value = over.dataset.key;
  if (day.value !== before[0] || key.value !== before[1]) form.requestSubmit();
});

document.addEventListener("dragend", () => {
  held = null;
  for (const one of document.querySelectorAll(".board-under")) one.classList.remove("board-under");
});
