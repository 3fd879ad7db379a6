/* What waits is always visible: how many things, and of those that were refused what somebody else
   noted, beside one's own. */

const piece = (name, words, kind = "") => {
  const made = document.createElement(name);
  made.textContent = words;
  if (kind) made.className = kind;
  return made;
};

const button = (words, kind, press) => {
  const made = piece("button", words, `btn ${kind}`);
  made.type = "button";
  made.addEventListener("click", press);
  return made;
};

const mine = (record) => {
  const clock = new Date(record.at).toLocaleString([], { weekday: "short", hour: "2-digit", minute: "2-digit" });
  const typed = record.boxes.filter(([name, value]) => value && name !== "key" && name !== "step" && !record.words.includes(value));
  const values = typed.map(([, value]) => (value instanceof Blob ? "a photo" : value)).join(", ");
  return `${record.words}${values ? `: ${values}` : ""}, ${clock}`;
};

const refusal = (record, { again, left }) => {
  const row = piece("li", "");
  row.append(piece("b", record.of), piece("p", record.told.words));
  const both = piece("dl", "");
  both.append(piece("dt", "You"), piece("dd", mine(record)));
  if (record.told.theirs) both.append(piece("dt", "Noted already"), piece("dd", record.told.theirs));
  row.append(both);
  if (record.told.over) row.append(button("Keep mine", "btn-go", () => again(record, record.told.over)));
  else row.append(button("Send it again", "btn-plain", () => again(record, "")));
  row.append(button(record.told.theirs ? "Leave theirs" : "Let it go", "btn-plain", () => left(record)));
  return row;
};

const lines = (records, how) => {
  const number = records.filter((one) => one.state === "waits").length;
  const many = number === 1 ? "1 thing not sent yet" : `${number} things not sent yet`;
  if (how === "signed out") return `${many}: sign in again, then they are sent.`;
  return how === "away" || !navigator.onLine ? `No signal. ${many}; nothing is lost.` : `${many}.`;
};

export const told = (records, how, does) => {
  const before = document.getElementById("waiting");
  if (!records.length) {
    before?.remove();
    return;
  }
  const bar = before ?? document.createElement("section");
  bar.id = "waiting";
  bar.className = "waiting d-print-none";
  bar.setAttribute("aria-label", "Not sent yet");
  bar.replaceChildren();
  const waits = records.filter((one) => one.state === "waits");
  const refused = records.filter((one) => one.state === "refused");
  if (waits.length) {
    const line = piece("p", lines(records, how), "waiting-line");
    line.setAttribute("role", "status");
    bar.append(line);
  }
  if (refused.length) {
    bar.append(piece("h2", refused.length === 1 ? "One thing was not taken" : `${refused.length} things were not taken`));
    const list = piece("ul", "", "plain");
    list.append(...refused.map((one) => refusal(one, does)));
    bar.append(list);
  }
  if (!before) document.getElementById("main").before(bar);
};
