// Opens the page without the server (docs/decisions/0024-picking.md). The names in capitals are filled in when the page is built.

const PAGE = `yosegi-page-${__VERSION__}`;
const ANSWERS = "yosegi-answers";

/** What a picker needs to go on: who works here, the company, the stores, and the rounds. */
const KEPT = /^\/api\/(company|people|stores|units|picks)(\/\d+)?$/;
/** The header that marks an answer as one from before. */
const FROM_BEFORE = "yosegi-from-before";
/** A server that says nothing for so long is taken as away. */
const PATIENCE_MS = 4000;

self.addEventListener("install", (event) => {
  event.waitUntil(
    caches
      .open(PAGE)
      .then((cache) => cache.addAll(["/", ...__FILES__]))
      .then(() => self.skipWaiting()),
  );
});

self.addEventListener("activate", (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) =>
        Promise.all(
          names.filter((name) => name !== PAGE && name !== ANSWERS).map((name) => caches.delete(name)),
        ),
      )
      .then(() => self.clients.claim()),
  );
});

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self.location.origin) return;
  if (request.mode === "navigate") event.respondWith(fromServer(request).catch(() => kept(PAGE, "/")));
  else if (KEPT.test(url.pathname)) event.respondWith(answerOf(request));
  else if (!url.pathname.startsWith("/api/"))
    event.respondWith(caches.match(request).then((found) => found ?? fetch(request)));
});

const fromServer = (request) =>
  fetch(request.mode === "navigate" ? request.url : request, { signal: AbortSignal.timeout(PATIENCE_MS) });

/** The server's answer; while it is away the last one that it gave, marked as such. */
async function answerOf(request) {
  const cache = await caches.open(ANSWERS);
  let answer;
  try {
    answer = await fetch(request);
  } catch (error) {
    const found = await cache.match(request.url);
    if (!found) throw error;
    const headers = new Headers(found.headers);
    headers.set(FROM_BEFORE, "yes");
    return new Response(found.body, { status: found.status, headers });
  }
  if (answer.ok) await cache.put(request.url, answer.clone());
  return answer;
}

async function kept(name, url) {
  const found = await (await caches.open(name)).match(url);
  return found ?? Response.error();
}
