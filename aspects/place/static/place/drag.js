/* Machines are dragged along the deck in the side view, across it in the view from above.
   Where the pointer is on the drawing says where the machine is to stand; whether it may,
   and what that gives, the server says. */

import { field, form, snapshot } from "./page.js";

const WAYS = {
  drag: { picture: "#picture", axis: "x", field: "reference", per: "perUnit" },
  drag_side: { picture: ".picture-above", axis: "y", field: "left", per: "perUnitAbove" },
};

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

export const dragging = () => drag !== null;

const picture = () => document.querySelector(WAYS[drag.name].picture);

const take = (event, queue) => {
  const machine = event.target.closest("#picture .machine, .picture-above .above-machine");
  if (!machine || event.button) return;
  event.preventDefault();
  const name = machine.closest("#picture") ? "drag" : "drag_side";
  const { item } = machine.dataset;
  if (field("selected").value !== item) queue.ask({ fields: { do: `pick ${item}` }, looks: true });
  drag = { name, item, pointer: event.pointerId, before: snapshot(), to: null, free: false };
  drag.place = Number(field(`${WAYS[name].field}-${item}`).value);
  drag.from = along(picture(), WAYS[name].axis, event);
  picture().setPointerCapture(event.pointerId);
  document.getElementById(`machine-${item}`).focus({ preventScroll: true });
};

const move = (event, queue) => {
  const way = WAYS[drag.name];
  drag.free = event.altKey;
  drag.to = drag.place + (along(picture(), way.axis, event) - drag.from) / Number(form().dataset[way.per]);
  queue.ask(stepOf(drag, drag.to, { free: drag.free, looks: true }));
};

const drop = (queue) => {
  const dropped = drag;
  drag = null;
  if (dropped.to !== null) queue.ask(stepOf(dropped, dropped.to, { free: dropped.free, looks: false }));
};

export const listen = (queue) => {
  const mine = (event) => drag && event.pointerId === drag.pointer;
  document.addEventListener("pointerdown", (event) => take(event, queue));
  document.addEventListener("pointermove", (event) => mine(event) && move(event, queue));
  for (const end of ["pointerup", "pointercancel"]) {
    document.addEventListener(end, (event) => mine(event) && drop(queue));
  }
};
