/* Actions go to the server one at a time and in order. Steps of a drag are paced: at least
   two frames of a screen apart, and longer where the server is busy, so that several people
   dragging at once share it; of two steps that wait, only the later one is worth asking. */

const GAP_MS = 33;
const SHARE = 4;
const RETRY_MS = 2000;

export class Queue {
  #waiting = [];
  #busy = false;
  #sent = -Infinity;
  #took = 0;

  /* send(action) gives a promise of whether the server answered; where it did not, the
     action is sent again before any other */
  constructor(send, { clock = () => performance.now(), later = (work, ms) => setTimeout(work, ms) } = {}) {
    this.send = send;
    this.clock = clock;
    this.later = later;
  }

  /* actions of one step follow each other along one way; those that only look wait for the gap */
  ask(action) {
    const last = this.#waiting.at(-1);
    if (last?.step && last.step === action.step) {
      this.#waiting[this.#waiting.length - 1] = { ...action, before: action.before ?? last.before };
    } else {
      this.#waiting.push(action);
    }
    this.#pump();
  }

  get waits() {
    return this.#waiting.length > 0;
  }

  #pump() {
    if (this.#busy || !this.#waiting.length) return;
    const wait = this.#waiting[0].looks ? this.#sent + Math.max(GAP_MS, SHARE * this.#took) - this.clock() : 0;
    if (wait > 0) this.#rest(wait);
    else this.#go(this.#waiting.shift());
  }

  #rest(ms) {
    this.#busy = true;
    this.later(() => {
      this.#busy = false;
      this.#pump();
    }, ms);
  }

  async #go(action) {
    this.#busy = true;
    this.#sent = this.clock();
    let answered = true;
    try {
      answered = await this.send(action);
    } finally {
      if (answered) this.#took = this.clock() - this.#sent;
      this.#busy = false;
      if (answered) {
        this.#pump();
      } else {
        this.#waiting.unshift(action);
        this.#rest(RETRY_MS);
      }
    }
  }
}
