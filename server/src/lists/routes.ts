import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { productById } from "../items/index.ts";
import { listAnswer, productLists } from "./answer.ts";
import { compare } from "./compare.ts";
import { lockRevision, removeRevision, retireRevision } from "./locking.ts";
import { changeList, newList, refuseStaleList, saveList } from "./service.ts";

export function listRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.lists, async (ctx, { params }) => {
    await productById(ctx, params.id);
    return { lists: await productLists(ctx, params.id) };
  });
  serveAsk(app, store, routes.revision, (ctx, { params }) => listAnswer(ctx, params.id));
  serveCommand(app, store, routes.saveList, async (ctx, { params, body, version }) => {
    await refuseStaleList(ctx, params.id, body, version);
    return saveList(ctx, params.id, body);
  });
  serveCommand(app, store, routes.newList, (ctx, { body }) => newList(ctx, body));
  serveCommand(app, store, routes.changeList, async (ctx, { params, body }) => ({
    lists: await changeList(ctx, params.id, body),
  }));
  serveCommand(app, store, routes.lockRevision, (ctx, { params, body }) =>
    lockRevision(ctx, params.id, body),
  );
  serveCommand(app, store, routes.retireRevision, async (ctx, { params }) => ({
    lists: await retireRevision(ctx, params.id),
  }));
  serveCommand(app, store, routes.removeRevision, async (ctx, { params }) => ({
    lists: await removeRevision(ctx, params.id),
  }));
  serveAsk(app, store, routes.compareRevisions, (ctx, { params, query }) =>
    compare(ctx, params.id, query.with),
  );
}
