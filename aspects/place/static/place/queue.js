/* Actions go to the server one at a time and in order. Steps of a drag are paced: two frames
   of a screen apart, and where others were asking too three times as long as the last one took, for
   each request that was in hand; so several people dragging at once share the server. Of two
   steps that wait, only the later one is worth asking. */

const GAP_MS = 33;
const ROOM = 3;
const RETRY_MS = 2000;

export class Queue {
  #waiting = [];
  #busy = false;
  #sent = -Infinity;
  #pace = 0;

  /* send(action) gives a promise of how many requests the server had in hand, or of nought
     where it did not answer; the action is then sent again before any other */
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
    const wait = this.#waiting[0].looks ? this.#sent + Math.max(GAP_MS, this.#pace) - this.clock() : 0;
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
    let inHand = 1;
    try {
      inHand = await this.send(action);
    } finally {
      this.#busy = false;
      if (inHand) {
        this.#pace = (inHand > 1 ? ROOM * inHand : 1) * (this.clock() - this.#sent);
        this.#pump();
      } else {
        this.#waiting.unshift(action);
        this.#rest(RETRY_MS);
      }
    }
  }
}
