import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store, Writing } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { removeStanding, writeStanding } from "./recurring.ts";
import { removeKeepRule, repeats, setKeepRule } from "./targets.ts";

export function repeatRoutes(app: FastifyInstance, store: Store): void {
  const changed = async (ctx: Writing, work: Promise<void>) => {
    await work;
    return repeats(ctx);
  };
  serveAsk(app, store, routes.repeats, (ctx) => repeats(ctx));
  serveCommand(app, store, routes.setKeepRule, (ctx, { params, body }) =>
    changed(ctx, setKeepRule(ctx, params.id, body)),
  );
  serveCommand(app, store, routes.removeKeepRule, (ctx, { params }) =>
    changed(ctx, removeKeepRule(ctx, params.id)),
  );
  serveCommand(app, store, routes.newStanding, (ctx, { body }) =>
    changed(ctx, writeStanding(ctx, null, body)),
  );
  serveCommand(app, store, routes.changeStanding, (ctx, { params, body }) =>
    changed(ctx, writeStanding(ctx, params.id, body)),
  );
  serveCommand(app, store, routes.removeStanding, (ctx, { params }) =>
    changed(ctx, removeStanding(ctx, params.id)),
  );
}
