/* Plays a run from above: frames as the server worked them out, put in place one after the other.
   Nothing is computed here. */

const still = matchMedia("(prefers-reduced-motion: reduce)");
let running = 0;

const begin = () => {
  cancelAnimationFrame(running);
  const root = document.getElementById("sway");
  const data = document.getElementById("sway-strip");
  if (!root || !data) return;
  const strip = JSON.parse(data.textContent);
  const part = (name) => root.querySelector(`[data-part="${name}"]`);
  const parts = Object.fromEntries(
    ["truck", "trailer", "road", "gust", "cursor"].map((name) => [name, part(name)]),
  );
  const slider = document.getElementById("sway-at");
  const words = document.getElementById("sway-where");
  const button = root.querySelector('[data-act="play"]');
  const last = strip.truck.length - 1;

  const show = (at) => {
    for (const name of ["truck", "trailer", "road", "cursor"])
      parts[name].setAttribute("transform", strip[name][at]);
    parts.gust.setAttribute("visibility", strip.gust[at] ? "visible" : "hidden");
    slider.value = at;
    slider.setAttribute("aria-valuetext", strip.words[at]);
    words.textContent = strip.words[at];
  };

  const stop = () => {
    cancelAnimationFrame(running);
    running = 0;
    button.textContent = "Play";
  };

  const play = () => {
    const from = Number(slider.value) >= last ? 0 : Number(slider.value);
    const start = performance.now();
    button.textContent = "Stop";
    const step = (now) => {
      const at = Math.min(last, from + Math.floor(((now - start) * strip.rate) / 1000));
      show(Math.max(at, from));
      if (at >= last) stop();
      else running = requestAnimationFrame(step);
    };
    running = requestAnimationFrame(step);
  };

  button.addEventListener("click", () => (running ? stop() : play()));
  slider.addEventListener("input", () => {
    stop();
    show(Number(slider.value));
  });
  /* whoever wants no motion gets the frames beside each other */
  if (still.matches) root.querySelector("[data-stills]").open = true;
};

begin();
document.body.addEventListener("htmx:afterSettle", (event) => {
  if (event.target.id === "sway") begin();
});
