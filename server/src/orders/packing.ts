import { Refusal } from "@yosegi/contract";
import {
  byTurn,
  type Decimal,
  min,
  type PickableStock,
  quantityFromScaled,
  returnToStock,
  type Source,
  ZERO,
} from "@yosegi/core";
import { asJson, groupBy, type Reading, type Writing } from "../db/index.ts";
import { homeOf } from "../items/index.ts";
import { loadBooks, record, sourcesBy } from "../ledger/index.ts";
import { type OrderTableRow, orderById } from "./rows.ts";

// What is packed for an order lies in a bin of its own, which has the order's number (docs/rules.md § 13).

/** So much of a component that was fetched for its order, in whole millionths. */
export interface PackedNow {
  line: number;
  item: number;
  quantity: number;
}

/** Writes down what was fetched for orders. */
export async function bookPacked(ctx: Writing, packed: readonly PackedNow[]): Promise<void> {
  await ctx.sql.run(
    `UPDATE order_component SET packed = packed + (r.value ->> 'quantity')
       FROM json_each($rows) r WHERE line_id = r.value ->> 'line' AND item_id = r.value ->> 'item'`,
    { rows: asJson(packed) },
  );
}

type Packed = Pick<OrderTableRow, "id" | "number">;

/** Puts back into their bins what is packed for an order beyond what is still open of it. */
export async function putBackPacked(ctx: Writing, { id, number }: Packed): Promise<void> {
  const items = await itemsInBin(ctx, number);
  if (items.length === 0) return;
  await ctx.sql.run(
    `UPDATE order_component SET packed = open
      WHERE packed > open AND line_id IN (SELECT id FROM sales_line WHERE order_id = $id)`,
    { id },
  );
  const rows = await ctx.sql.all<{ item: number; packed: number }>(
    `SELECT t.item_id AS item, SUM(t.packed) AS packed FROM sales_line l JOIN order_component t ON t.line_id = l.id
      WHERE l.order_id = $id GROUP BY 1`,
    { id },
  );
  const stays = new Map(rows.map((row) => [row.item, quantityFromScaled(row.packed)]));
  const { packed } = await loadBooks(ctx, items);
  const excess = [
    ...groupBy(
      packed.filter((balance) => balance.bin === number),
      (balance) => balance.item,
    ),
  ].flatMap(([item, own]) => beyond(own, stays.get(item) ?? ZERO));
  const movements = returnToStock(excess, await sourcesOf(ctx, number), await homeOf(ctx, items), () => ({
    document: "order",
    id,
    line: 0,
  }));
  if (movements.length === 0) return;
  await record(ctx, {
    kind: "return to stock",
    document: number,
    day: ctx.today,
    reason: "",
    lots: [],
    movements,
  });
}

/** Puts all that is packed for an order back into its bins. */
export async function unpackOrder(ctx: Writing, id: number): Promise<void> {
  const order = await orderById(ctx, id);
  if ((await itemsInBin(ctx, order.number)).length === 0)
    throw new Refusal("nothing-packed", { number: order.number });
  await ctx.sql.run(
    "UPDATE order_component SET packed = 0 WHERE line_id IN (SELECT id FROM sales_line WHERE order_id = $id)",
    { id },
  );
  await putBackPacked(ctx, order);
}

async function itemsInBin(ctx: Reading, bin: string): Promise<number[]> {
  const rows = await ctx.sql.all<{ item: number }>(
    `SELECT DISTINCT b.item_id AS item FROM location_head p JOIN stock_balance b ON b.location_id = p.id AND b.bin = $bin
      WHERE p.kind = 'packed' AND b.quantity > 0`,
    { bin },
  );
  return rows.map((row) => row.item);
}

/** What goes back of the stock of one item where so much of it stays: the pieces whose turn comes last. */
function beyond(own: readonly PickableStock[], stays: Decimal): PickableStock[] {
  let left = stays;
  return [...own].sort(byTurn).flatMap((balance) => {
    const kept = min(left, balance.quantity);
    left = left.minus(kept);
    const quantity = balance.quantity.minus(kept);
    return quantity.gt(0) ? [{ ...balance, quantity }] : [];
  });
}

/** From where what is packed for an order was fetched, the latest first. */
const sourcesOf = (ctx: Reading, bin: string): Promise<Source[]> =>
  sourcesBy(
    ctx,
    `stock_movement m JOIN location_head p ON p.id = m.to_location AND p.kind = 'packed'
      WHERE m.to_bin = $bin AND m.purpose = 'packed'`,
    { bin },
  );
