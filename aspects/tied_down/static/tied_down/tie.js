/* Ties drawn by hand: from a point of the machine to an anchor, by drag, by tap, by keys. The
   form of two lists beside the picture is filled and sent; the server does the rest. */

const host = document.getElementById("tied");
let picked = null;
let dragged = null;

const picture = () => host.querySelector("[data-tie-picture]");
const says = (words) => {
  const line = host.querySelector("[data-tie-says]");
  if (line) line.textContent = words;
};

/* where the pointer is in the drawing's own units */
function placeOf(event) {
  const svg = picture();
  const at = new DOMPoint(event.clientX, event.clientY);
  return at.matrixTransform(svg.getScreenCTM().inverse());
}

function middleOf(element) {
  const circle = element.querySelector(".hit");
  return { x: circle.cx.baseVal.value, y: circle.cy.baseVal.value };
}

function stretch(from, to) {
  const ghost = picture().querySelector("[data-ghost]");
  const ends = from ? { x1: from.x, y1: from.y, x2: to.x, y2: to.y } : { x1: 0, y1: 0, x2: 0, y2: 0 };
  for (const [name, value] of Object.entries(ends)) ghost.setAttribute(name, value);
  ghost.classList.toggle("shown", Boolean(from));
}

function pick(point) {
  for (const one of host.querySelectorAll("[data-point]")) one.setAttribute("aria-pressed", "false");
  picked = point;
  if (!point) return;
  point.setAttribute("aria-pressed", "true");
  says(`From ${point.dataset.point}. Now the anchor it goes to; Escape lets go.`);
}

function tie(point, anchor) {
  const form = document.getElementById("tie-add");
  form.elements.point.value = point.dataset.point;
  form.elements.anchor.value = anchor.dataset.anchor;
  form.elements.over.value = "";
  pick(null);
  stretch(null);
  form.requestSubmit();
}

/* a tap or Enter: the first picks a point, the second an anchor, in either order of mind */
function choose(element) {
  const point = element.closest("[data-point]");
  const anchor = element.closest("[data-anchor]");
  if (point) pick(point === picked ? null : point);
  else if (anchor && picked) tie(picked, anchor);
  else if (anchor) says("First the point of the machine, then the anchor.");
}

const canTie = () => Boolean(document.getElementById("tie-add"));

host.addEventListener("pointerdown", (event) => {
  const point = event.target.closest("[data-point]");
  if (!point || !canTie() || event.button) return;
  dragged = { point, from: middleOf(point), moved: false };
  picture().setPointerCapture(event.pointerId);
  event.preventDefault();
});

host.addEventListener("pointermove", (event) => {
  if (!dragged) return;
  const to = placeOf(event);
  dragged.moved ||= Math.hypot(to.x - dragged.from.x, to.y - dragged.from.y) > 12;
  if (dragged.moved) stretch(dragged.from, to);
});

host.addEventListener("pointerup", (event) => {
  if (!dragged) return;
  const { point, moved } = dragged;
  dragged = null;
  stretch(null);
  if (!moved) {
    choose(point);
    return;
  }
  const under = document.elementFromPoint(event.clientX, event.clientY);
  const anchor = under?.closest("[data-anchor]");
  if (anchor) tie(point, anchor);
  else says("A tie ends at an anchor: one of the rings.");
});

host.addEventListener("pointercancel", () => {
  dragged = null;
  if (picture()) stretch(null);
});

host.addEventListener("click", (event) => {
  const anchor = event.target.closest?.("[data-anchor]");
  if (anchor && canTie()) choose(anchor);
});

host.addEventListener("keydown", (event) => {
  const spot = event.target.closest?.("[data-point], [data-anchor]");
  if (event.key === "Escape" && picked) pick(null);
  if (!spot || !canTie() || (event.key !== "Enter" && event.key !== " ")) return;
  event.preventDefault();
  choose(spot);
});

/* an answer draws everything anew: what was picked is gone, what was unfolded stays so */
let unfolded = [];

document.body.addEventListener("htmx:beforeSwap", () => {
  unfolded = [...host.querySelectorAll("details[id][open]")].map((fold) => fold.id);
});

document.body.addEventListener("htmx:afterSwap", () => {
  picked = null;
  dragged = null;
  for (const id of unfolded) document.getElementById(id)?.setAttribute("open", "");
});
