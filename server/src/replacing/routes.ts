import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { previewReplacement } from "./preview.ts";
import { replacePart } from "./service.ts";
import { replacements, undoReplacement } from "./undo.ts";

export function replacingRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.previewReplacement, (ctx, { body }) => previewReplacement(ctx, body));
  serveAsk(app, store, routes.replacements, async (ctx) => ({ replacements: await replacements(ctx) }));
  serveCommand(app, store, routes.replacePart, (ctx, { body }) => replacePart(ctx, body));
  serveCommand(app, store, routes.undoReplacement, (ctx, { params }) => undoReplacement(ctx, params.id));
}
