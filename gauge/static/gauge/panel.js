/* What the server says of the gauge; greyed when nothing is heard of it any more. */

import { signal } from "./sound.js";

const GREY_AFTER_MS = 1900;
const LOOK_EVERY_MS = 200;
const MOVES = ["gauge-stop", "gauge-ramps", "gauge-rearward", "gauge-forward"];

let heard = performance.now();
let said = "";

export const place = () => document.getElementById("gauge");
export const panel = () => place().firstElementChild;

const speak = (words) => {
  document.getElementById("gauge-spoken").textContent = words;
};

export const show = (html) => {
  place().innerHTML = html;
  heard = performance.now();
  const { move } = panel().dataset;
  if (move === said) return;
  signal(move);
  speak(panel().querySelector(".gauge-say").textContent.trim());
  said = move;
};

/* the server is gone too, or the network: nothing shown is now */
const grey = () => {
  const now = panel();
  if (!now || performance.now() - heard < GREY_AFTER_MS || now.dataset.silent === "true") return;
  now.classList.add("gauge-stale");
  now.classList.remove(...MOVES);
  Object.assign(now.dataset, { stale: "true", silent: "true", move: "wait" });
  now.querySelector(".gauge-say").textContent = "No word from the server. The figure is the last one.";
  speak("No word from the server.");
  said = "wait";
};

export const watch = () => setInterval(grey, LOOK_EVERY_MS);
