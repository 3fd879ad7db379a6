/* Pages of the road without signal. It answers for two kinds of things alone: styles, scripts and
   fonts, whose names change with what is in them, and pages that a phone holds. All else goes to the
   server as if nobody stood between. */

const FILES = "eyebolt-files";
const PAGES = "eyebolt-pages-";
const PATIENCE = 2500;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

const held = async (request) => {
  for (const name of await caches.keys()) {
    if (!name.startsWith(PAGES)) continue;
    const found = await (await caches.open(name)).match(request, { ignoreSearch: true, ignoreVary: true });
    if (found) return found;
  }
  return undefined;
};

const file = async (request) => (await (await caches.open(FILES)).match(request, { ignoreVary: true })) ?? fetch(request);

/* the server's page where it comes in time, else the one that the phone holds */
const page = async (request) => {
  const asked = fetch(request);
  const kept = await held(request);
  if (kept) {
    const late = new Promise((done) => setTimeout(done, PATIENCE, kept));
    return Promise.race([asked.catch(() => kept), late]);
  }
  try {
    return await asked;
  } catch (trouble) {
    const other = (await held(new URL(request.url).pathname === "/" ? "/road/" : "/no-signal/")) ?? (await held("/no-signal/"));
    if (other) return other;
    throw trouble;
  }
};

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self.location.origin) return;
  if (url.pathname.startsWith("/static/")) event.respondWith(file(request));
  else if (request.mode === "navigate") event.respondWith(page(request));
});
