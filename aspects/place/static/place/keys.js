/* What the planner's keys ask for: an action as a button would send it, or one of the page's
   own errands. */

const PLAIN = { t: "turn", a: "aim", b: "beside", "[": "swap -1", "]": "swap 1", r: "reading", "?": "keys" };

/* the action of a key, or null; where says what has the focus: a machine, a thing to open */
export const askedBy = ({ key, shiftKey, ctrlKey, metaKey, altKey }, { machine = false, opens = "" } = {}) => {
  if (ctrlKey || metaKey) return key.toLowerCase() === "z" ? (shiftKey ? "redo" : "undo") : null;
  if (altKey) return null;
  if (opens && (key === "Enter" || key === " ")) return opens;
  const size = shiftKey ? 2 : 1;
  if (key === "ArrowLeft") return `nudge -${size}`;
  if (key === "ArrowRight") return `nudge ${size}`;
  if (machine && key === "ArrowUp") return "side -1";
  if (machine && key === "ArrowDown") return "side 1";
  if (/^[1-9]$/.test(key)) return `pick ${Number(key) - 1}`;
  return PLAIN[key] ?? null;
};

/* A key held down asks again only once what it asked for is done, so that the machine stops
   where the key is let go. */
export const listen = ({ press, offered, waits }) =>
  document.addEventListener("keydown", (event) => {
    const { target } = event;
    if (target.closest("input, select, textarea, dialog")) return;
    /* a letter means something in the drawing only: elsewhere it may be a word that is spoken */
    if (event.key.length === 1 && !(event.ctrlKey || event.metaKey) && !target.closest("#picture, .pictures")) return;
    const asked = askedBy(event, { machine: Boolean(target.closest(".machine")), opens: target.dataset.do });
    if (asked === null || !offered(asked)) return;
    event.preventDefault();
    if (!event.repeat || !waits()) press(asked);
  });
