// The page without a connection: its own files as they were last read, and what the program last answered. Nothing is kept that is written;
// what a person records waits in the outbox of the page. A file whose name tells its content never changes; everything else is asked for first
// and taken from here only where nobody answers.
const kept = "slowroot-1";
const most = 300; // answers kept

self.addEventListener("install", (event) => event.waitUntil(self.skipWaiting()));

self.addEventListener("activate", (event) =>
  event.waitUntil(
    (async () => {
      for (const name of await caches.keys()) if (name !== kept) await caches.delete(name);
      await self.clients.claim();
    })(),
  ),
);

// the page says what it was built from before this worker was there
self.addEventListener("message", (event) => {
  const files = event.data?.keep;
  if (!Array.isArray(files)) return;
  event.waitUntil(
    (async () => {
      const cache = await caches.open(kept);
      await Promise.allSettled(["/", ...files].map(async (f) => (await cache.match(f)) || cache.add(f)));
      event.source?.postMessage({ kept: true });
    })(),
  );
});

async function put(request, answer) {
  const cache = await caches.open(kept);
  await cache.put(request, answer);
  const all = await cache.keys();
  const answers = all.filter((r) => new URL(r.url).pathname.startsWith("/api/"));
  for (const old of answers.slice(0, Math.max(0, answers.length - most))) await cache.delete(old);
}

// the answer is given at once, and kept while it is read
async function first(event, shell) {
  const { request } = event;
  try {
    const answer = await fetch(request);
    if (answer.ok) event.waitUntil(put(shell ?? request, answer.clone()));
    return answer;
  } catch (error) {
    const cache = await caches.open(kept);
    const last = await cache.match(shell ?? request, { ignoreVary: true });
    if (!last) throw error;
    const headers = new Headers(last.headers);
    headers.set("X-Kept", "1"); // so that the page says that it is not what is there now
    return new Response(await last.blob(), { status: last.status, headers });
  }
}

async function fixed(request) {
  const cache = await caches.open(kept);
  const have = await cache.match(request, { ignoreVary: true });
  if (have) return have;
  const answer = await fetch(request);
  if (answer.ok) await cache.put(request, answer.clone());
  return answer;
}

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== location.origin) return;
  if (request.mode === "navigate") event.respondWith(first(event, "/"));
  else if (url.pathname.startsWith("/assets/")) event.respondWith(fixed(request));
  else if (url.pathname.startsWith("/api/v1/") && !request.headers.get("Accept")?.includes("event-stream") && !/\.(pdf|csv|xlsx|dxf|gpx|zip|db)$/.test(url.pathname))
    event.respondWith(first(event));
});
