/* Hands something on: by the phone's own sheet where it has one, else by the clipboard. */

const copied = async (words, button) => {
  await navigator.clipboard.writeText(words);
  const before = button.textContent;
  button.textContent = "Copied";
  setTimeout(() => {
    button.textContent = before;
  }, 2500);
};

document.addEventListener("click", async (event) => {
  const button = event.target.closest("[data-share]");
  if (!button) return;
  const answer = await fetch(button.dataset.share, { headers: { "HX-Request": "true" } });
  if (!answer.ok) return;
  const told = await answer.json();
  if (navigator.share) await navigator.share(told).catch(() => {});
  else await copied(`${told.text}\n${told.url}`, button);
});
