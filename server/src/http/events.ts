import { type ChangeEvent, changeEvent } from "@yosegi/contract";
import type { FastifyInstance, FastifyReply } from "fastify";
import type { Store } from "../db/index.ts";

/** A line that says nothing goes out so often, so that a connection that is gone is noticed by both. */
const BEAT_MS = 15_000;

/** A browser whose connection broke tries again after so long. */
const RETRY_MS = 1_000;

/**
 * Serves `/api/events`: server-sent events, one for each change, with the areas that it changed. The first says how many
 * there were, so that a page that was away knows whether it missed some.
 */
export function serveEvents(app: FastifyInstance, store: Store): void {
  const streams = new Set<FastifyReply>();
  // A server that starts anew does not count on where the one before it ended.
  let count = Date.now();
  const send = (reply: FastifyReply, event: ChangeEvent) =>
    reply.raw.write(`data: ${JSON.stringify(changeEvent.parse(event))}\n\n`);
  const stop = store.changes.listen(({ areas, key }) => {
    count++;
    for (const reply of streams) send(reply, { count, areas: [...areas], key });
  });
  const beat = setInterval(() => {
    for (const reply of streams) reply.raw.write(":\n\n");
  }, BEAT_MS);
  beat.unref();
  app.get("/api/events", { schema: { hide: true } }, (request, reply) => {
    reply.hijack();
    reply.raw.writeHead(200, {
      "content-type": "text/event-stream",
      "cache-control": "no-store",
      "x-content-type-options": "nosniff",
    });
    reply.raw.write(`retry: ${RETRY_MS}\n\n`);
    streams.add(reply);
    send(reply, { count, areas: [], key: "" });
    request.raw.on("close", () => streams.delete(reply));
  });
  // Open streams would keep the server from closing.
  app.addHook("preClose", async () => {
    stop();
    clearInterval(beat);
    for (const reply of streams) reply.raw.end();
  });
}
