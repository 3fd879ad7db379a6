/* Arithmetic copied as text. */

document.addEventListener("click", async (event) => {
  const button = event.target.closest("[data-copy]");
  if (!button) return;
  const text = button.dataset.copy;
  try {
    await navigator.clipboard.writeText(text);
    button.textContent = "Copied";
  } catch {
    /* without leave to write, the text is shown and marked for copying by hand */
    const box = document.createElement("textarea");
    box.className = "form-control copy-box";
    box.readOnly = true;
    box.value = text;
    box.rows = text.split("\n").length;
    box.setAttribute("aria-label", "Arithmetic as text");
    button.after(box);
    box.focus();
    box.select();
  }
});
