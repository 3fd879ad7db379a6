/* The planner's form: what it holds, and the words beside it. */

export const form = () => document.getElementById("planner");

export const field = (name) => form().elements.namedItem(name);

/* whether what is done here is stored */
export const saves = () => form().dataset.maySave === "yes";

export const saved = () => form().dataset.saved === "yes";

const hidden = () => [...form().querySelectorAll('input[type="hidden"]')];

/* the hidden boxes whose name matches, with their values */
export const boxes = (pattern) =>
  Object.fromEntries(hidden().filter((box) => pattern.test(box.name)).map((box) => [box.name, box.value]));

/* what can be undone: places, facings, sides and the school */
export const snapshot = () => boxes(/^(reference|facing|left)-\d+$|^(tongue|share_min|share_max|gvwr|selected)$/);

export const say = (state, words) => {
  const place = document.getElementById("saved");
  if (!place) return;
  place.dataset.state = state;
  place.textContent = words;
};
