import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { fillIn, listFields, newField, removeField, renameField } from "./service.ts";

export function customFieldRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.customFields, async (ctx) => ({ fields: await listFields(ctx) }));
  serveCommand(app, store, routes.newCustomField, (ctx, { body }) => newField(ctx, body));
  serveCommand(app, store, routes.changeCustomField, (ctx, { params, body }) =>
    renameField(ctx, params.id, body.name),
  );
  serveCommand(app, store, routes.removeCustomField, async (ctx, { params }) => {
    await removeField(ctx, params.id);
    return {};
  });
  serveCommand(app, store, routes.fillIn, async (ctx, { body }) => {
    await fillIn(ctx, body);
    return {};
  });
}
