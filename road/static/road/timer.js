/* How long until the next stop. The time itself is fixed when it is counted from, so a phone that was
   locked shows what is left, not what it slept through; the server said which stop it is. */

const clockOf = (left) => {
  const minutes = left >= 0 ? Math.ceil(left / 60000) : Math.floor(-left / 60000);
  const hours = Math.floor(minutes / 60);
  const words = hours ? `${hours} h ${minutes % 60} min` : `${minutes} min`;
  return left >= 0 ? `${words} left` : `${words} late: stop where it is safe`;
};

const tick = () => {
  for (const line of document.querySelectorAll("[data-stop]")) {
    const left = Date.parse(line.dataset.stop) - Date.now();
    const clock = line.querySelector("[data-clock]");
    const words = clockOf(left);
    if (clock.textContent !== words) clock.textContent = words;
    const late = left < 0;
    if (late && !line.classList.contains("late")) ring();
    line.classList.toggle("late", late);
  }
};

/* as far as the platform lets it: a phone that is awake buzzes, one that sleeps shows it on waking */
const ring = () => navigator.vibrate?.([300, 200, 300]);

/* set off without signal: the page has no stop yet, so it is counted on the phone until it has */
document.addEventListener("eyebolt:step", ({ detail }) => {
  if (detail.step === "first_stop") document.querySelectorAll("[data-stop]").forEach((line) => line.remove());
  if (detail.step !== "go" || document.querySelector("[data-stop]")) return;
  const line = document.querySelector("[data-stop-template]")?.content.firstElementChild.cloneNode(true);
  if (!line) return;
  line.dataset.stop = new Date(Date.parse(detail.at) + Number(line.dataset.minutes) * 60000).toISOString();
  document.querySelector(".way-now").after(line);
  tick();
});

tick();
setInterval(tick, 1000);
document.addEventListener("visibilitychange", () => document.hidden || tick());
document.addEventListener("eyebolt:afresh", tick);
