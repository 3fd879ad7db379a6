/* Pieces of the planner that the last answer brought: the server names them instead of sending them
   again, as few of them change in one step. */

const BROUGHT = /<!--\+([\w-]{12})-->([\s\S]*?)<!--\/\1-->/g;
const NAMED = /<!--=([\w-]{12})-->/g;

let pieces = new Map();

export const names = () => [...pieces.keys()].join();

/* an answer with its pieces in place; those it does not hold are forgotten */
export const whole = (html) => {
  const held = new Map();
  const full = html
    .replace(BROUGHT, (_, name, piece) => {
      held.set(name, piece);
      return piece;
    })
    .replace(NAMED, (_, name) => {
      held.set(name, pieces.get(name));
      return pieces.get(name);
    });
  pieces = held;
  return full;
};
