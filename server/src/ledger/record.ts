import { Refusal } from "@yosegi/contract";
import {
  codeKey,
  type Day,
  type Movement,
  mirrored,
  moneyFromWhole,
  moneyToWhole,
  type PoolKey,
  post,
  quantityFromWhole,
  quantityToWhole,
  type StockState,
  type ValuedMovement,
} from "@yosegi/core";
import { asJson, type Reading, together, type Writing } from "../db/index.ts";
import { loadBooks, NO_BUILD } from "./books.ts";

export type PostingKind = "opening" | "receipt" | "hand out" | "put back" | "finish" | "split";

/** Movements recorded together, and what they are recorded for. */
export interface Posting {
  kind: PostingKind;
  document: string;
  build: number | null;
  /** The day it happened; the moment it was keyed is the command's own. */
  day: Day;
  reason: string;
  movements: readonly Movement[];
  /** Lots that come in with this posting, and when they expire. */
  lots: readonly { item: number; lot: string; expiry: Day | null }[];
  /** The posting that this one takes back. */
  undoes?: number;
  /** What the books hold of all items that it moves, where the use case has read it already in its transaction. */
  books?: StockState;
  /** What the use case keeps beside the movements; it is sent together with them. */
  beside?: (posting: number) => Promise<void>;
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
  const stock =
    posting.books ??
    (
      await loadBooks(
        ctx,
        posting.movements.map((m) => m.item),
      )
    ).stock;
  const posted = post(stock, posting.movements);
  if (!posted.ok) throw await refused(ctx, posting, [...posted.shortages, ...posted.unbalanced]);
  const { kind, document, build, day, reason, undoes = null } = posting;
  const id = await ctx.sql.insert(
    `INSERT INTO posting (kind, document, build_id, person_id, day, moment, reason, undoes)
     VALUES ($kind, $document, $build, $person, $day, $moment, $reason, $undoes)`,
    { kind, document, build, person: ctx.person.id, day, moment: ctx.moment, reason, undoes },
  );
  // They are sent together and run in this order, each waiting for the one before.
  await together(
    writeArrivals(ctx, posting, posted.movements),
    writeMovements(ctx, id, posted.movements),
    writeBooks(ctx, stock, posted.stock),
    posting.beside?.(id) ?? null,
  );
  return { id, movements: posted.movements };
}

/** Why a posting may not be: what would go below zero, and, where it takes another back, what moved since. */
async function refused(ctx: Writing, posting: Posting, keys: readonly PoolKey[]): Promise<Refusal> {
  const [key] = keys;
  const item = await ctx.models.item.findByPk(key?.item ?? 0, { transaction: ctx.transaction });
  const code = item?.get({ plain: true }).code ?? "";
  if (posting.undoes === undefined) return new Refusal("below-zero", { code });
  const since = await ctx.sql.all<{ document: string }>(
    `SELECT DISTINCT o.document FROM json_each($keys) k
       JOIN movement m ON m.item_id = k.value ->> 0 AND m.lot = k.value ->> 1 AND m.serial = k.value ->> 2
       JOIN posting o ON o.id = m.posting_id WHERE o.id > $undoes ORDER BY o.id LIMIT 8`,
    { keys: asJson(keys.map((k) => [k.item, k.lot, k.serial])), undoes: posting.undoes },
  );
  return new Refusal("undo-blocked", { code, documents: since.map((row) => row.document).join(", ") });
}

/** What was recorded, to be taken back: the movements as they were valued. */
export async function movementsOf(ctx: Reading, posting: number): Promise<ValuedMovement[]> {
  const rows = await ctx.sql.all<{
    item: number;
    quantity: number;
    from_place: number | null;
    from_bin: string;
    to_place: number | null;
    to_bin: string;
    from_build: number | null;
    to_build: number | null;
    lot: string;
    serial: string;
    value: number;
  }>(
    `SELECT item_id AS item, quantity, from_place, from_bin, to_place, to_bin, from_build, to_build, lot, serial, value
       FROM movement WHERE posting_id = $posting ORDER BY id`,
    { posting },
  );
  const spot = (place: number | null, bin: string, build: number | null) =>
    place === null ? null : { place, bin, ...(build !== null && { build }) };
  return rows.map((row) => ({
    item: row.item,
    lot: row.lot,
    serial: row.serial,
    quantity: quantityFromWhole(row.quantity),
    from: spot(row.from_place, row.from_bin, row.from_build),
    to: spot(row.to_place, row.to_bin, row.to_build),
    value: moneyFromWhole(row.value),
  }));
}

/** Takes a posting back by mirrored movements; lots and serials that only it brought may come in anew. */
export async function undo(ctx: Writing, posting: Omit<Posting, "movements" | "lots"> & { undoes: number }) {
  const movements = await movementsOf(ctx, posting.undoes);
  const recorded = await record(ctx, { ...posting, movements: mirrored(movements), lots: [] });
  const arrived = movements.filter((m) => m.from === null);
  const keys = asJson(arrived.map((m) => [m.item, m.lot, m.serial]));
  await ctx.sql.run(
    `DELETE FROM serial WHERE EXISTS (SELECT 1 FROM json_each($keys) k
       WHERE k.value ->> 0 = item_id AND k.value ->> 2 = code AND code <> '')`,
    { keys },
  );
  await ctx.sql.run(
    `DELETE FROM lot WHERE EXISTS (SELECT 1 FROM json_each($keys) k WHERE k.value ->> 0 = item_id AND k.value ->> 1 = code)
        AND NOT EXISTS (SELECT 1 FROM movement m WHERE m.item_id = lot.item_id AND m.lot = lot.code
                           AND m.posting_id NOT IN ($undoes, $posting))`,
    { keys, undoes: posting.undoes, posting: recorded.id },
  );
  return recorded;
}

async function writeArrivals(
  ctx: Writing,
  posting: Posting,
  movements: readonly ValuedMovement[],
): Promise<void> {
  if (posting.lots.length > 0)
    await ctx.sql.run(
      `INSERT INTO lot (item_id, code, code_key, expiry, received)
       SELECT value ->> 'item', value ->> 'lot', value ->> 'key', value ->> 'expiry', $day
         FROM json_each($rows) WHERE true ON CONFLICT DO NOTHING`,
      { day: posting.day, rows: asJson(posting.lots.map((l) => ({ ...l, key: codeKey(l.lot) }))) },
    );
  const serials = movements.filter((m) => m.from === null && m.serial !== "");
  if (serials.length > 0)
    await ctx.sql.run(
      `INSERT INTO serial (item_id, code, code_key, received)
       SELECT value ->> 'item', value ->> 'serial', value ->> 'key', $day
         FROM json_each($rows) WHERE true ON CONFLICT DO NOTHING`,
      {
        day: posting.day,
        rows: asJson(serials.map(({ item, serial }) => ({ item, serial, key: codeKey(serial) }))),
      },
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
    m.from?.build ?? null,
    m.to?.build ?? null,
    m.reason ?? "",
  ]);
  await ctx.sql.run(
    `INSERT INTO movement (posting_id, item_id, quantity, from_place, from_bin, to_place, to_bin, lot, serial, value,
                           from_build, to_build, reason)
     SELECT $posting, value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, value ->> 6,
            value ->> 7, value ->> 8, value ->> 9, value ->> 10, value ->> 11
       FROM json_each($rows) ORDER BY key`,
    { posting, rows: asJson(rows) },
  );
}

/** Writes the balances and pools that a posting changed. */
async function writeBooks(ctx: Writing, before: StockState, after: StockState): Promise<void> {
  const balances = [...after.balances].filter(([key, balance]) => before.balances.get(key) !== balance);
  const written = ctx.sql.run(
    `INSERT INTO balance (item_id, lot, serial, place_id, bin, build_id, quantity)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, value ->> 6 FROM json_each($rows) WHERE true
         ON CONFLICT DO UPDATE SET quantity = excluded.quantity`,
    {
      rows: asJson(
        balances.map(([, b]) => [
          ...[b.item, b.lot, b.serial, b.place, b.bin, b.build ?? NO_BUILD],
          quantityToWhole(b.quantity),
        ]),
      ),
    },
  );
  const pools = [...after.pools].filter(([key, pool]) => before.pools.get(key) !== pool);
  const valued = ctx.sql.run(
    `INSERT INTO pool (item_id, lot, serial, build_id, quantity, value)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5 FROM json_each($rows) WHERE true
         ON CONFLICT DO UPDATE SET quantity = excluded.quantity, value = excluded.value`,
    {
      rows: asJson(
        pools.map(([, p]) => [
          ...[p.item, p.lot, p.serial, p.build ?? NO_BUILD],
          ...[quantityToWhole(p.quantity), moneyToWhole(p.value)],
        ]),
      ),
    },
  );
  await together(written, valued);
}
