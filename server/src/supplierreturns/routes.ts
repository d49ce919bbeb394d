import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { newSupplierReturn, replaceSupplierReturn, undoSupplierReturn } from "./service.ts";
import { findSupplierReturns, supplierReturnSheet } from "./sheet.ts";

export function supplierReturnRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.supplierReturns, (ctx, { query }) => findSupplierReturns(ctx, query));
  serveAsk(app, store, routes.supplierReturn, (ctx, { params }) => supplierReturnSheet(ctx, params.id));
  serveCommand(app, store, routes.newSupplierReturn, async (ctx, { body }) =>
    supplierReturnSheet(ctx, await newSupplierReturn(ctx, body)),
  );
  serveCommand(app, store, routes.replaceSupplierReturn, async (ctx, { params: { id } }) => {
    await replaceSupplierReturn(ctx, id);
    return supplierReturnSheet(ctx, id);
  });
  serveCommand(app, store, routes.undoSupplierReturn, async (ctx, { params: { id } }) => {
    await undoSupplierReturn(ctx, id);
    return supplierReturnSheet(ctx, id);
  });
}
