/* A form with data-outbox is noted in the phone first, then sent: at once where there is signal,
   later where there is none. The server takes each record once, by its key. */

import { drop, keep, noted, person } from "./kept.js";
import { play } from "./play.js";
import { told } from "./told.js";

const AGAIN = 20000;

let sending = false;
/* asked for while one was under way: what was noted meanwhile is sent next */
let onceMore = false;
let reached = true;

const recordOf = (form, submitter) => {
  const boxes = [...new FormData(form, submitter)].filter(([name, value]) => name !== "csrfmiddlewaretoken" && !(value instanceof File && !value.size));
  return {
    key: crypto.randomUUID(),
    person,
    address: new URL(submitter?.getAttribute("formaction") ?? form.action, location.href).pathname,
    boxes,
    at: new Date().toISOString(),
    kind: form.dataset.outbox,
    words: submitter?.dataset.says ?? form.dataset.says ?? submitter?.textContent.trim() ?? "",
    of: form.dataset.of ?? "",
    page: location.pathname,
    state: "waits",
  };
};

const bodyOf = (record, token) => {
  const body = new FormData();
  for (const [name, value] of record.boxes) body.append(name, value);
  body.append("csrfmiddlewaretoken", token);
  return body;
};

const post = (record, token) => fetch(record.address, {
  method: "POST",
  body: bodyOf(record, token),
  redirect: "manual",
  headers: { "Eyebolt-Once": record.key, "Eyebolt-Person": record.person, "Eyebolt-Noted": record.at, "HX-Request": "true" },
});

const answered = async (answer) => {
  const type = answer.headers.get("Content-Type") ?? "";
  if (type.startsWith("application/json")) return answer.json();
  return { words: type.startsWith("text/plain") ? await answer.text() : answer.status === 404 ? "That is not there any more." : `The server answered ${answer.status}.` };
};

/* says whether the server was reached; what it refuses stays, with what it said of it */
const sendAll = async () => {
  const ready = await fetch("/offline/ready/", { headers: { "HX-Request": "true" }, cache: "no-store" });
  if (ready.status === 401) return "signed out";
  if (!ready.ok) return "away";
  const { person: who, token } = await ready.json();
  if (who !== person) return "signed out";
  for (const record of await noted()) {
    if (record.state !== "waits") continue;
    const answer = await post(record, token);
    if (answer.status === 401) return "signed out";
    if (answer.status >= 500) return "away";
    if (answer.ok) await drop(record.number);
    else await keep({ ...record, state: "refused", told: { status: answer.status, ...(await answered(answer)) } });
  }
  return "reached";
};

/* one sender at a time, among all the pages that are open */
export const send = async () => {
  if (!person) return;
  if (sending) {
    onceMore = true;
    return;
  }
  sending = true;
  try {
    if ((await noted()).some((one) => one.state === "waits")) {
      const work = () => sendAll().catch(() => "away");
      const how = navigator.locks ? await navigator.locks.request("eyebolt-outbox", work) : await work();
      reached = how === "reached";
      await show(how);
      if (reached) await play.afresh(await noted());
    } else {
      await show("reached");
    }
  } finally {
    sending = false;
  }
  if (onceMore) {
    onceMore = false;
    await send();
  }
};

const show = async (how = "") => {
  const records = await noted();
  told(records, how, { again, left });
  play.waiting(records);
};

/* once more, with what lets it be kept beside what somebody else noted */
const again = async (record, over) => {
  const boxes = over ? [...record.boxes.filter(([name]) => name !== over), [over, "1"]] : record.boxes;
  await keep({ ...record, boxes, state: "waits", told: undefined });
  await send();
};

const left = async (record) => {
  await drop(record.number);
  await show();
  await play.afresh(await noted());
};

document.addEventListener("submit", async (event) => {
  const form = event.target;
  if (!form.dataset.outbox || !person || form.dataset.plain) return;
  event.preventDefault();
  const record = recordOf(form, event.submitter);
  try {
    record.number = await keep(record);
  } catch {
    /* a phone that keeps nothing, or is full: then it goes as any form does */
    form.dataset.plain = "1";
    form.requestSubmit(event.submitter);
    return;
  }
  play.note(form, record);
  await show();
  await send();
  const now = (await noted()).find((one) => one.number === record.number);
  if (now?.told?.status === 422 && form.isConnected && form.dataset.typed !== undefined) {
    /* the page itself says best what is wrong with what was typed */
    await drop(record.number);
    form.dataset.plain = "1";
    form.requestSubmit(event.submitter);
  } else if (!now && form.dataset.then) {
    location.assign(form.dataset.then);
  }
});

document.addEventListener("submit", (event) => {
  if (!event.target.matches("[data-signs-out]") || event.target.dataset.asked) return;
  event.preventDefault();
  const form = event.target;
  (async () => {
    const number = (await noted().catch(() => [])).length;
    const ask = `${number === 1 ? "One thing has" : `${number} things have`} not been sent yet. Signed out, ${number === 1 ? "it is" : "they are"} lost. Sign out all the same?`;
    if (number && !window.confirm(ask)) return;
    for (const one of await noted().catch(() => [])) await drop(one.number);
    for (const name of await caches.keys())
      if (name.startsWith("eyebolt-pages-")) await caches.delete(name);
    form.dataset.asked = "1";
    form.requestSubmit(event.submitter);
  })();
});

/* what a box understood is asked for while there is signal only */
document.addEventListener("htmx:beforeRequest", (event) => {
  if (!navigator.onLine && event.target.closest("form[data-outbox]")) event.preventDefault();
});

if (person) {
  show().then(send);
  window.addEventListener("online", send);
  document.addEventListener("visibilitychange", () => document.hidden || send());
  setInterval(() => reached || send(), AGAIN);
}
