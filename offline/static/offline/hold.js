/* Holds the pages of the road for when there is no signal: asked for beforehand, under the name of
   whoever is signed in, let go of when somebody else is. */

import { person } from "./kept.js";

const FILES = "eyebolt-files";
const PAGES = `eyebolt-pages-${person}`;
const EVERY = 60000;
const STAMP = "eyebolt-held";

const filesOf = (page) => [...page.querySelectorAll('link[rel="stylesheet"], link[rel="preload"], link[rel="icon"], script[src]')].map((one) => one.getAttribute("href") ?? one.getAttribute("src"));

/* from when on the worker answers for this page */
const taken = () => new Promise((done) => {
  if (navigator.serviceWorker.controller) done();
  else navigator.serviceWorker.addEventListener("controllerchange", done, { once: true });
});

const hold = async () => {
  const answer = await fetch("/offline/held/", { headers: { "HX-Request": "true" }, cache: "no-store" });
  if (!answer.ok) return;
  const told = await answer.json();
  if (told.person !== person || !told.pages.length) return;
  const store = await caches.open(PAGES);
  const files = new Set(performance.getEntriesByType("resource").map((one) => new URL(one.name)).filter((url) => url.origin === location.origin && url.pathname.startsWith("/static/")).map((url) => url.pathname));
  const pages = [...told.pages, "/no-signal/"];
  for (const address of pages) {
    const page = await fetch(address, { headers: { "Eyebolt-Hold": "1" }, cache: "no-store" });
    if (!page.ok || page.redirected) continue;
    const text = await page.clone().text();
    for (const file of filesOf(new DOMParser().parseFromString(text, "text/html"))) files.add(file);
    await store.put(address, page);
  }
  for (const kept of await store.keys())
    if (!pages.includes(new URL(kept.url).pathname)) await store.delete(kept);
  const shelf = await caches.open(FILES);
  for (const file of files)
    if (!(await shelf.match(file))) await shelf.add(file);
  for (const kept of await shelf.keys())
    if (!files.has(new URL(kept.url).pathname)) await shelf.delete(kept);
  for (const name of await caches.keys())
    if (name.startsWith("eyebolt-pages-") && name !== PAGES) await caches.delete(name);
  await taken();
  sessionStorage.setItem(STAMP, String(Date.now()));
  document.documentElement.dataset.held = String(pages.length);
};

/* drivers everywhere, others once they come to the road */
const wanted = person && (document.body.dataset.role === "driver" || document.querySelector("[data-holds]"));

if (wanted && "serviceWorker" in navigator && "caches" in window) {
  window.addEventListener("load", async () => {
    try {
      await navigator.serviceWorker.register("/worker.js");
      if (Date.now() - Number(sessionStorage.getItem(STAMP) ?? 0) > EVERY || document.querySelector("[data-holds]")) await hold();
    } catch {
      /* no signal, or a browser that holds nothing: pages come from the server as ever */
    }
  });
}
