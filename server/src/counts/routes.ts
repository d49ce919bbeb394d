import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { countNext } from "./next.ts";
import { countPaper } from "./paper.ts";
import { addFound, cancelCount, enterCounts, listCounts, newCount, postCount } from "./service.ts";
import { countSheet } from "./sheet.ts";

/** So many bins are suggested at once. */
const SUGGESTED = 20;

export function countsRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.counts, (ctx, { query }) => listCounts(ctx, query));
  serveAsk(app, store, routes.countNext, async (ctx) => ({ bins: await countNext(ctx, SUGGESTED) }));
  serveCommand(app, store, routes.newCount, async (ctx, { body }) =>
    countSheet(ctx, await newCount(ctx, body)),
  );
  serveAsk(app, store, routes.countSheet, (ctx, { params }) => countSheet(ctx, params.id));
  serveBytes(app, store, routes.countPaper, (ctx, { params }) => countPaper(ctx, params.id));
  serveCommand(app, store, routes.enterCounts, async (ctx, { params: { id }, body }) => {
    await enterCounts(ctx, id, body);
    return countSheet(ctx, id);
  });
  serveCommand(app, store, routes.addFound, async (ctx, { params: { id }, body }) => {
    await addFound(ctx, id, body);
    return countSheet(ctx, id);
  });
  serveCommand(app, store, routes.postCount, async (ctx, { params: { id }, body }) => {
    await postCount(ctx, id, body);
    return countSheet(ctx, id);
  });
  serveCommand(app, store, routes.cancelCount, async (ctx, { params: { id } }) => {
    await cancelCount(ctx, id);
    return countSheet(ctx, id);
  });
}
