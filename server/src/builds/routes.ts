import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { finishBuild, previewFinish } from "./finish.ts";
import { buildRows } from "./rows.ts";
import { buildRow, buildSheet } from "./service.ts";
import { cancelBuild, changeBuild, newBuild, queueBuild } from "./steps.ts";

export function buildRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.builds, async (ctx, { query }) => ({
    builds: await buildRows(ctx, query.stage ? { stage: query.stage } : {}),
  }));
  serveAsk(app, store, routes.build, (ctx, { params }) => buildSheet(ctx, params.id));
  serveAsk(app, store, routes.previewFinish, (ctx, { params, body }) => previewFinish(ctx, params.id, body));
  serveCommand(app, store, routes.newBuild, async (ctx, { body }) =>
    buildRow(ctx, await newBuild(ctx, body)),
  );
  serveCommand(app, store, routes.changeBuild, async (ctx, { params, body }) => {
    await changeBuild(ctx, params.id, body);
    return buildRow(ctx, params.id);
  });
  serveCommand(app, store, routes.queueBuild, async (ctx, { params }) => {
    await queueBuild(ctx, params.id);
    return buildRow(ctx, params.id);
  });
  serveCommand(app, store, routes.cancelBuild, async (ctx, { params }) => {
    await cancelBuild(ctx, params.id);
    return buildRow(ctx, params.id);
  });
  serveCommand(app, store, routes.finishBuild, async (ctx, { params, body }) => {
    await finishBuild(ctx, params.id, body);
    return buildRow(ctx, params.id);
  });
}
