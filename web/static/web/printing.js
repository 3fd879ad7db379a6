/* What belongs on paper is printed though it is folded on the screen. */

const folded = new Set();

window.addEventListener("beforeprint", () => {
  for (const fold of document.querySelectorAll("details[data-prints]:not([open])")) {
    folded.add(fold);
    fold.open = true;
  }
});
window.addEventListener("afterprint", () => {
  for (const fold of folded) fold.open = false;
  folded.clear();
});
