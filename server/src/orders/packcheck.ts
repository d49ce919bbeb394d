import { type AnswerOf, type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import { type Day, quantityFromScaled } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { orderById } from "./rows.ts";
import { PACK_CHECK } from "./tables.ts";

type Packed = AnswerOf<typeof routes.packedOrder>;

interface Row {
  item: number;
  barcode: string;
  lot: string;
  serial: string;
  expiry: Day | null;
  quantity: number;
}

/** What is packed for an order, and who checked it; a check is over once something was packed or taken out after it. */
export async function packedOrder(ctx: Reading, id: number): Promise<Packed> {
  const order = await orderById(ctx, id);
  const rows = await ctx.sql.all<Row>(
    `SELECT b.item_id AS item, i.barcode, b.lot, b.serial, l.expiry, b.quantity
       FROM location_head p JOIN stock_balance b ON b.location_id = p.id AND b.bin = $bin AND b.quantity > 0
       JOIN item_head i ON i.id = b.item_id LEFT JOIN lot_head l ON b.lot <> '' AND l.item_id = b.item_id AND l.code = b.lot
      WHERE p.kind = 'packed' ORDER BY i.code_key, b.lot, b.serial`,
    { bin: order.number },
  );
  const brief = await briefs(
    ctx,
    rows.map((row) => row.item),
  );
  return {
    id,
    number: order.number,
    packed: rows.map((row) => ({
      ...row,
      item: brief(row.item),
      quantity: quantityFromScaled(row.quantity).toFixed(),
    })),
    checked: await checkOf(ctx, id, order.number),
  };
}

async function checkOf(ctx: Reading, order: number, number: string): Promise<Packed["checked"]> {
  const row = await ctx.sql.one<{ person: string; moment: string; posting: number }>(
    `SELECT n.name AS person, c.moment, c.posting_id AS posting FROM pack_check c JOIN person_name n ON n.id = c.person_id
      WHERE c.order_id = $order`,
    { order },
  );
  if (!row || row.posting !== (await lastPosting(ctx, number))) return null;
  return { person: row.person, moment: row.moment };
}

/** The last posting that moved something into an order's own bin or out of it. */
async function lastPosting(ctx: Reading, number: string): Promise<number> {
  const row = await ctx.sql.one<{ posting: number | null }>(
    `SELECT MAX(m.posting_id) AS posting FROM location_head p
       JOIN stock_movement m ON (m.to_location = p.id AND m.to_bin = $number) OR (m.from_location = p.id AND m.from_bin = $number)
      WHERE p.kind = 'packed'`,
    { number },
  );
  return row?.posting ?? 0;
}

/** Writes down that a person checked what is packed; refused where it is not just what was scanned. */
export async function checkPacked(
  ctx: Writing,
  id: number,
  { pieces }: ParsedBody<typeof routes.checkPacked>,
): Promise<void> {
  const { number, packed } = await packedOrder(ctx, id);
  if (packed.length === 0) throw new Refusal("nothing-packed", { number });
  const keyOf = (item: number, lot: string, serial: string) => JSON.stringify([item, lot, serial]);
  const scanned = new Map(pieces.map((one) => [keyOf(one.item, one.lot, one.serial), one.quantity]));
  for (const { item, lot, serial, quantity } of packed) {
    const found = scanned.get(keyOf(item.id, lot, serial));
    if (!found?.eq(quantity))
      throw new Refusal("packed-differs", {
        code: [item.code, serial || lot].filter(Boolean).join(" "),
        packed: quantity,
        found: found?.toFixed() ?? "0",
      });
  }
  if (scanned.size > packed.length) throw new Refusal("packed-more", { number });
  await ctx.sql.upsert(
    PACK_CHECK,
    ["order_id"],
    [
      {
        order_id: id,
        person_id: ctx.person.id,
        moment: ctx.moment,
        posting_id: await lastPosting(ctx, number),
      },
    ],
  );
}
