/* The machine goes where the slider is, and the slider where the machine is dragged. What the tape
   reads there is said by the server's answer; here it is only put where whoever does not see hears it. */

const slider = document.querySelector(".practice-slide input[type=range]");
const placed = document.getElementById("placed");

if (slider && placed) {
  document.body.addEventListener("htmx:afterSwap", (event) => {
    if (event.target !== placed) return;
    slider.setAttribute("aria-valuetext", placed.querySelector(".practice-reading").textContent.trim());
  });

  let from = null;
  placed.addEventListener("pointerdown", (event) => {
    const hand = event.target.closest(".practice-hand");
    if (!hand || slider.disabled) return;
    const picture = hand.querySelector("svg");
    const step = (Number(hand.dataset.perStep) * picture.getBoundingClientRect().width) / picture.viewBox.baseVal.width;
    from = { x: event.clientX, value: Number(slider.value), step };
    /* the picture is drawn anew while it is dragged: what stays holds the pointer */
    placed.setPointerCapture(event.pointerId);
  });
  placed.addEventListener("pointermove", (event) => {
    if (!from) return;
    const value = String(Math.round(from.value + (event.clientX - from.x) / from.step));
    if (value === slider.value) return;
    slider.value = value;
    slider.dispatchEvent(new Event("input", { bubbles: true }));
  });
  const drop = () => {
    from = null;
  };
  placed.addEventListener("pointerup", drop);
  placed.addEventListener("pointercancel", drop);
}
