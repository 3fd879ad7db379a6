/* Lengths typed on a drawing: a box at the place of the length, saved at once, and what the server
   drew of it put in. Nothing is worked out here. */

const page = document.querySelector(".beside");
const token = () => document.querySelector("[name=csrfmiddlewaretoken]").value;

const ready = () => {
  const comes = document.getElementById("comes");
  if (!comes?.dataset.measures) return;
  for (const one of comes.querySelectorAll("[data-measure]")) {
    one.setAttribute("role", "button");
    one.setAttribute("tabindex", "0");
    one.setAttribute("aria-label", `${one.querySelector("text").textContent}: type another`);
  }
  // a picture holds nothing to press; a group does
  comes.querySelector("[data-measure]")?.closest("svg").setAttribute("role", "group");
  const hint = comes.querySelector(".typed-on");
  if (hint) hint.hidden = !comes.querySelector("[data-measure]");
};

const leave = (form, back) => {
  form.remove();
  back?.focus();
};

const tell = (form, words) => {
  const wrong = form.querySelector(".wrong");
  wrong.textContent = words;
  form.querySelector("input").setAttribute("aria-invalid", "true");
};

const keep = async (form, name) => {
  const comes = document.getElementById("comes");
  const version = document.querySelector(".book-form [name=version]");
  const sent = new URLSearchParams({
    box: name,
    typed: form.querySelector("input").value,
    version: version.value,
  });
  let answer;
  try {
    answer = await fetch(comes.dataset.measures, {
      method: "POST",
      body: sent,
      headers: { "X-CSRFToken": token(), "HX-Request": "true" },
    });
  } catch {
    tell(form, "The server did not answer. What you typed is still here: try again.");
    return;
  }
  const words = await answer.text();
  if (!answer.ok) {
    tell(form, words.length < 400 ? words : "This could not be saved. Load the page again.");
    return;
  }
  version.value = answer.headers.get("Eyebolt-Version");
  const box = document.getElementById(boxId(name));
  if (box) box.value = answer.headers.get("Eyebolt-Entered");
  const made = document.createElement("template");
  made.innerHTML = words;
  comes.replaceWith(made.content.querySelector("#comes"));
  ready();
  document.querySelector(`[data-measure="${name}"]`)?.focus();
};

const boxId = (name) => {
  const axle = /^axle-(\d+)$/.exec(name);
  return axle ? `id_axles-${Number(axle[1]) - 1}-position` : `id_${name}`;
};

const ask = (one) => {
  const comes = document.getElementById("comes");
  comes.querySelector(".typing")?.remove();
  const text = one.querySelector("text").getBoundingClientRect();
  const around = comes.getBoundingClientRect();
  const form = document.createElement("form");
  form.className = "typing";
  const input = document.createElement("input");
  input.className = "form-control";
  input.value = one.dataset.entered;
  input.maxLength = 60;
  input.setAttribute("aria-label", one.querySelector("text").textContent);
  const wrong = document.createElement("p");
  wrong.className = "wrong";
  wrong.setAttribute("role", "alert");
  form.append(input, wrong);
  comes.append(form);
  const middle = text.left + text.width / 2 - around.left - form.offsetWidth / 2;
  form.style.setProperty("left", `${Math.min(Math.max(middle, 4), around.width - form.offsetWidth - 4)}px`);
  form.style.setProperty("top", `${text.top - around.top - 12}px`);
  input.select();
  form.addEventListener("submit", (event) => {
    event.preventDefault();
    keep(form, one.dataset.measure);
  });
  input.addEventListener("keydown", (event) => {
    if (event.key === "Escape") leave(form, one);
  });
};

if (page) {
  ready();
  page.addEventListener("click", (event) => {
    const one = event.target.closest("[data-measure]");
    if (one) ask(one);
  });
  page.addEventListener("keydown", (event) => {
    const one = event.target.closest("[data-measure]");
    if (!one || (event.key !== "Enter" && event.key !== " ")) return;
    event.preventDefault();
    ask(one);
  });
}
