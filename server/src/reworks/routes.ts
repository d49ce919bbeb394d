import { type ReworkSheet, routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { refuseStale, type Store, type Writing } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { outboxMessage } from "../outbox/index.ts";
import { agreeRework } from "./agreement.ts";
import { finishRework, undoFinish } from "./finish.ts";
import { finishGood } from "./good.ts";
import { forgetUnit, heldUnits, registerUnit } from "./held.ts";
import { findReworks, findSteps } from "./list.ts";
import { reworkPaper, sendRework } from "./papers.ts";
import { addPart, removePart, takePart } from "./parts.ts";
import { listPlans, removePlan, savePlan } from "./plans.ts";
import { changeRework, newRework, priceRework, undoRework } from "./service.ts";
import { reworkSheet } from "./sheet.ts";
import { addStep, changeStep, orderStep, removeStep, setSteps } from "./steps.ts";
import { REWORK, REWORK_STEP } from "./tables.ts";

export function reworkRoutes(app: FastifyInstance, store: Store): void {
  /** Does something to a rework, and answers with its sheet. */
  const then = async (ctx: Writing, id: number, done: Promise<void>): Promise<ReworkSheet> => {
    await done;
    return reworkSheet(ctx, id);
  };
  serveAsk(app, store, routes.reworks, (ctx, { query }) => findReworks(ctx, query));
  serveAsk(app, store, routes.reworkSteps, (ctx, { query }) => findSteps(ctx, query));
  serveAsk(app, store, routes.reworkPlans, (ctx) => listPlans(ctx));
  serveAsk(app, store, routes.rework, (ctx, { params }) => reworkSheet(ctx, params.id));
  serveAsk(app, store, routes.heldUnits, (ctx, { params }) => heldUnits(ctx, params.id));
  serveCommand(app, store, routes.registerUnit, async (ctx, { params, body }) => {
    await registerUnit(ctx, params.id, body);
    return {};
  });
  serveCommand(app, store, routes.removeRegisteredUnit, async (ctx, { params, body }) => {
    await forgetUnit(ctx, params.id, body);
    return {};
  });
  serveBytes(app, store, routes.reworkPaper, (ctx, { params, query }) => reworkPaper(ctx, params.id, query));
  serveCommand(app, store, routes.newRework, async (ctx, { body }) =>
    reworkSheet(ctx, await newRework(ctx, body)),
  );
  serveCommand(app, store, routes.changeRework, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, REWORK, id, version);
    return then(ctx, id, changeRework(ctx, id, body));
  });
  serveCommand(app, store, routes.priceRework, (ctx, { params: { id }, body }) =>
    then(ctx, id, priceRework(ctx, id, body.price)),
  );
  serveCommand(app, store, routes.addReworkPart, (ctx, { params: { id }, body }) =>
    then(ctx, id, addPart(ctx, id, body)),
  );
  serveCommand(app, store, routes.takeReworkPart, (ctx, { params: { id, part }, body }) =>
    then(ctx, id, takePart(ctx, id, part, body)),
  );
  serveCommand(app, store, routes.removeReworkPart, (ctx, { params: { id, part } }) =>
    then(ctx, id, removePart(ctx, id, part)),
  );
  serveCommand(app, store, routes.addReworkStep, (ctx, { params: { id }, body }) =>
    then(ctx, id, addStep(ctx, id, body)),
  );
  serveCommand(app, store, routes.changeReworkStep, async (ctx, { params: { id, step }, body, version }) => {
    await refuseStale(ctx, REWORK_STEP, step, version);
    return then(ctx, id, changeStep(ctx, id, step, body));
  });
  serveCommand(app, store, routes.removeReworkStep, (ctx, { params: { id, step } }) =>
    then(ctx, id, removeStep(ctx, id, step)),
  );
  serveCommand(app, store, routes.orderReworkStep, (ctx, { params: { id, step } }) =>
    then(ctx, id, orderStep(ctx, id, step)),
  );
  serveCommand(app, store, routes.setReworkSteps, async (ctx, { body: { steps, state } }) => {
    await setSteps(ctx, steps, state);
    return {};
  });
  serveCommand(app, store, routes.agreeRework, (ctx, { params: { id }, body }) =>
    then(ctx, id, agreeRework(ctx, id, body.agreed)),
  );
  serveCommand(app, store, routes.finishRework, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, REWORK, id, version);
    return then(ctx, id, finishRework(ctx, id, body));
  });
  serveCommand(app, store, routes.finishReworkGood, (ctx, { params: { id }, body }) =>
    then(ctx, id, finishGood(ctx, id, body.day)),
  );
  serveCommand(app, store, routes.undoFinishRework, (ctx, { params: { id } }) =>
    then(ctx, id, undoFinish(ctx, id)),
  );
  serveCommand(app, store, routes.undoRework, (ctx, { params: { id } }) =>
    then(ctx, id, undoRework(ctx, id)),
  );
  serveCommand(app, store, routes.sendRework, async (ctx, { params, body }) =>
    outboxMessage(ctx, await sendRework(ctx, params.id, body)),
  );
  serveCommand(app, store, routes.saveReworkPlan, async (ctx, { body: { name, from } }) => {
    await savePlan(ctx, name, from);
    return {};
  });
  serveCommand(app, store, routes.removeReworkPlan, async (ctx, { params: { id } }) => {
    await removePlan(ctx, id);
    return {};
  });
}
