import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { outboxMessage } from "../outbox/index.ts";
import { inspectReturn, undoInspection } from "./inspecting.ts";
import { returnPaper, sendReturn } from "./paper.ts";
import { previewReturn } from "./preview.ts";
import { replaceReturn } from "./replacing.ts";
import { returnable } from "./returnable.ts";
import { newReturn, undoReturn } from "./service.ts";
import { findReturns, returnSheet } from "./sheet.ts";

export function returnRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.returns, (ctx, { query }) => findReturns(ctx, query));
  serveAsk(app, store, routes.return, (ctx, { params }) => returnSheet(ctx, params.id));
  serveAsk(app, store, routes.returnable, (ctx, { params }) => returnable(ctx, params.id));
  serveAsk(app, store, routes.previewReturn, (ctx, { body }) => previewReturn(ctx, body));
  serveBytes(app, store, routes.returnPaper, (ctx, { params }) => returnPaper(ctx, params.id));
  serveCommand(app, store, routes.newReturn, async (ctx, { body }) =>
    returnSheet(ctx, await newReturn(ctx, body)),
  );
  serveCommand(app, store, routes.inspectReturn, async (ctx, { params: { id }, body }) => {
    await inspectReturn(ctx, id, body);
    return returnSheet(ctx, id);
  });
  serveCommand(app, store, routes.undoInspection, async (ctx, { params: { id, inspection } }) => {
    await undoInspection(ctx, id, inspection);
    return returnSheet(ctx, id);
  });
  serveCommand(app, store, routes.undoReturn, async (ctx, { params: { id } }) => {
    await undoReturn(ctx, id);
    return returnSheet(ctx, id);
  });
  serveCommand(app, store, routes.sendReturn, async (ctx, { params }) =>
    outboxMessage(ctx, await sendReturn(ctx, params.id)),
  );
  serveCommand(app, store, routes.replaceReturn, async (ctx, { params: { id }, body }) => {
    await replaceReturn(ctx, id, body.free);
    return returnSheet(ctx, id);
  });
}
