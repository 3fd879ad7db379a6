/* The keys under the box write into it; the phone's own keyboard stays away then. */

const box = document.getElementById("answer");
const pad = document.getElementById("pad");

const bare = (text) => text.replace(/ +/g, " ").replace(/^ /, "");

const write = (key) => {
  if (key === "back") {
    const text = box.value.trimEnd();
    const word = /[a-z]+$/.exec(text);
    box.value = (word ? text.slice(0, -word[0].length) : text.slice(0, -1)).trimEnd();
    return;
  }
  const unit = /^ [a-z]/.test(key);
  box.value = bare(unit ? `${box.value.trimEnd()}${key}` : `${box.value}${key}`);
};

if (box && pad) {
  if (matchMedia("(pointer: coarse)").matches) box.setAttribute("inputmode", "none");
  pad.classList.add("ready");
  box.setSelectionRange(box.value.length, box.value.length);
  pad.addEventListener("click", (event) => {
    const key = event.target.closest("[data-key]");
    if (!key) return;
    write(key.dataset.key);
    box.scrollLeft = box.scrollWidth;
  });
}
