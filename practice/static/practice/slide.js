/* What the tape reads at the slider is said by the server's answer; here it is only put where
   whoever does not see hears it. */

document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.target.id !== "placed") return;
  const slider = document.querySelector(".practice-slide input[type=range]");
  slider.setAttribute("aria-valuetext", event.target.querySelector(".practice-reading").textContent.trim());
});
