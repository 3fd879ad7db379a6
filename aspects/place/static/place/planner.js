/* The planner's hands. The server computes and draws; this sends what was done and puts the
   answer in place. It computes no load. */

import { queryOf } from "./address.js";
import * as drag from "./drag.js";
import * as keys from "./keys.js";
import { boxes, field, form, saved, saves, say, snapshot } from "./page.js";
import * as pieces from "./pieces.js";
import { Queue } from "./queue.js";
import * as reading from "./reading.js";
import { Tries } from "./tries.js";

const ANSWERS = [200, 409, 422];
const LOOKS = /^(show|pick|open|tilt)\b/;

const tries = new Tries();

/* one request of the form with these values over its own; a rejection where no answer came */
const request = async (address, values) => {
  const body = new URLSearchParams(new FormData(form()));
  for (const [name, value] of Object.entries(values)) body.set(name, value);
  const answer = await fetch(address, { method: "POST", body, headers: { "HX-Request": "true", "Eyebolt-Has": pieces.names() } });
  const busy = Number(answer.headers.get("Eyebolt-Busy")) || 1;
  return { status: answer.status, html: await answer.text(), busy };
};

/* limits that are folded away need not be told of at each step */
const moreLimits = () => {
  const more = document.getElementById("more-limits");
  return more && !more.open ? "folded" : "";
};

const send = async (action) => {
  const { fields, looks } = action;
  if (!looks) say("saving", "saving");
  const step = looks && action.step;
  let answer;
  try {
    answer = await request(step ? form().dataset.preview : form().action, {
      ...action.state,
      ...fields,
      ...(step ? { more: moreLimits() } : {}),
      /* whoever may only look tries things out, and nothing of it is stored */
      commit: !looks && saves() ? "1" : "0",
    });
  } catch {
    say("away", "not saved: no connection, trying again");
    return 0;
  }
  if (ANSWERS.includes(answer.status)) {
    /* a machine that had the focus gives it to the one that is in hand now */
    const within = document.activeElement?.closest("#picture");
    place(answer, action);
    if (within && !document.activeElement?.closest("#picture")) document.querySelector(".machine.in-hand")?.focus({ preventScroll: true });
    if (answer.status === 200) {
      if (!looks && action.before && !saves()) tries.remember(action.before, action.way);
      history.replaceState(null, "", addressNow());
    }
  } else if (answer.status === 401) {
    say("away", "not saved: signed out. Sign in again in another tab");
  } else {
    say("away", `not saved: the server answered ${answer.status}. Reload the page`);
  }
  const undo = document.querySelector("[data-undo]");
  if (undo && !saves()) undo.disabled = tries.none;
  return answer.busy;
};

const queue = new Queue(send);

const place = ({ html, status }, { fields, looks }) => {
  const before = reading.held();
  htmx.swap(form(), pieces.whole(html), { swapStyle: "morph:outerHTML", swapDelay: 0, settleDelay: 0 }, { contextElement: form() });
  reading.restore(before, { read: fields.do === "read", refused: status === 422 });
  drag.replay({ looks });
  if (looks && !queue.waits && !drag.dragging() && !saved()) say("unsaved", "not saved");
};

const addressNow = () => {
  const shown = Object.fromEntries(["selected", "open", "tilt"].map((name) => [name, field(name)?.value]));
  const nowhereElse = !saved() && !saves();
  const query = queryOf(shown, nowhereElse ? boxes(/^(count|id-|reference-|facing-|left-|tongue|share_)/) : {});
  return query ? `?${query}` : location.pathname;
};

const act = (asked) => {
  const looks = LOOKS.test(asked);
  queue.ask({ fields: { do: asked }, looks, before: looks ? undefined : snapshot() });
};

const goTo = (state, way) => {
  if (state) queue.ask({ fields: { do: "show" }, state, before: snapshot(), way });
};

const errands = {
  undo: () => (saves() ? act("undo") : goTo(tries.undo(), "undo")),
  redo: () => (saves() ? act("redo") : goTo(tries.redo(), "redo")),
  reading: () => {
    const box = document.getElementById("reading");
    box?.focus();
    box?.select();
  },
  keys: () => document.getElementById("keys").showModal(),
};

/* whether a key means anything here: there may be no such load, or none at all */
const offered = (asked) => {
  if (asked.startsWith("pick")) return document.querySelector(`[value="${asked}"]`) !== null;
  return !asked.startsWith("nudge") || field("selected").value !== "";
};

const press = (asked) => (errands[asked] ? errands[asked]() : act(asked));

/* the school is used once it is chosen; one's own share once both ends are typed */
const choose = (box) => {
  const own = form().querySelector(".own-share");
  if (box.dataset.school === "school" && box.value === "custom") {
    own.hidden = false;
    own.querySelector("input").focus();
  } else act(box.dataset.school);
};

const listen = () => {
  document.addEventListener("submit", (event) => {
    if (event.target !== form() || event.submitter?.dataset.plain !== undefined) return;
    event.preventDefault();
    press(event.submitter?.value || "read");
  });
  document.addEventListener("change", (event) => {
    if (event.target.dataset.school) choose(event.target);
  });
  document.addEventListener("click", (event) => {
    const figure = event.target.closest("[data-do]");
    if (figure) press(figure.dataset.do);
  });
  keys.listen({ press, offered, waits: () => queue.waits });
  drag.listen(queue);
  reading.listen();
};

const BOXES = "input, select, textarea, details";

/* what looks the same is left as it is; boxes may hold something that is not to be seen so */
const same = (old, fresh) =>
  old instanceof Element && !old.matches(BOXES) && !old.querySelector(BOXES) && old.isEqualNode(fresh);

const still = (node) => node.dataset?.still !== undefined;

/* an answer leaves alone what the page brings once, and what the person has folded open */
const keepAlone = () =>
  Object.assign(Idiomorph.defaults.callbacks, {
    beforeNodeMorphed: (old, fresh) => !still(old) && !still(fresh) && !same(old, fresh),
    beforeAttributeUpdated: (name, node) => !(name === "open" && node.dataset?.keep !== undefined),
  });

if (form()) {
  keepAlone();
  listen();
}
