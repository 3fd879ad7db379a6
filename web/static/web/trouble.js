/* What htmx asked for and did not get is said, with what to do; nothing typed is lost. */

const WORDS = { 401: "Signed out. Sign in again in another tab, then do that once more.", 404: "That is not there any more. Load the page again." };

/* what to say of an answer that is none: its status, nought where the server is away */
export const wordsOf = (status) => {
  if (!status) return "No connection. Nothing was sent; do that again when it is back.";
  return WORDS[status] ?? `That did not work: the server answered ${status}. Load the page again.`;
};

const say = (words) => {
  const said = document.getElementById("trouble");
  said.textContent = words;
  said.hidden = !words;
};

document.addEventListener("htmx:responseError", (event) => say(wordsOf(event.detail.xhr.status)));
document.addEventListener("htmx:sendError", () => say(wordsOf(0)));
document.addEventListener("htmx:afterOnLoad", (event) => {
  if (event.detail.successful) say("");
});
