import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { makeBuilds, removeCheck, saveCheck, savedChecks } from "./saved.ts";
import { coverOf, expectedOf, mostByDay, mostForSum, timelineOf } from "./service.ts";
import { coverSheet } from "./sheet.ts";

export function coverRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.cover, (ctx, { body }) => coverOf(ctx, body));
  serveAsk(app, store, routes.expected, (ctx, { params, query }) => expectedOf(ctx, params.id, query));
  serveAsk(app, store, routes.partTimeline, (ctx, { body: { item, ...question } }) =>
    timelineOf(ctx, question, item),
  );
  serveAsk(app, store, routes.solveByDay, async (ctx, { body }) => ({
    quantity: await mostByDay(ctx, body.question, body.day),
  }));
  serveAsk(app, store, routes.solveBySum, async (ctx, { body }) => ({
    quantity: await mostForSum(ctx, body.question, body.sum),
  }));
  serveBytes(app, store, routes.exportCover, (ctx, { query }) =>
    coverSheet(ctx, query.question, query.format),
  );
  serveCommand(app, store, routes.makeBuilds, async (ctx, { body }) => ({
    builds: await makeBuilds(ctx, body),
  }));
  serveAsk(app, store, routes.savedChecks, async (ctx) => ({ checks: await savedChecks(ctx) }));
  serveCommand(app, store, routes.saveCheck, (ctx, { body }) => saveCheck(ctx, body));
  serveCommand(app, store, routes.removeCheck, async (ctx, { params }) => {
    await removeCheck(ctx, params.id);
    return {};
  });
}
