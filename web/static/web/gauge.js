/* The gauge's page: shows what the server says, greys it when it falls silent, beeps. */
(() => {
  const hands = document.getElementById("gauge-hands");
  if (!hands) return;
  const frozen = document.getElementById("frozen");
  for (const chooser of document.querySelectorAll("[data-go]")) {
    chooser.addEventListener("change", () => chooser.form.submit());
  }
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-let-go]")) frozen.replaceChildren();
  });
  /* the screen stays on while somebody may be glancing at it */
  const awake = () => navigator.wakeLock?.request("screen").catch(() => {});
  if (document.visibilityState === "visible") awake();
  document.addEventListener("visibilitychange", () => {
    if (document.visibilityState === "visible") awake();
  });
  /* what was read with the tail down says nothing of now, and the other way round */
  hands.addEventListener("change", (event) => {
    if (event.target.name === "ramps") frozen.replaceChildren();
  });

  const place = document.getElementById("gauge");
  if (!place) return;
  const GREY_AFTER = 1900;
  const POLL_EVERY = 700;
  const RETRY_AFTER = 3000;
  const spoken = document.getElementById("gauge-spoken");
  const wants = { sound: false, buzz: false };
  let source = null;
  let polling = null;
  let heard = performance.now();
  let said = "";
  let audio = null;

  const address = (base) => {
    const asked = new URLSearchParams({
      item: place.dataset.item,
      gauge: place.dataset.gauge,
      ramps: hands.elements.ramps.value,
      down_kg: hands.elements.down_kg.value,
    });
    return `${base}?${asked}`;
  };

  const beep = (move) => {
    if (!audio) return;
    const tone = audio.createOscillator();
    const loud = audio.createGain();
    tone.frequency.value = move === "stop" ? 880 : 520;
    loud.gain.setValueAtTime(0.25, audio.currentTime);
    loud.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + (move === "stop" ? 0.7 : 0.15));
    tone.connect(loud).connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + 0.8);
  };

  const show = (html) => {
    place.innerHTML = html;
    const panel = place.firstElementChild;
    heard = performance.now();
    const move = panel.dataset.move;
    if (move !== said) {
      if (move === "stop" || move === "ramps") {
        if (wants.sound) beep("stop");
        if (wants.buzz && navigator.vibrate) navigator.vibrate([200, 80, 400]);
      } else if (move !== "wait" && wants.sound) {
        beep(move);
      }
      spoken.textContent = panel.querySelector(".gauge-say").textContent.trim();
      said = move;
    }
  };

  /* the server is gone too, or the network: nothing shown is now */
  setInterval(() => {
    const panel = place.firstElementChild;
    if (!panel || performance.now() - heard < GREY_AFTER || panel.dataset.silent === "true") return;
    panel.classList.add("gauge-stale");
    panel.classList.remove("gauge-stop", "gauge-ramps", "gauge-rearward", "gauge-forward");
    panel.dataset.stale = "true";
    panel.dataset.silent = "true";
    panel.dataset.move = "wait";
    panel.querySelector(".gauge-say").textContent = "No word from the server. The figure is the last one.";
    spoken.textContent = "No word from the server.";
    said = "wait";
  }, 200);

  const poll = async () => {
    try {
      const answer = await fetch(address(place.dataset.now), { headers: { "X-Requested-With": "gauge" } });
      if (answer.ok && !answer.redirected) show(await answer.text());
    } catch {
      /* the silence shows itself */
    }
  };

  const follow = () => {
    if (source) source.close();
    if (polling) clearInterval(polling);
    polling = null;
    source = new EventSource(address(place.dataset.stream));
    source.addEventListener("panel", (event) => show(event.data));
    source.addEventListener("error", () => {
      /* refused: ask again and again until there is room for a stream */
      if (source.readyState === EventSource.CLOSED && !polling) {
        polling = setInterval(poll, POLL_EVERY);
        setTimeout(follow, RETRY_AFTER);
        poll();
      }
    });
  };
  follow();

  hands.addEventListener("change", (event) => {
    if (event.target.name !== "ramps") return;
    const panel = place.firstElementChild;
    /* a settled figure with the tail down tells, once it is up, what it carried */
    const settled = event.target.value === "up" && panel.dataset.settled === "true";
    hands.elements.down_kg.value = settled ? panel.dataset.kg : "";
    follow();
  });
  hands.querySelector("[data-sound]").addEventListener("click", (event) => {
    wants.sound = !wants.sound;
    event.currentTarget.setAttribute("aria-pressed", String(wants.sound));
    if (wants.sound && !audio) audio = new AudioContext();
    if (wants.sound) beep("on");
  });
  hands.querySelector("[data-buzz]").addEventListener("click", (event) => {
    wants.buzz = !wants.buzz;
    event.currentTarget.setAttribute("aria-pressed", String(wants.buzz));
    if (wants.buzz && navigator.vibrate) navigator.vibrate(80);
  });
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-trust]")) {
      fetch(place.dataset.now.replace(/now\/$/, "trust/"), { method: "POST", body: new FormData(hands) });
    }
  });
})();
