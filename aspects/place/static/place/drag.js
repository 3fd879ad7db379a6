/* Machines are dragged along the deck in the side view, across it in the view from above.
   Where the pointer is on the drawing says where the machine is to stand; whether it may, and what
   that gives, the server says: for every place of the deck at once, in a strip that is played as the
   hand moves, and step by step for what the strip does not hold. */

import { field, form, saves, say, snapshot } from "./page.js";
import { Strip, Strips } from "./strip.js";

const WAYS = {
  drag: { picture: "#picture", axis: "x", field: "reference", per: "perUnit" },
  drag_side: { picture: ".picture-above", axis: "y", field: "left", per: "perUnitAbove" },
};

/* between two steps that are asked while a strip is played: it shows all but what stands beside */
const BESIDE_MS = 300;

/* where a pointer is along an axis of a drawing, in the drawing's own units */
export const along = (picture, axis, { clientX, clientY }) =>
  new DOMPoint(clientX, clientY).matrixTransform(picture.getScreenCTM().inverse())[axis];

/* a step of a drag as the queue takes it; with Alt held it lands on nothing by itself */
export const stepOf = ({ name, item, before }, to, { free = false, looks }) => ({
  fields: { do: name, selected: item, to: String(to), free: free ? "1" : "" },
  step: `${name} ${item}`,
  looks,
  before: looks ? undefined : before,
});

let drag = null;
/* what is played, and where: until the answer to the drop */
let playing = null;

export const dragging = () => drag !== null;

const picture = () => document.querySelector(WAYS[drag.name].picture);

/* the load's strips, asked for one after another from where the hand is, while it is held; where one
   is not answered, no more are asked for */
const fetchStrips = async (held) => {
  const body = new URLSearchParams(new FormData(form()));
  body.set("selected", held.item);
  for (let to = held.place; to !== null && drag === held; to = held.strips.wanted(held.to ?? held.place)) {
    body.set("to", String(to));
    try {
      const answer = await fetch(form().dataset.strip, { method: "POST", body, headers: { "HX-Request": "true" } });
      if (answer.status !== 200) return;
      held.strips.add(new Strip(await answer.json()));
    } catch {
      /* without a strip each step is asked for */
      return;
    }
  }
};

const play = () => {
  if (!playing) return;
  const { strip, at } = playing;
  const drawn = Number(field(`reference-${strip.item}`)?.value);
  /* what is drawn may be of another load's turn */
  if (field("selected").value !== String(strip.item)) return;
  strip.show(form(), at, { drawn, above: Number(form().dataset.perUnitAbove) });
};

/* an answer was put in place: what the hand has come to since is put over it; after that to the
   drop there is nothing more to play */
export const replay = ({ looks }) => {
  if (!looks && !drag) playing = null;
  playing?.strip.forget();
  play();
};

const take = (event, queue) => {
  const machine = event.target.closest("#picture .machine, .picture-above .above-machine");
  if (!machine || event.button) return;
  event.preventDefault();
  const name = machine.closest("#picture") ? "drag" : "drag_side";
  const { item } = machine.dataset;
  if (field("selected").value !== item) queue.ask({ fields: { do: `pick ${item}` }, looks: true });
  drag = { name, item, pointer: event.pointerId, before: snapshot(), to: null, free: false, asked: -Infinity, strips: new Strips() };
  drag.place = Number(field(`${WAYS[name].field}-${item}`).value);
  drag.from = along(picture(), WAYS[name].axis, event);
  if (name === "drag") fetchStrips(drag);
  picture().setPointerCapture(event.pointerId);
  document.getElementById(`machine-${item}`).focus({ preventScroll: true });
};

const ask = (queue) => {
  drag.asked = performance.now();
  queue.ask(stepOf(drag, drag.to, { free: drag.free, looks: true }));
};

const move = (event, queue) => {
  const way = WAYS[drag.name];
  drag.free = event.altKey;
  drag.to = drag.place + (along(picture(), way.axis, event) - drag.from) / Number(form().dataset[way.per]);
  const next = drag.free ? null : drag.strips.at(drag.to);
  if (next && next.strip !== playing?.strip) next.strip.forget();
  playing = next;
  play();
  if (saves()) say("unsaved", "not saved");
  clearTimeout(drag.later);
  if (!playing || performance.now() - drag.asked > BESIDE_MS) ask(queue);
  else drag.later = setTimeout(() => drag && ask(queue), BESIDE_MS);
};

const drop = (queue) => {
  const dropped = drag;
  drag = null;
  clearTimeout(dropped.later);
  if (dropped.to === null) return;
  /* said at once: what waits to be sent is not saved */
  if (saves()) say("saving", "saving");
  queue.ask(stepOf(dropped, dropped.to, { free: dropped.free, looks: false }));
};

export const listen = (queue) => {
  const mine = (event) => drag && event.pointerId === drag.pointer;
  document.addEventListener("pointerdown", (event) => take(event, queue));
  document.addEventListener("pointermove", (event) => mine(event) && move(event, queue));
  for (const end of ["pointerup", "pointercancel"]) {
    document.addEventListener(end, (event) => mine(event) && drop(queue));
  }
};
