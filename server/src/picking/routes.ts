import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { checkPacked, packedOrder, unpackOrder } from "../orders/index.ts";
import { fetchPick, undoFetch } from "./fetch.ts";
import { pickPaper } from "./paper.ts";
import { endRound, handOverRound, leaveShort, listPicks, startRound } from "./rounds.ts";
import { roundSheet } from "./sheet.ts";
import { substituteInRound, undoSubstituteInRound } from "./substitutes.ts";

export function pickingRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.picks, (ctx, { query }) => listPicks(ctx, query));
  serveCommand(app, store, routes.startRound, async (ctx, { body }) =>
    roundSheet(ctx, await startRound(ctx, body)),
  );
  serveAsk(app, store, routes.pickRound, (ctx, { params }) => roundSheet(ctx, params.id));
  serveBytes(app, store, routes.pickPaper, (ctx, { params }) => pickPaper(ctx, params.id));
  serveCommand(app, store, routes.fetchPick, async (ctx, { params: { id }, body }) => {
    await fetchPick(ctx, id, body);
    return roundSheet(ctx, id);
  });
  serveCommand(app, store, routes.leaveShort, async (ctx, { params: { id }, body }) => {
    await leaveShort(ctx, id, body);
    return roundSheet(ctx, id);
  });
  serveCommand(app, store, routes.takeSubstitute, async (ctx, { params: { id }, body }) => {
    await substituteInRound(ctx, id, body);
    return roundSheet(ctx, id);
  });
  serveCommand(app, store, routes.undoSubstitute, async (ctx, { params: { id }, body }) => {
    await undoSubstituteInRound(ctx, id, body);
    return roundSheet(ctx, id);
  });
  serveCommand(app, store, routes.undoFetch, async (ctx, { params: { id }, body }) => {
    await undoFetch(ctx, id, body.posting);
    return roundSheet(ctx, id);
  });
  serveCommand(app, store, routes.handOverRound, async (ctx, { params: { id }, body }) => {
    await handOverRound(ctx, id, body.person);
    return roundSheet(ctx, id);
  });
  serveCommand(app, store, routes.endRound, async (ctx, { params: { id } }) => {
    await endRound(ctx, id);
    return roundSheet(ctx, id);
  });
  serveAsk(app, store, routes.packedOrder, (ctx, { params }) => packedOrder(ctx, params.id));
  serveCommand(app, store, routes.checkPacked, async (ctx, { params: { id }, body }) => {
    await checkPacked(ctx, id, body);
    return packedOrder(ctx, id);
  });
  serveCommand(app, store, routes.unpackOrder, async (ctx, { params }) => {
    await unpackOrder(ctx, params.id);
    return {};
  });
}
