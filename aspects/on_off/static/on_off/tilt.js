/* Reads how far the phone is tilted along the deck rail, where the browser tells. */

const READINGS = 20;

export const offerTilt = () => {
  const button = document.querySelector("[data-tilt]");
  if (!button || !("DeviceOrientationEvent" in window) || !window.isSecureContext) return;
  button.hidden = false;
  button.addEventListener("click", () => read(button));
};

const read = async (button) => {
  const words = document.querySelector("[data-tilt-words]");
  const say = (text) => {
    words.textContent = text;
  };
  if (typeof DeviceOrientationEvent.requestPermission === "function") {
    const allowed = await DeviceOrientationEvent.requestPermission().catch(() => "denied");
    if (allowed !== "granted") {
      say("The browser does not tell. Use a level and a ruler.");
      return;
    }
  }
  const found = [];
  const took = (event) => {
    if (event.beta === null) return;
    /* along its long side; lying the other way round is the same tilt */
    found.push(event.beta);
    if (found.length < READINGS) return;
    done();
    const middle = [...found].sort((one, two) => one - two)[READINGS / 2];
    document.getElementById("slope").value = `${Math.abs(middle).toFixed(1)}°`;
    say(`Read ${Math.abs(middle).toFixed(1)}°. Say which way the truck stands, then keep it.`);
  };
  const patience = setTimeout(() => {
    done();
    say("This device does not tell its tilt. Use a level and a ruler.");
  }, 4000);
  const done = () => {
    clearTimeout(patience);
    window.removeEventListener("deviceorientation", took);
  };
  say("Hold it still on the rail.");
  window.addEventListener("deviceorientation", took);
};
