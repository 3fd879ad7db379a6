/* The strip of the load in hand: what the server worked out for every place of the deck, put in
   place as the hand moves. Nothing is computed here but which of its places the hand is at. */

/* ways to put a value in place */
const SET = {
  text: (element, value) => {
    element.textContent = value;
  },
  html: (element, value) => {
    element.innerHTML = value;
  },
  class: (element, value) => element.setAttribute("class", value),
  value: (element, value) => {
    if (element.dataset.typed !== "yes") element.value = value;
  },
};

const put = (element, how, value) => (SET[how] ? SET[how](element, value) : element.setAttribute(how, value));

export class Strip {
  #shown = new Map();

  constructor({ item, first, step, reach, per, reference, parts }) {
    Object.assign(this, { item, first, step, reach, per, reference, parts });
  }

  get last() {
    return this.first + this.step * (this.reference.length - 1);
  }

  /* the number of the place that a hand is at; nothing beyond its ends */
  at(to) {
    const at = Math.round((to - this.first) / this.step);
    return at >= 0 && at < this.reference.length ? at : null;
  }

  /* what was put in place is drawn anew by an answer: all of it has to be put in again */
  forget() {
    this.#shown.clear();
  }

  /* `drawn` is where the load stands in what is drawn, `above` how large the view from above is */
  show(root, at, { drawn, above }) {
    const by = this.reference[at] - drawn;
    for (const moved of root.querySelectorAll("[data-goes]")) {
      const per = moved.dataset.goes === "above" ? above : this.per;
      moved.setAttribute("transform", `translate(${(by * per).toFixed(2)} 0)`);
    }
    for (const part of this.parts) {
      const value = part.values[part.of[at]];
      if (this.#shown.get(part) === value) continue;
      this.#shown.set(part, value);
      const element = root.querySelector(part.at);
      if (element) put(element, part.set, value);
    }
  }
}

/* The strips of one load, side by side, until all of its reach is covered. */
export class Strips {
  #strips = [];

  add(strip) {
    this.#strips.push(strip);
  }

  /* the strip that holds a place, with the place's number in it; nothing where there is none yet */
  at(to) {
    for (const strip of this.#strips) {
      const at = strip.at(to);
      if (at !== null) return { strip, at };
    }
    return null;
  }

  /* the middle of the strip that is wanted next, on the side where the hand is nearer to the end of
     what there is; nothing once all is there */
  wanted(to) {
    const [one] = this.#strips;
    if (!one) return to;
    const from = Math.min(...this.#strips.map((strip) => strip.first));
    const till = Math.max(...this.#strips.map((strip) => strip.last));
    const half = (one.step * (one.reference.length + 1)) / 2;
    const [least, most] = one.reach;
    const more = [];
    if (from - one.step / 2 > least) more.push({ middle: from - half, way: to - from });
    if (till + one.step / 2 < most) more.push({ middle: till + half, way: till - to });
    return more.sort((a, b) => a.way - b.way)[0]?.middle ?? null;
  }
}
