/* What htmx asked for and did not get is said, with what to do; nothing typed is lost. */

const WORDS = { 401: "Signed out. Sign in again in another tab, then do that once more.", 404: "That is not there any more. Load the page again." };

/* what to say of an answer that is none: its status, nought where the server is away; what the
   server itself says of it in a line of text goes before */
export const wordsOf = (status, told = "") => {
  if (told) return told;
  if (!status) return "No connection. Nothing was sent; do that again when it is back.";
  return WORDS[status] ?? `That did not work: the server answered ${status}. Load the page again.`;
};

/* for what asks without htmx: nothing where it was answered */
export const tell = (status, told) => say(status === 200 ? "" : wordsOf(status, told));

const say = (words) => {
  const said = document.getElementById("trouble");
  said.textContent = words;
  said.hidden = !words;
};

const lineOf = (xhr) => (xhr.getResponseHeader("Content-Type")?.startsWith("text/plain") ? xhr.responseText.slice(0, 300) : "");

document.addEventListener("htmx:responseError", ({ detail: { xhr } }) => say(wordsOf(xhr.status, lineOf(xhr))));
document.addEventListener("htmx:sendError", () => say(wordsOf(0)));
document.addEventListener("htmx:afterOnLoad", (event) => {
  if (event.detail.successful) say("");
});
