/* A beep for what is to be done, and a buzz to stop. Both are asked for before they sound. */

const STOP_HZ = 880;
const MOVE_HZ = 520;
const STOP_BUZZ = [200, 80, 400];

export const wants = { sound: false, buzz: false };

/* what is heard and felt when the words change to this move */
export const signalOf = (move, { sound, buzz }) => {
  const stops = move === "stop" || move === "ramps";
  return {
    beep: sound && move !== "wait" ? (stops ? "stop" : move) : null,
    buzz: buzz && stops ? STOP_BUZZ : null,
  };
};

let audio = null;

const beep = (move) => {
  const tone = audio.createOscillator();
  const loud = audio.createGain();
  tone.frequency.value = move === "stop" ? STOP_HZ : MOVE_HZ;
  loud.gain.setValueAtTime(0.25, audio.currentTime);
  loud.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + (move === "stop" ? 0.7 : 0.15));
  tone.connect(loud).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + 0.8);
};

const vibrate = (pattern) => navigator.vibrate?.(pattern);

export const signal = (move) => {
  const { beep: tone, buzz } = signalOf(move, wants);
  if (tone) beep(tone);
  if (buzz) vibrate(buzz);
};

const toggled = (button, name) => {
  wants[name] = !wants[name];
  button.setAttribute("aria-pressed", String(wants[name]));
  return wants[name];
};

export const listen = (hands) => {
  hands.querySelector("[data-sound]").addEventListener("click", ({ currentTarget }) => {
    if (!toggled(currentTarget, "sound")) return;
    audio ??= new AudioContext();
    beep("on");
  });
  hands.querySelector("[data-buzz]").addEventListener("click", ({ currentTarget }) => {
    if (toggled(currentTarget, "buzz")) vibrate(80);
  });
};
