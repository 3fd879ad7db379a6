/* Whoever saves undoes on the server, over everything; whoever may only look tries things out
   and undoes them here. What is kept are the states before each try. */

export class Tries {
  #done = [];
  #undone = [];

  get none() {
    return this.#done.length === 0;
  }

  /* a try was answered: before is the state it began from, way how it came about */
  remember(before, way = "") {
    if (way === "undo") {
      this.#undone.push(before);
      return;
    }
    this.#done.push(before);
    if (way !== "redo") this.#undone.length = 0;
  }

  /* the state to go back to, or on to; undefined where there is none */
  undo() {
    return this.#done.pop();
  }

  redo() {
    return this.#undone.pop();
  }
}
