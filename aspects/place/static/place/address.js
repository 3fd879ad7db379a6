/* What is looked at stands in the address, so that it can be sent; places that are not
   stored go with it. */

const USUAL = { selected: "0", open: "", tilt: "1" };

/* the query of what is shown, and of the places where they stand nowhere else */
export const queryOf = (shown, places = {}) => {
  const kept = new URLSearchParams();
  for (const [name, usual] of Object.entries(USUAL)) {
    const value = shown[name] ?? usual;
    if (value && value !== usual) kept.set(name, value);
  }
  for (const [name, value] of Object.entries(places)) kept.set(name, value);
  return kept.toString();
};
