import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { count } from "./counting.ts";
import { moveStock, scrapStock, undoStock } from "./moving.ts";
import { stockPlaces } from "./places.ts";
import { binContents, movements, receive } from "./service.ts";

export function stockRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.binContents, (ctx, { params, query }) =>
    binContents(ctx, params.id, query.bin),
  );
  serveAsk(app, store, routes.stockPlaces, (ctx, { query }) => stockPlaces(ctx, query));
  serveAsk(app, store, routes.movements, (ctx, { query }) => movements(ctx, query));
  serveCommand(app, store, routes.moveStock, async (ctx, { body }) => ({
    document: await moveStock(ctx, body),
  }));
  serveCommand(app, store, routes.scrapStock, (ctx, { body }) => scrapStock(ctx, body));
  serveCommand(app, store, routes.undoStock, async (ctx, { body }) => {
    await undoStock(ctx, body.document);
    return body;
  });
  serveCommand(app, store, routes.count, (ctx, { body }) => count(ctx, body));
  serveCommand(app, store, routes.receive, async (ctx, { body }) => ({ document: await receive(ctx, body) }));
}
