/* Nothing moves under a pressed finger: the arithmetic comes in above the button that keeps the
   ticket, and a button that has moved by the time it is let go was never pressed. */

const form = document.querySelector("form[hx-target='#outcome']");
let pressed = false;
let leaving = false;

form.addEventListener("pointerdown", (event) => {
  pressed = Boolean(event.target.closest("button[type='submit']"));
});

/* an answer that comes meanwhile is left out; leaving the box that was typed in asks for one more */
for (const moving of ["htmx:beforeRequest", "htmx:beforeSwap"]) {
  form.addEventListener(moving, (event) => {
    if (pressed) event.preventDefault();
  });
}

form.addEventListener("submit", () => {
  leaving = true;
});
for (const over of ["pointerup", "pointercancel"]) {
  document.addEventListener(over, () => {
    if (!pressed) return;
    /* the click comes after; let go elsewhere, the arithmetic is asked for again */
    setTimeout(() => {
      pressed = false;
      if (!leaving) form.dispatchEvent(new Event("change", { bubbles: true }));
    });
  });
}
