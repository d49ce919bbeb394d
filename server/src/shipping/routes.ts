import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { refuseStale, type Store } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { SALES_ORDER } from "../orders/index.ts";
import { outboxMessage } from "../outbox/index.ts";
import { confirmDelivery } from "./delivered.ts";
import { orderPaper, sendOrder, sendShipment, shipmentPaper } from "./papers.ts";
import { previewShipment } from "./preview.ts";
import { readyToShip } from "./ready.ts";
import { shipOrder, undoShipment } from "./ship.ts";
import { findShipments, orderShipments, shipmentSheet } from "./shipments.ts";

export function shippingRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.readyToShip, (ctx) => readyToShip(ctx));
  serveAsk(app, store, routes.previewShipment, (ctx, { params, body }) =>
    previewShipment(ctx, params.id, body),
  );
  serveCommand(app, store, routes.shipOrder, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, SALES_ORDER, id, version);
    return shipmentSheet(ctx, await shipOrder(ctx, id, body));
  });
  serveCommand(app, store, routes.confirmDelivery, async (ctx, { params, body }) =>
    shipmentSheet(ctx, await confirmDelivery(ctx, params.id, body)),
  );
  serveAsk(app, store, routes.orderShipments, (ctx, { params }) => orderShipments(ctx, params.id));
  serveBytes(app, store, routes.orderPaper, (ctx, { params }) => orderPaper(ctx, params.id));
  serveCommand(app, store, routes.sendOrder, async (ctx, { params }) =>
    outboxMessage(ctx, await sendOrder(ctx, params.id)),
  );
  serveBytes(app, store, routes.shipmentPaper, (ctx, { params, query }) =>
    shipmentPaper(ctx, params.id, query.kind),
  );
  serveCommand(app, store, routes.sendShipment, async (ctx, { params, body }) =>
    outboxMessage(ctx, await sendShipment(ctx, params.id, body.papers)),
  );
  serveAsk(app, store, routes.shipments, (ctx, { query }) => findShipments(ctx, query));
  serveAsk(app, store, routes.shipment, (ctx, { params }) => shipmentSheet(ctx, params.id));
  serveCommand(app, store, routes.undoShipment, async (ctx, { params: { id }, body }) => {
    await undoShipment(ctx, id, body.finishes);
    return shipmentSheet(ctx, id);
  });
}
