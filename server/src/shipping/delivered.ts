import { PLAIN_SHIPMENT, type ReceiptInput } from "@yosegi/contract";
import { type PickedComponent, quantityOf } from "@yosegi/core";
import { receiveDirect } from "../buying/index.ts";
import { asJson, type Writing } from "../db/index.ts";
import { movementsOf } from "../ledger/index.ts";
import { recordShipment } from "./ship.ts";

/**
 * Records that a supplier delivered straight to the customer: a receipt, and a shipment of the same at the same value, in one transaction,
 * so that it is never free stock. Gives the shipment's id.
 */
export async function confirmDelivery(ctx: Writing, purchase: number, body: ReceiptInput): Promise<number> {
  const { order, id: receipt, posting } = await receiveDirect(ctx, purchase, body);
  const came = posting === null ? [] : await movementsOf(ctx, posting);
  const lineOf = new Map(
    (
      await ctx.sql.all<{ purchase_line: number; line: number }>(
        "SELECT purchase_line, line_id AS line FROM direct_line WHERE purchase_line IN (SELECT value FROM json_each($lines))",
        { lines: asJson(came.map((movement) => movement.source?.line ?? 0)) },
      )
    ).map((row) => [row.purchase_line, row.line]),
  );
  const delivered = new Map<number, PickedComponent["taken"]>();
  for (const { item, lot, serial, quantity, value, to, source } of came) {
    const line = lineOf.get(source?.line ?? 0);
    if (line === undefined || to === null) continue;
    delivered.set(line, [...(delivered.get(line) ?? []), { item, lot, serial, quantity, from: to, value }]);
  }
  const lines = [...delivered].map(([line, taken]) => ({
    line,
    quantity: quantityOf(taken),
    pieces: [],
    only: [],
  }));
  // It is with the customer already, whatever is said of their credit.
  const shipped = { ...PLAIN_SHIPMENT, day: body.day, note: body.note, goOn: true, lines };
  return recordShipment(ctx, order, { ...shipped, finishes: [], weight: null }, { delivered }, receipt);
}
