import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { chooseNotices, noticeChoices, notices, readNotices } from "./service.ts";

export function noticeRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.notices, (ctx) => notices(ctx));
  serveCommand(app, store, routes.readNotices, async (ctx) => {
    await readNotices(ctx);
    return {};
  });
  serveAsk(app, store, routes.noticeChoices, (ctx) => noticeChoices(ctx));
  serveCommand(app, store, routes.chooseNotices, (ctx, { body }) => chooseNotices(ctx, body));
}
