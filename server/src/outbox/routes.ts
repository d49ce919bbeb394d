import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { findMessages, markSent, outboxMessage } from "./outbox.ts";

export function outboxRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.outbox, (ctx, { query }) => findMessages(ctx, query));
  serveAsk(app, store, routes.outboxMessage, (ctx, { params }) => outboxMessage(ctx, params.id));
  serveCommand(app, store, routes.markSent, async (ctx, { params }) => {
    await markSent(ctx, params.id);
    return outboxMessage(ctx, params.id);
  });
}
