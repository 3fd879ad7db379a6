/* The gauge's page: shows what the server says, greys it when it falls silent, beeps. */

import { panel, place, watch } from "./panel.js";
import * as sound from "./sound.js";
import { follow } from "./stream.js";

const hands = document.getElementById("gauge-hands");
const frozen = document.getElementById("frozen");

/* the screen stays on while somebody may be glancing at it */
const stayAwake = () => {
  if (document.visibilityState === "visible") navigator.wakeLock?.request("screen").catch(() => {});
};

const tailMoved = (event) => {
  if (event.target.name !== "ramps") return;
  /* what was read with the tail down says nothing of now, and the other way round */
  frozen.replaceChildren();
  if (!place()) return;
  /* a settled figure with the tail down tells, once it is up, what it carried */
  const settled = event.target.value === "up" && panel().dataset.settled === "true";
  hands.elements.down_kg.value = settled ? panel().dataset.kg : "";
  follow(hands);
};

const listen = () => {
  for (const chooser of document.querySelectorAll("[data-go]")) {
    chooser.addEventListener("change", () => chooser.form.submit());
  }
  document.addEventListener("visibilitychange", stayAwake);
  hands.addEventListener("change", tailMoved);
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-let-go]")) frozen.replaceChildren();
  });
  stayAwake();
};

const listenToGauge = () => {
  watch();
  follow(hands);
  sound.listen(hands);
};

if (hands) listen();
if (hands && place()) listenToGauge();
