/* The planner's hands. The server computes and draws; this sends what was done, one
   request at a time, and puts the answer in place. It computes no load. */
(() => {
  /* Steps of a drag are paced: at least two frames of a screen apart, and longer where the
     server is busy, so that several people dragging at once share it. */
  const GAP_MS = 33;
  const SHARE = 4;
  const RETRY_MS = 2000;

  const form = () => document.getElementById("planner");
  if (!form()) return;

  const queue = [];
  const undone = [];
  const done = [];
  let busy = false;
  let lastSent = 0;
  let lastTook = 0;
  let drag = null;

  const field = (name) => form().elements.namedItem(name);

  /* what can be undone: places, facings, sides and the school */
  const snapshot = () => {
    const kept = {};
    for (const input of form().querySelectorAll('input[type="hidden"]')) {
      if (/^(reference|facing|left)-\d+$|^(tongue|share_min|share_max|gvwr|selected)$/.test(input.name)) {
        kept[input.name] = input.value;
      }
    }
    return kept;
  };

  const say = (state, words) => {
    const saved = document.getElementById("saved");
    if (saved) {
      saved.dataset.state = state;
      saved.textContent = words;
    }
  };

  /* actions wait in order; of two places in one drag only the later one is worth asking */
  const ask = (action) => {
    const last = queue[queue.length - 1];
    const drags = (one) => one.fields.do.startsWith("drag") && one.fields.do === action.fields.do;
    if (last && drags(last) && last.item === action.item) {
      queue[queue.length - 1] = { ...action, before: action.before ?? last.before };
    } else {
      queue.push(action);
    }
    pump();
  };

  const pump = () => {
    if (busy || !queue.length) return;
    const action = queue[0];
    const gap = Math.max(GAP_MS, SHARE * lastTook);
    const wait = action.commit ? 0 : lastSent + gap - performance.now();
    if (wait > 0) {
      busy = true;
      setTimeout(() => {
        busy = false;
        pump();
      }, wait);
      return;
    }
    queue.shift();
    send(action);
  };

  const body = (action) => {
    const data = new URLSearchParams(new FormData(form()));
    data.delete("do");
    for (const [name, value] of Object.entries({ ...action.state, ...action.fields })) data.set(name, value);
    /* whoever may only look tries things out, and nothing of it is stored */
    const keeps = action.commit && form().dataset.maySave === "yes";
    data.set("commit", keeps ? "1" : "0");
    return data;
  };

  const send = async (action) => {
    busy = true;
    lastSent = performance.now();
    if (action.commit) say("saving", "saving");
    let answer;
    try {
      const looking = action.fields.do.startsWith("drag") && !action.commit;
      answer = await fetch(looking ? form().dataset.preview : form().action, {
        method: "POST",
        body: body(action),
        headers: { "X-Requested-With": "planner" },
        credentials: "same-origin",
        redirect: "manual",
      });
    } catch {
      /* the server is away: keep the move and send it when it is back */
      say("away", "not saved: no connection, trying again");
      setTimeout(() => {
        queue.unshift(action);
        busy = false;
        pump();
      }, RETRY_MS);
      return;
    }
    if ([200, 409, 422].includes(answer.status)) {
      const html = await answer.text();
      lastTook = performance.now() - lastSent;
      place(html, action, answer.status);
      if (action.commit && answer.status === 200 && action.before) remember(action);
      if (answer.status === 200) address();
    } else if (answer.status === 0 || answer.type === "opaqueredirect") {
      say("away", "not saved: signed out. Sign in again in another tab");
    } else {
      say("away", `not saved: the server answered ${answer.status}. Reload the page`);
    }
    showUndo();
    busy = false;
    pump();
  };

  const saves = () => form().dataset.maySave === "yes";

  /* whoever saves undoes on the server, over everything; whoever only looks, on the page */
  const remember = (action) => {
    if (saves()) return;
    if (action.undoing) undone.push(action.before);
    else {
      done.push(action.before);
      if (!action.redoing) undone.length = 0;
    }
  };

  const showUndo = () => {
    const button = document.querySelector("[data-undo]");
    if (button && !saves()) button.disabled = done.length === 0;
  };

  /* what is looked at stands in the address, so that it can be sent; places that are not
     stored go with it */
  const SHOWN = { selected: "0", open: "", tilt: "1" };
  const address = () => {
    const kept = new URLSearchParams();
    for (const [name, usual] of Object.entries(SHOWN)) {
      const value = field(name)?.value ?? usual;
      if (value && value !== usual) kept.set(name, value);
    }
    if (form().dataset.saved !== "yes" && !saves()) {
      for (const input of form().querySelectorAll('input[type="hidden"]')) {
        if (/^(count|id-|reference-|facing-|left-|tongue|share_)/.test(input.name)) kept.set(input.name, input.value);
      }
    }
    const query = kept.toString();
    history.replaceState(null, "", query ? `?${query}` : location.pathname);
  };

  const place = (html, action, status) => {
    const reading = document.getElementById("reading");
    const typing = reading && document.activeElement === reading && reading.dataset.typed === "yes";
    const typed = typing && action.fields.do !== "read" ? reading.value : null;
    /* a reading marked for typing over stays marked */
    const marked =
      reading && document.activeElement === reading && typed === null &&
      reading.selectionStart === 0 && reading.selectionEnd === reading.value.length;
    const waits = queue.length || drag;
    Idiomorph.morph(form(), html, {
      morphStyle: "outerHTML",
      callbacks: {
        beforeNodeMorphed: (node) => !("still" in (node.dataset || {})),
        beforeAttributeUpdated: (name, node) => !(name === "open" && "keep" in (node.dataset || {})),
      },
    });
    const now = document.getElementById("reading");
    if (now) {
      if (typed !== null) {
        now.value = typed;
        now.dataset.typed = "yes";
      } else {
        now.value = now.getAttribute("value");
        delete now.dataset.typed;
        if (marked && document.activeElement === now) now.select();
      }
      if (status === 422) {
        now.setAttribute("aria-invalid", "true");
        if (action.fields.do === "read") now.dataset.typed = "yes";
      } else now.removeAttribute("aria-invalid");
    }
    if (!action.commit && !waits && form().dataset.saved !== "yes") say("unsaved", "not saved");
  };

  const act = (name, fields = {}, options = {}) =>
    ask({
      fields: { do: name, ...fields },
      commit: options.commit ?? true,
      before: options.commit === false ? null : snapshot(),
      item: options.item,
    });

  /* --- pressing things --- */
  document.addEventListener("submit", (event) => {
    if (event.target !== form()) return;
    const button = event.submitter;
    if (button && "plain" in button.dataset) return;
    event.preventDefault();
    if (!button) return act("read");
    if ("select" in button.dataset) return act("show", { selected: button.dataset.select }, { commit: false });
    const name = button.value;
    if (name === "open") return act("open", { code: button.dataset.code }, { commit: false });
    if (["nudge", "side", "swap"].includes(name)) return act(name, { by: button.dataset.by });
    if (name === "tilt") return act("tilt", { times: button.dataset.times }, { commit: false });
    if (name === "undo") return undo();
    if (name === "overwrite") return act("overwrite", { theirs: field("theirs").value });
    act(name);
  });

  document.addEventListener("change", (event) => {
    if (!event.target.matches("[data-school]")) return;
    if (event.target.dataset.school === "gvwr") {
      act("gvwr");
      return;
    }
    const own = form().querySelector(".own-share");
    if (event.target.value === "custom") {
      own.hidden = false;
      own.querySelector("input").focus();
    } else act("school");
  });

  document.addEventListener("input", (event) => {
    if (event.target.id === "reading") event.target.dataset.typed = "yes";
  });

  const goBack = (from, flags) => {
    const state = from.pop();
    if (!state) return;
    ask({ fields: { do: "show" }, state, commit: true, before: snapshot(), ...flags });
  };
  const undo = () => (saves() ? act("undo") : goBack(done, { undoing: true }));
  const redo = () => (saves() ? act("redo") : goBack(undone, { redoing: true }));

  document.addEventListener("click", (event) => {
    const figure = event.target.closest("[data-open]");
    if (figure) act("open", { code: figure.dataset.open }, { commit: false });
    if (event.target.closest("[data-keys]")) document.getElementById("keys").showModal();
  });

  document.addEventListener("keydown", (event) => {
    if (event.target.closest("input, select, textarea, dialog")) return;
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
      event.preventDefault();
      return event.shiftKey ? redo() : undo();
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if ((event.key === "Enter" || event.key === " ") && event.target.dataset.open) {
      event.preventDefault();
      return act("open", { code: event.target.dataset.open }, { commit: false });
    }
    if (event.key === "ArrowLeft" || event.key === "ArrowRight") {
      if (field("selected").value === "") return;
      event.preventDefault();
      const size = event.shiftKey ? 2 : 1;
      return act("nudge", { by: event.key === "ArrowLeft" ? -size : size });
    }
    if ((event.key === "ArrowUp" || event.key === "ArrowDown") && event.target.closest(".machine")) {
      event.preventDefault();
      return act("side", { by: event.key === "ArrowUp" ? -1 : 1 });
    }
    if (event.key === "?") return document.getElementById("keys").showModal();
    if (/^[1-9]$/.test(event.key)) {
      const chip = document.querySelector(`[data-select="${Number(event.key) - 1}"]`);
      if (chip) chip.click();
      return;
    }
    if (event.key === "[" || event.key === "]") return act("swap", { by: event.key === "[" ? "-1" : "1" });
    const plain = { t: "turn", a: "aim", b: "beside" } [event.key];
    if (plain) return act(plain);
    if (event.key === "r") {
      const reading = document.getElementById("reading");
      if (reading) {
        event.preventDefault();
        reading.focus();
        reading.select();
      }
    }
  });

  /* --- dragging: along the deck in the side view, across it in the view from above --- */
  const ways = {
    drag: { picture: "#picture", axis: "x", field: "reference", per: "perUnit" },
    drag_side: { picture: ".picture-above", axis: "y", field: "left", per: "perUnitAbove" },
  };

  const along = (event, way) => {
    const picture = document.querySelector(way.picture);
    const point = new DOMPoint(event.clientX, event.clientY);
    return point.matrixTransform(picture.getScreenCTM().inverse())[way.axis];
  };

  document.addEventListener("pointerdown", (event) => {
    const machine = event.target.closest("#picture .machine, .picture-above .above-machine");
    if (!machine || event.button) return;
    event.preventDefault();
    const name = machine.closest("#picture") ? "drag" : "drag_side";
    const way = ways[name];
    const item = machine.dataset.item;
    if (field("selected").value !== item) act("show", { selected: item }, { commit: false });
    drag = {
      name,
      way,
      item,
      pointer: event.pointerId,
      from: along(event, way),
      place: Number(field(`${way.field}-${item}`).value),
      before: snapshot(),
      to: null,
    };
    document.querySelector(way.picture).setPointerCapture(event.pointerId);
    document.getElementById(`machine-${item}`).focus({ preventScroll: true });
  });

  /* with Alt held a drag lands on nothing by itself */
  const dragged = ({ name, item, to, free }) => ({ do: name, selected: item, to: String(to), free: free ? "1" : "" });

  document.addEventListener("pointermove", (event) => {
    if (!drag || event.pointerId !== drag.pointer) return;
    const { way } = drag;
    drag.free = event.altKey;
    drag.to = drag.place + (along(event, way) - drag.from) / Number(form().dataset[way.per]);
    ask({ fields: dragged(drag), commit: false, item: drag.item });
  });

  const drop = (event) => {
    if (!drag || event.pointerId !== drag.pointer) return;
    const { item, to, before } = drag;
    const fields = dragged(drag);
    drag = null;
    if (to === null) return;
    ask({ fields, commit: true, item, before });
  };
  document.addEventListener("pointerup", drop);
  document.addEventListener("pointercancel", drop);
})();
