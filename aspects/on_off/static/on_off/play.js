/* Plays the climb: by the slider, by dragging the machine, by itself. */

import { Strip } from "./strip.js";
import { offerTilt } from "./tilt.js";

const SECONDS = 8;
let running = 0;

const begin = () => {
  cancelAnimationFrame(running);
  offerTilt();
  const data = document.getElementById("climb-strip");
  const play = document.querySelector("[data-play]");
  if (!data || !play) return;
  const root = document.getElementById("climb");
  const strip = new Strip(root, JSON.parse(data.textContent));
  const slider = document.getElementById("climb-at");
  const where = document.getElementById("climb-where");
  const stopped = document.getElementById("climb-stopped");
  const button = (act) => play.querySelector(`[data-act="${act}"]`);
  const off = play.dataset.play === "off";
  const { stop_on: stopOn, stop_off: stopOff } = strip.columns;

  /* where the truck's wheels lift there is nothing to go on with */
  const within = (at) => (off ? Math.max(at, stopOff) : Math.min(at, stopOn));
  const ends = off ? stopOff > 0 : stopOn < strip.last;

  const show = (asked) => {
    const at = within(Math.min(Math.max(Math.round(asked), 0), strip.last));
    const words = strip.show(at);
    slider.value = at;
    slider.setAttribute("aria-valuetext", words);
    where.textContent = words;
    stopped.hidden = !(ends && at === (off ? stopOff : stopOn));
    return at;
  };

  const stop = () => {
    cancelAnimationFrame(running);
    running = 0;
    button("stop").disabled = true;
  };

  const run = (way) => {
    stop();
    button("stop").disabled = false;
    let from = Number(slider.value);
    if (way > 0 && from >= within(strip.last)) from = 0;
    if (way < 0 && from <= within(0)) from = strip.last;
    const start = performance.now();
    const step = (now) => {
      const wanted = from + (way * (now - start) * strip.last) / (SECONDS * 1000);
      const at = show(wanted);
      const done = wanted <= 0 || wanted >= strip.last || Math.abs(at - wanted) > 1;
      if (done) stop();
      else running = requestAnimationFrame(step);
    };
    running = requestAnimationFrame(step);
  };

  const acts = {
    on: () => run(1),
    off: () => run(-1),
    stop,
    worst: () => {
      stop();
      show(Number(button("worst").dataset.worst));
    },
  };
  play.addEventListener("click", (event) => {
    const act = event.target.closest("[data-act]")?.dataset.act;
    if (act) acts[act]();
  });
  slider.addEventListener("input", () => {
    stop();
    show(Number(slider.value));
  });

  drag(root.querySelector("[data-hand]"), document.getElementById("climb-picture"), {
    begins: stop,
    moves: (x, by) => show(strip.nearest(x - by)),
    held: (x) => x - strip.columns.x[Number(slider.value)],
  });
  show(Number(slider.value));
};

/* the machine follows the pointer; what is held of it stays under the finger */
const drag = (hand, picture, { begins, moves, held }) => {
  let by = null;
  const across = (event) => {
    const box = picture.getBoundingClientRect();
    return ((event.clientX - box.left) / box.width) * picture.viewBox.baseVal.width;
  };
  hand.addEventListener("pointerdown", (event) => {
    begins();
    by = held(across(event));
    hand.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  hand.addEventListener("pointermove", (event) => {
    if (by !== null) moves(across(event), by);
  });
  const drop = () => {
    by = null;
  };
  hand.addEventListener("pointerup", drop);
  hand.addEventListener("pointercancel", drop);
};

begin();
document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.target.id === "climb") begin();
});
