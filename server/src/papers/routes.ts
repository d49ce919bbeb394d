import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { refuseStale, type Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { paperStyle, setPapers } from "./settings.ts";
import { PAPER_SETTING } from "./tables.ts";

export function paperRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.paperSettings, async (ctx) => {
    const { dates, words, version } = await paperStyle(ctx);
    return { dates, words, version };
  });
  serveCommand(app, store, routes.setPapers, async (ctx, { body, version }) => {
    await refuseStale(ctx, PAPER_SETTING, 1, version);
    return setPapers(ctx, body);
  });
}
