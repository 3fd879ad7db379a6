/* The gauge followed as it sends: a stream, or asking again and again where none is to be had. */

import { tell } from "../web/trouble.js";
import { place, show } from "./panel.js";

const POLL_EVERY_MS = 700;
const RETRY_AFTER_MS = 3000;

let source = null;
let polling = null;

/* what is asked of the server: the load, the gauge, and how the tail is now */
export const queryOf = ({ item, gauge }, { ramps, down_kg }) =>
  new URLSearchParams({ item, gauge, ramps: ramps.value, down_kg: down_kg.value }).toString();

const address = (base, hands) => `${base}?${queryOf(place().dataset, hands.elements)}`;

const poll = async (hands) => {
  try {
    const answer = await fetch(address(place().dataset.now, hands), { headers: { "HX-Request": "true" } });
    tell(answer.status);
    if (answer.ok) show(await answer.text());
  } catch {
    tell(0);
  }
};

export const follow = (hands) => {
  source?.close();
  clearInterval(polling);
  polling = null;
  source = new EventSource(address(place().dataset.stream, hands));
  source.addEventListener("panel", (event) => show(event.data));
  source.addEventListener("error", () => {
    /* refused: ask again and again until there is room for a stream */
    if (source.readyState !== EventSource.CLOSED || polling) return;
    polling = setInterval(poll, POLL_EVERY_MS, hands);
    setTimeout(follow, RETRY_AFTER_MS, hands);
    poll(hands);
  });
};
