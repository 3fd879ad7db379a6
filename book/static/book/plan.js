/* Taps on the drawing from above fill a new row of the list under it: where, and one on each side. */

const NS = "http://www.w3.org/2000/svg";
/* nearer to the middle than so many steps, it is one on the middle */
const MIDDLE = 2;

function placed(svg, event) {
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(
    svg.getScreenCTM().inverse(),
  );
  const { x0, y0, per, step, back } = svg.dataset;
  const along = ((at.x - Number(x0)) / Number(per)) * (back === undefined ? 1 : -1);
  const off = Math.abs(at.y - Number(y0)) / Number(per);
  const round = (value) => Math.round(value / Number(step)) * Number(step);
  return { along: round(along), off: round(off) };
}

function ring(svg, along, off) {
  const { x0, y0, per, back } = svg.dataset;
  const mark = document.createElementNS(NS, "circle");
  mark.setAttribute("cx", Number(x0) + along * Number(per) * (back === undefined ? 1 : -1));
  mark.setAttribute("cy", Number(y0) + off * Number(per));
  mark.setAttribute("r", 6);
  mark.setAttribute("class", "plan-mark fresh");
  svg.append(mark);
}

function fill(row, name, value) {
  const box = row.querySelector(`[name$="-${name}"]`);
  if (!box) return;
  if (box.type === "checkbox") box.checked = value;
  else box.value = value;
  box.dispatchEvent(new Event("change", { bubbles: true }));
}

document.addEventListener("click", (event) => {
  const svg = event.target.closest?.("svg.plan-taps");
  if (!svg) return;
  const sheet = svg.closest(".sheet");
  const { along, off } = placed(svg, event);
  const paired = off > MIDDLE * Number(svg.dataset.step);
  const unit = svg.dataset.unit;
  sheet.querySelector("[data-add-row]").click();
  const rows = sheet.querySelectorAll(".row-of-boxes");
  const row = rows[rows.length - 1];
  const tidy = (value) => `${Number(value.toFixed(3))} ${unit}`;
  fill(row, "name", `${svg.dataset.word} ${rows.length}`);
  fill(row, svg.dataset.along, tidy(along));
  fill(row, "off", paired ? tidy(off) : `0 ${unit}`);
  fill(row, "both", paired);
  for (const side of paired ? [1, -1] : [0]) ring(svg, along, side * off);
  row.querySelector('[name$="-name"]').select();
});
