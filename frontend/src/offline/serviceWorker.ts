/// <reference lib="webworker" />
import { matchPrecache, precacheAndRoute } from "workbox-precaching";
import { registerRoute, setCatchHandler } from "workbox-routing";
import { NetworkFirst, NetworkOnly } from "workbox-strategies";

declare const self: ServiceWorkerGlobalScope;
/** The build's files; each has the hash of what is in it in its name. */
declare const __ASSETS__: string[];

const PAGE = "/";
const PAGES = "zembric-pages";
const PATIENCE_S = 4;

precacheAndRoute(__ASSETS__.map((url) => ({ url, revision: null })));

// Every page is the same document. It is fetched anew as long as there is a network, so nothing old is held on to.
const asOnePage = { cacheKeyWillBeUsed: async () => PAGE };
registerRoute(
  ({ request, url }) => request.mode === "navigate" && !url.pathname.startsWith("/api/"),
  new NetworkFirst({ cacheName: PAGES, networkTimeoutSeconds: PATIENCE_S, plugins: [asOnePage] }),
);
// What the next version brought already, while this one still works for the pages that are open.
registerRoute(({ url }) => url.pathname.startsWith("/assets/"), new NetworkOnly());
setCatchHandler(
  async ({ request }) => (await caches.match(request)) ?? (await matchPrecache(request)) ?? Response.error(),
);

self.addEventListener("install", (event) => {
  event.waitUntil(
    caches.open(PAGES).then(async (pages) => {
      const page = await fetch(PAGE);
      if (page.ok) await pages.put(PAGE, page);
    }),
  );
});

// A new version waits until a page says that it may take over.
self.addEventListener("message", (event) => {
  if (event.data?.type === "SKIP_WAITING") void self.skipWaiting();
});

/** Shows an alarm while no page of ours is open, and opens the testers when it is pressed. */
self.addEventListener("push", (event) => {
  const told = event.data?.json() ?? { title: "Alarm", tag: "alarm", url: "/table" };
  const options = { tag: told.tag, data: told.url, requireInteraction: true, vibrate: [400, 150, 400, 150, 400] };
  event.waitUntil(self.registration.showNotification(told.title, options));
});
self.addEventListener("notificationclick", (event) => {
  event.notification.close();
  event.waitUntil(self.clients.openWindow(event.notification.data));
});
