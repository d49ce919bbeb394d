import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { labelPaper } from "./paper.ts";
import {
  labels,
  makeBinLabels,
  makeItemLabels,
  makeLabels,
  markPrinted,
  printedLabels,
  removeLabels,
} from "./service.ts";

export function labelRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.labels, labels);
  serveAsk(app, store, routes.printedLabels, (ctx, { query }) => printedLabels(ctx, query));
  serveCommand(app, store, routes.makeLabels, async (ctx, { params, body }) => ({
    labels: await makeLabels(ctx, params.id, body),
  }));
  serveCommand(app, store, routes.makeItemLabels, async (ctx, { params, body }) => ({
    labels: await makeItemLabels(ctx, params.id, body),
  }));
  serveCommand(app, store, routes.makeBinLabels, async (ctx, { params, body }) => ({
    labels: await makeBinLabels(ctx, params.id, body),
  }));
  serveCommand(app, store, routes.markPrinted, async (ctx, { body }) => {
    await markPrinted(ctx, body.labels);
    return {};
  });
  serveCommand(app, store, routes.removeLabels, async (ctx, { body }) => {
    await removeLabels(ctx, body.labels);
    return {};
  });
  serveBytes(app, store, routes.labelPaper, (ctx) => labelPaper(ctx));
}
