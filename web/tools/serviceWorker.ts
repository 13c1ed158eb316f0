import type { Plugin } from "vite";

/** Written beside the app: every file of it by its hash, laid down at once, each page of the app from them. */
const WORKER = `
const VERSION = "long-noon-__VERSION__";
const FILES = __FILES__;
const PAGE = "/";
self.addEventListener("install", (event) => {
  event.waitUntil(caches.open(VERSION).then((cache) => cache.addAll([PAGE, ...FILES])));
});
self.addEventListener("activate", (event) => {
  const older = (names) => names.filter((name) => name.startsWith("long-noon-") && name !== VERSION);
  event.waitUntil(
    caches.keys().then((names) => Promise.all(older(names).map((name) => caches.delete(name)))).then(() => self.clients.claim()),
  );
});
self.addEventListener("message", (event) => {
  if (event.data === "take over") self.skipWaiting();
});
// The core for this browser: one version of it, kept when it is first fetched.
async function core(request, pathname) {
  const got = await fetch(request);
  if (!got.ok) return got;
  const cache = await caches.open("core");
  const version = pathname.split("/")[2];
  for (const older of await cache.keys()) {
    if (!older.url.includes("/engine/" + version + "/")) await cache.delete(older);
  }
  await cache.put(request, got.clone());
  return got;
}
self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== "GET" || origin !== self.location.origin || pathname.startsWith("/api/")) return;
  if (request.mode === "navigate") {
    event.respondWith(fetch(request).catch(() => caches.match(PAGE)));
  } else if (pathname.startsWith("/static/")) {
    event.respondWith(caches.match(request).then((kept) => kept ?? fetch(request)));
  } else if (pathname.startsWith("/engine/")) {
    event.respondWith(caches.match(request).then((kept) => kept ?? core(request, pathname)));
  }
});
`;

export function serviceWorker(): Plugin {
  return {
    name: "long-noon-service-worker",
    apply: "build",
    // After all others: what they leave out is not there to be laid down.
    enforce: "post",
    async generateBundle(_, bundle) {
      const files = Object.keys(bundle)
        .filter((name) => !name.endsWith(".html"))
        .sort();
      const digest = await crypto.subtle.digest("SHA-256", new TextEncoder().encode(files.join(" ")));
      const hex = Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, "0"));
      const version = hex.join("").slice(0, 12);
      const urls = JSON.stringify(files.map((name) => `/static/${name}`));
      this.emitFile({
        type: "asset",
        fileName: "sw.js",
        source: WORKER.replace("__VERSION__", version).replace("__FILES__", urls).trimStart(),
      });
    },
  };
}
