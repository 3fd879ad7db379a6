/* The box of the tape's reading outlives an answer: what is being typed stays, and a reading
   that is marked for typing over stays marked. */

const box = () => document.getElementById("reading");

/* how the box is now */
export const held = () => {
  const now = box();
  const at = now && document.activeElement === now;
  const typing = at && now.dataset.typed === "yes";
  return {
    typed: typing ? now.value : null,
    marked: at && !typing && now.selectionStart === 0 && now.selectionEnd === now.value.length,
  };
};

/* put it back after an answer; of a reading that was sent, the answer's stands */
export const restore = ({ typed, marked }, { read, refused }) => {
  const now = box();
  if (!now) return;
  if (typed !== null && !read) {
    now.value = typed;
    now.dataset.typed = "yes";
  } else {
    now.value = now.getAttribute("value");
    delete now.dataset.typed;
    if (marked && document.activeElement === now) now.select();
  }
  if (!refused) {
    now.removeAttribute("aria-invalid");
    return;
  }
  now.setAttribute("aria-invalid", "true");
  if (read) now.dataset.typed = "yes";
};

export const listen = () =>
  document.addEventListener("input", (event) => {
    if (event.target.id === "reading") event.target.dataset.typed = "yes";
  });
