import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { messageReceivers, receiversFile } from "./receivers.ts";
import { trace } from "./trace.ts";

export function traceRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.trace, (ctx, { query: { direction, ...piece } }) =>
    trace(ctx, piece, direction),
  );
  serveBytes(app, store, routes.traceExport, (ctx, { query: { format, ...piece } }) =>
    receiversFile(ctx, piece, format),
  );
  serveCommand(app, store, routes.traceMessages, async (ctx, { body }) => ({
    messages: await messageReceivers(ctx, body),
  }));
}
