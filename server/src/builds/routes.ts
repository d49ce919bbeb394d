import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { linkableOrders, linkOrder, unlinkOrder } from "../allocations/index.ts";
import { refuseStale, type Store, type Writing } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { handOut, putBackBuild } from "./bench.ts";
import { changeParts, followList } from "./changingparts.ts";
import { finishBuild } from "./finish.ts";
import { previewFinish } from "./finishpreview.ts";
import { handOuts } from "./handouts.ts";
import { handOutSlip } from "./handoutslip.ts";
import { usedSerials } from "./numbers.ts";
import { buildPaper } from "./paper.ts";
import { nextNumbers, recordBuild } from "./recording.ts";
import { buildById, buildSummary, findBuilds } from "./rows.ts";
import { buildSheet } from "./service.ts";
import { copyBuild, joinBuilds, splitBuild } from "./splitting.ts";
import { cancelBuild, changeBuild, newBuild, queueBuild, unqueueBuild } from "./steps.ts";
import { BUILD } from "./tables.ts";
import { undoHandOut } from "./undohandout.ts";
import { undoFinish } from "./undoing.ts";

export function buildRoutes(app: FastifyInstance, store: Store): void {
  const changed = async (ctx: Writing, id: number, work: Promise<void>) => {
    await work;
    return buildSummary(ctx, id);
  };
  const made = async (ctx: Writing, work: Promise<number>) => buildSummary(ctx, await work);
  serveAsk(app, store, routes.builds, (ctx, { query }) => findBuilds(ctx, query));
  serveAsk(app, store, routes.build, (ctx, { params }) => buildSheet(ctx, params.id));
  serveAsk(app, store, routes.previewFinish, (ctx, { params, body }) => previewFinish(ctx, params.id, body));
  serveAsk(app, store, routes.usedSerials, async (ctx, { params }) => ({
    serials: await usedSerials(ctx, (await buildById(ctx, params.id)).product_id),
  }));
  serveBytes(app, store, routes.buildPaper, (ctx, { query }) => buildPaper(ctx, query.ids));
  serveAsk(app, store, routes.linkableOrders, async (ctx, { params }) => ({
    lines: await linkableOrders(ctx, params.id),
  }));
  serveCommand(app, store, routes.linkOrder, (ctx, { params: { id }, body }) =>
    changed(ctx, id, linkOrder(ctx, id, body)),
  );
  serveCommand(app, store, routes.unlinkOrder, (ctx, { params: { id }, body }) =>
    changed(ctx, id, unlinkOrder(ctx, id, body.line)),
  );
  serveCommand(app, store, routes.newBuild, (ctx, { body }) => made(ctx, newBuild(ctx, body)));
  serveCommand(app, store, routes.copyBuild, (ctx, { params, body }) =>
    made(ctx, copyBuild(ctx, params.id, body)),
  );
  serveCommand(app, store, routes.splitBuild, (ctx, { params, body }) =>
    made(ctx, splitBuild(ctx, params.id, body.quantity)),
  );
  serveCommand(app, store, routes.joinBuilds, (ctx, { params: { id }, body }) =>
    changed(ctx, id, joinBuilds(ctx, id, body.other)),
  );
  serveCommand(app, store, routes.changeBuild, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, BUILD, id, version);
    return changed(ctx, id, changeBuild(ctx, id, body));
  });
  serveCommand(app, store, routes.changeParts, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, BUILD, id, version);
    return changed(ctx, id, changeParts(ctx, id, body.parts));
  });
  serveCommand(app, store, routes.followList, (ctx, { params: { id } }) =>
    changed(ctx, id, followList(ctx, id)),
  );
  serveCommand(app, store, routes.recordBuild, (ctx, { body }) => made(ctx, recordBuild(ctx, body)));
  serveAsk(app, store, routes.nextNumbers, (ctx, { query }) => nextNumbers(ctx, query.product));
  serveCommand(app, store, routes.queueBuild, (ctx, { params: { id } }) =>
    changed(ctx, id, queueBuild(ctx, id)),
  );
  serveCommand(app, store, routes.unqueueBuild, (ctx, { params: { id } }) =>
    changed(ctx, id, unqueueBuild(ctx, id)),
  );
  serveCommand(app, store, routes.handOut, (ctx, { params: { id }, body }) =>
    changed(ctx, id, handOut(ctx, id, body)),
  );
  serveAsk(app, store, routes.handOuts, async (ctx, { params }) => ({
    handOuts: await handOuts(ctx, params.id),
  }));
  serveBytes(app, store, routes.handOutSlip, (ctx, { params, query }) =>
    handOutSlip(ctx, params.id, params.n, query.format),
  );
  serveCommand(app, store, routes.undoHandOut, (ctx, { params: { id, n } }) =>
    changed(ctx, id, undoHandOut(ctx, id, n)),
  );
  serveCommand(app, store, routes.returnToStock, (ctx, { params: { id }, body }) =>
    changed(ctx, id, putBackBuild(ctx, id, body.day)),
  );
  serveCommand(app, store, routes.cancelBuild, (ctx, { params: { id } }) =>
    changed(ctx, id, cancelBuild(ctx, id)),
  );
  serveCommand(app, store, routes.finishBuild, (ctx, { params: { id }, body }) =>
    changed(ctx, id, finishBuild(ctx, id, body)),
  );
  serveCommand(app, store, routes.undoFinish, (ctx, { params: { id }, body }) =>
    changed(ctx, id, undoFinish(ctx, id, body.all)),
  );
}
