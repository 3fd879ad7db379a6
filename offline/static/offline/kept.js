/* What was noted, in the phone: one record for each thing, bound to whoever noted it. */

const NAME = "eyebolt";
const STORE = "noted";

const asked = (request) => new Promise((done, failed) => {
  request.onsuccess = () => done(request.result);
  request.onerror = () => failed(request.error);
});

const opened = () => {
  const request = indexedDB.open(NAME, 1);
  request.onupgradeneeded = () => request.result.createObjectStore(STORE, { keyPath: "number", autoIncrement: true });
  return asked(request);
};

const within = async (mode, work) => {
  const base = await opened();
  try {
    const change = base.transaction(STORE, mode);
    const settled = new Promise((done, failed) => {
      change.oncomplete = done;
      change.onerror = () => failed(change.error);
      change.onabort = () => failed(change.error);
    });
    const result = await asked(work(change.objectStore(STORE)));
    await settled;
    return result;
  } finally {
    base.close();
  }
};

export const person = document.body.dataset.person ?? "";

/* records of whoever is signed in, in the order in which they were noted */
export const noted = async () => (await within("readonly", (store) => store.getAll())).filter((one) => one.person === person);

export const keep = (record) => within("readwrite", (store) => store.put(record));

export const drop = (number) => within("readwrite", (store) => store.delete(number));
