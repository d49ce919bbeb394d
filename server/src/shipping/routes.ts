import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { refuseStale, type Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { SALES_ORDER } from "../orders/index.ts";
import { previewShipment } from "./preview.ts";
import { shipOrder, undoShipment } from "./ship.ts";
import { findShipments, orderShipments, shipmentSheet } from "./shipments.ts";

export function shippingRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.previewShipment, (ctx, { params, body }) =>
    previewShipment(ctx, params.id, body),
  );
  serveCommand(app, store, routes.shipOrder, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, SALES_ORDER, id, version);
    return shipmentSheet(ctx, await shipOrder(ctx, id, body));
  });
  serveAsk(app, store, routes.orderShipments, (ctx, { params }) => orderShipments(ctx, params.id));
  serveAsk(app, store, routes.shipments, (ctx, { query }) => findShipments(ctx, query));
  serveAsk(app, store, routes.shipment, (ctx, { params }) => shipmentSheet(ctx, params.id));
  serveCommand(app, store, routes.undoShipment, async (ctx, { params: { id } }) => {
    await undoShipment(ctx, id);
    return shipmentSheet(ctx, id);
  });
}
