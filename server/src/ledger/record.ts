import { Refusal } from "@yosegi/contract";
import {
  type Day,
  type Movement,
  moneyToWhole,
  post,
  quantityToWhole,
  type StockState,
  type ValuedMovement,
} from "@yosegi/core";
import { asJson, type Writing } from "../db/index.ts";
import { loadBooks } from "./books.ts";

/** Movements recorded together, and what they are recorded for. */
export interface Posting {
  kind: "opening" | "receipt" | "finish";
  document: string;
  build: number | null;
  /** The day it happened; the moment it was keyed is the command's own. */
  day: Day;
  reason: string;
  movements: readonly Movement[];
  /** Lots that come in with this posting, and when they expire. */
  lots: readonly { item: number; lot: string; expiry: Day | null }[];
}

/**
 * The only function that writes stock. Keeps the ledger, the balances and the pools together in the command's
 * transaction; refuses the whole posting where it would take a balance below zero. Gives its id and the movements with
 * their values.
 */
export async function record(
  ctx: Writing,
  posting: Posting,
): Promise<{ id: number; movements: ValuedMovement[] }> {
  const { stock } = await loadBooks(
    ctx,
    posting.movements.map((m) => m.item),
  );
  const posted = post(stock, posting.movements);
  if (!posted.ok) {
    const item = await ctx.models.item.findByPk(posted.shortages[0]?.item ?? 0, {
      transaction: ctx.transaction,
    });
    throw new Refusal("below-zero", { code: item?.get({ plain: true }).code ?? "" });
  }
  const { kind, document, build, day, reason } = posting;
  await ctx.sql.run(
    `INSERT INTO posting (kind, document, build_id, person_id, day, moment, reason)
     VALUES ($kind, $document, $build, $person, $day, $moment, $reason)`,
    { kind, document, build, person: ctx.person.id, day, moment: ctx.moment, reason },
  );
  const row = await ctx.sql.one<{ id: number }>("SELECT last_insert_rowid() AS id");
  if (!row) throw new Error("The posting was not written");
  await writeArrivals(ctx, posting, posted.movements);
  await writeMovements(ctx, row.id, posted.movements);
  await writeBooks(ctx, stock, posted.stock);
  return { id: row.id, movements: posted.movements };
}

async function writeArrivals(
  ctx: Writing,
  posting: Posting,
  movements: readonly ValuedMovement[],
): Promise<void> {
  if (posting.lots.length > 0)
    await ctx.sql.run(
      `INSERT INTO lot (item_id, code, expiry, received)
       SELECT value ->> 0, value ->> 1, value ->> 2, $day FROM json_each($rows) WHERE true ON CONFLICT DO NOTHING`,
      { day: posting.day, rows: asJson(posting.lots.map((l) => [l.item, l.lot, l.expiry])) },
    );
  const serials = movements.filter((m) => m.from === null && m.serial !== "");
  if (serials.length > 0)
    await ctx.sql.run(
      `INSERT INTO serial (item_id, code, received)
       SELECT value ->> 0, value ->> 1, $day FROM json_each($rows) WHERE true ON CONFLICT DO NOTHING`,
      { day: posting.day, rows: asJson(serials.map((m) => [m.item, m.serial])) },
    );
}

async function writeMovements(
  ctx: Writing,
  posting: number,
  movements: readonly ValuedMovement[],
): Promise<void> {
  const rows = movements.map((m) => [
    m.item,
    quantityToWhole(m.quantity),
    m.from?.place ?? null,
    m.from?.bin ?? "",
    m.to?.place ?? null,
    m.to?.bin ?? "",
    m.lot,
    m.serial,
    moneyToWhole(m.value),
  ]);
  await ctx.sql.run(
    `INSERT INTO movement (posting_id, item_id, quantity, from_place, from_bin, to_place, to_bin, lot, serial, value)
     SELECT $posting, value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, value ->> 6,
            value ->> 7, value ->> 8
       FROM json_each($rows) ORDER BY key`,
    { posting, rows: asJson(rows) },
  );
}

/** Writes the balances and pools that a posting changed. */
async function writeBooks(ctx: Writing, before: StockState, after: StockState): Promise<void> {
  const balances = [...after.balances].filter(([key, balance]) => before.balances.get(key) !== balance);
  await ctx.sql.run(
    `INSERT INTO balance (item_id, lot, serial, place_id, bin, quantity)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5 FROM json_each($rows) WHERE true
         ON CONFLICT DO UPDATE SET quantity = excluded.quantity`,
    {
      rows: asJson(
        balances.map(([, b]) => [b.item, b.lot, b.serial, b.place, b.bin, quantityToWhole(b.quantity)]),
      ),
    },
  );
  const pools = [...after.pools].filter(([key, pool]) => before.pools.get(key) !== pool);
  await ctx.sql.run(
    `INSERT INTO pool (item_id, lot, serial, quantity, value)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4 FROM json_each($rows) WHERE true
         ON CONFLICT DO UPDATE SET quantity = excluded.quantity, value = excluded.value`,
    {
      rows: asJson(
        pools.map(([, p]) => [p.item, p.lot, p.serial, quantityToWhole(p.quantity), moneyToWhole(p.value)]),
      ),
    },
  );
}
