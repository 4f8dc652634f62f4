/// <reference lib="webworker" />
/** The shell that opens without a network: the pages as built, and the last answers to what a day on the floor reads. */
import { ExpirationPlugin } from "workbox-expiration";
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";
import { NetworkFirst } from "workbox-strategies";

import { isKept, KEPT_AT, READ } from "./kept";

declare const self: ServiceWorkerGlobalScope;

const NO_ANSWER_S = 8;
const DAYS = 2;
const MOST = 600;

precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();
registerRoute(new NavigationRoute(createHandlerBoundToURL("/static/index.html"), { denylist: [/^\/api\//, /^\/static\//] }));

registerRoute(
  ({ url, request }) => request.method === "GET" && url.origin === self.location.origin && isKept(url.pathname),
  new NetworkFirst({
    cacheName: READ,
    networkTimeoutSeconds: NO_ANSWER_S,
    plugins: [
      new ExpirationPlugin({ maxEntries: MOST, maxAgeSeconds: DAYS * 86_400, purgeOnQuotaError: true }),
      {
        // a server behind a proxy that has gone is as good as none
        fetchDidSucceed: ({ response }) => (response.status >= 502 ? Promise.reject(new Error("no server")) : Promise.resolve(response)),
        cacheWillUpdate: ({ request, response }) =>
          response.status === 304 ? stillSo(request, response) : Promise.resolve(response.ok ? stamped(response) : null),
        cachedResponseWillBeUsed: ({ cachedResponse }) => Promise.resolve(cachedResponse ?? null),
      },
    ],
  }),
);

/** The server has just said that what the page holds is still so: it was given now. Where it is not kept here, it is read for that. */
async function stillSo(request: Request, answer: Response): Promise<Response | null> {
  const kept = await caches.match(request, { cacheName: READ });
  if (kept !== undefined && markOf(kept) === markOf(answer)) return stamped(kept);
  const anew = await fetch(request.url, { credentials: "same-origin" }).catch(() => null);
  return anew?.ok ? stamped(anew) : null;
}

/** The mark of what an answer says, whether it travelled packed or not. */
function markOf(answer: Response): string | undefined {
  return answer.headers.get("ETag")?.replace(/^W\//, "");
}

/** An answer that says when it was given: what is shown of it later says so too. */
function stamped(response: Response): Response {
  const headers = new Headers(response.headers);
  headers.set(KEPT_AT, String(Date.now()));
  return new Response(response.body, { status: response.status, headers });
}

self.addEventListener("message", (event) => {
  if (event.data === "take over") void self.skipWaiting();
});
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
