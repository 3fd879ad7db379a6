/* The strip of one climb: what the server worked out for every station, put in place one by one.
   Nothing is computed here. */

const MOVED = ["machine", "trailer", "truck", "ball"];
const DRAWN = ["ramp", "bar", "arrow"];

export class Strip {
  constructor(root, columns) {
    this.columns = columns;
    this.last = columns.x.length - 1;
    const part = (name) => root.querySelector(`[data-part="${name}"]`);
    this.parts = Object.fromEntries([...MOVED, ...DRAWN, "arrow-words", "tongue", "cursor"].map((name) => [name, part(name)]));
    this.word = this.parts["arrow-words"].textContent.split(" ")[0];
    this.pads = [...root.querySelectorAll("[data-pad]")].map((pad) => ({
      pad,
      fill: pad.querySelector(".pad-fill"),
      bottom: Number(pad.querySelector(".pad-box").getAttribute("y")) + Number(pad.querySelector(".pad-box").getAttribute("height")),
      number: pad.querySelector(".pad-number"),
    }));
    this.loads = [...root.querySelectorAll("[data-load]")];
    this.dots = [...root.querySelectorAll("[data-dot]")];
  }

  show(at) {
    const { columns, parts } = this;
    for (const name of MOVED) parts[name].setAttribute("transform", columns[name][at]);
    for (const name of DRAWN) parts[name].setAttribute("d", columns[name][at]);
    const lifts = columns.lifts[at] === 1;
    parts.arrow.classList.toggle("climb-lifts", lifts);
    parts.tongue.parentElement.classList.toggle("climb-lifts", lifts);
    parts["arrow-words"].textContent = `${this.word} ${lifts ? "lifts" : "presses"}`;
    parts.tongue.textContent = columns.tongue[at];
    this.pads.forEach(({ pad, fill, bottom, number }, n) => {
      const high = columns.fills[n][at];
      fill.setAttribute("y", bottom - high);
      fill.setAttribute("height", high);
      number.textContent = columns.numbers[n][at];
      pad.classList.toggle("pad-over", columns.over[n][at] === 1);
    });
    this.loads.forEach((load, n) => {
      load.textContent = columns.numbers[n][at];
      load.parentElement.classList.toggle("pad-over", columns.over[n][at] === 1);
    });
    parts.cursor.setAttribute("transform", `translate(${columns.cx[at]} 0)`);
    this.dots.forEach((dot, n) => {
      dot.setAttribute("cx", columns.cx[at]);
      dot.setAttribute("cy", columns.cy[n][at]);
    });
    return columns.where[at];
  }

  /* the station whose leading wheels stand nearest to a place across the picture */
  nearest(x) {
    const places = this.columns.x;
    let best = 0;
    for (let n = 1; n <= this.last; n += 1)
      if (Math.abs(places[n] - x) < Math.abs(places[best] - x)) best = n;
    return best;
  }
}
