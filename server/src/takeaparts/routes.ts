import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { previewTakeApart } from "./preview.ts";
import { takeApartProposal } from "./proposal.ts";
import { newTakeApart, undoTakeApart } from "./service.ts";
import { findTakeAparts, takeApartSheet } from "./sheet.ts";
import { takeApartWays } from "./ways.ts";

export function takeApartRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.takeAparts, (ctx, { query }) => findTakeAparts(ctx, query));
  serveAsk(app, store, routes.takeApartProposal, (ctx, { query }) => takeApartProposal(ctx, query));
  serveAsk(app, store, routes.takeApart, (ctx, { params }) => takeApartSheet(ctx, params.id));
  serveAsk(app, store, routes.previewTakeApart, (ctx, { body }) => previewTakeApart(ctx, body));
  serveAsk(app, store, routes.takeApartWays, (ctx, { body }) => takeApartWays(ctx, body));
  serveCommand(app, store, routes.newTakeApart, async (ctx, { body }) =>
    takeApartSheet(ctx, await newTakeApart(ctx, body)),
  );
  serveCommand(app, store, routes.undoTakeApart, async (ctx, { params: { id } }) => {
    await undoTakeApart(ctx, id);
    return takeApartSheet(ctx, id);
  });
}
