// Shows a bench's page as it last was where there is no network. The page itself puts
// what it shows into the cache.
self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
self.addEventListener("fetch", (event) => {
  if (event.request.method !== "GET" || event.request.url.endsWith("/stream")) return;
  event.respondWith(
    fetch(event.request).catch(async () => (await caches.match(event.request)) ?? Response.error()),
  );
});
