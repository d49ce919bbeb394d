import { Refusal } from "@yosegi/contract";
import {
  codeKey,
  type Day,
  imbalance,
  type Movement,
  mirrored,
  mirroredEntries,
  moneyFromScaled,
  moneyToScaled,
  type OwnerKind,
  type PoolKey,
  type Posted,
  type PostingEntry,
  type PostingKind,
  type Purpose,
  post,
  quantityFromScaled,
  quantityToScaled,
  type SourceLine,
  type Spot,
  type StockState,
  type ValuedMovement,
} from "@yosegi/core";
import { asJson, type Reading, settleAll, type Writing } from "../db/index.ts";
import { refuseTooEarly } from "./backdated.ts";
import { loadBooks } from "./books.ts";
import { ownerColumns, ownerOf, spotColumns } from "./owners.ts";
import { refuseSecondSerials } from "./serials.ts";
import { refuseOtherSpelling } from "./spelling.ts";
import { BALANCE, LOT, MOVEMENT, POOL, POSTING, POSTING_ENTRY, SERIAL } from "./tables.ts";

/** Movements recorded together, and what they are recorded for. */
export interface Posting {
  kind: PostingKind;
  /** Number of the document; the very line that caused it stands with each movement. */
  document: string;
  /** The day it happened; the moment it was keyed is the command's own. */
  day: Day;
  reason: string;
  /** A code by which money is added up over all documents. */
  costTag?: string;
  movements: readonly Movement[];
  /** Costs added and values lost, so that it balances (docs/rules.md § 9); left out where there are none. */
  entries?: readonly PostingEntry[];
  /** Lots that come in with this posting, when they expire, and what else is known of them. */
  lots: readonly {
    item: number;
    lot: string;
    expiry: Day | null;
    madeOn?: Day | null;
    makerNumber?: string;
  }[];
  /** When units by their serial numbers expire and when they were made, where it is known. */
  units?: readonly { item: number; serial: string; expiry: Day | null; madeOn: Day | null }[];
  /** The posting that this one takes back. */
  undoes?: number;
  /** What the books hold of all items that it moves, where the use case has read it already in its transaction. */
  books?: StockState;
  /** What `post` made of just these movements and books, where the use case has asked it already. */
  posted?: Posted;
  /** What the use case keeps beside the movements; it is sent together with them. */
  beside?: (posting: number) => Promise<void>;
}

/** A movement as it was recorded. */
export interface RecordedMovement extends ValuedMovement {
  id: number;
}

/**
 * The only function that writes stock. Keeps the ledger, the balances and the pools together in the command's
 * transaction; refuses the whole posting where it would take a balance below zero, on its own day or since, or bring a
 * serial number into stock that is elsewhere. Gives its id and the movements with their ids and values.
 */
export async function record(
  ctx: Writing,
  posting: Posting,
): Promise<{ id: number; movements: RecordedMovement[] }> {
  const stock =
    posting.books ??
    (
      await loadBooks(
        ctx,
        posting.movements.map((m) => m.item),
      )
    ).stock;
  const posted = posting.posted ?? post(stock, posting.movements);
  if (!posted.ok) throw await refused(ctx, posting, [...posted.shortages, ...posted.unbalanced]);
  const { kind, document, day, reason, undoes = null, entries = [], costTag = "" } = posting;
  await refuseSecondSerials(ctx, posted.movements, undoes !== null);
  if (undoes === null) await refuseOtherSpelling(ctx, posted.movements);
  await refuseTooEarly(ctx, day, posted.movements);
  const off = imbalance(posted.movements, entries);
  if (!off.eq(0)) throw new Error(`The values of ${kind} ${document} do not add up: ${off.toFixed()}`);
  const [id = 0] = await ctx.sql.insert(POSTING, [
    {
      kind,
      document,
      person_id: ctx.person.id,
      day,
      moment: ctx.moment,
      reason,
      undoes,
      cost_tag: costTag,
      device: ctx.device,
    },
  ]);
  // They are sent together and run in this order, each waiting for the one before.
  const movements = writeMovements(ctx, id, posted.movements);
  await settleAll(
    writeArrivals(ctx, posting, posted.movements),
    movements,
    writeEntries(ctx, id, entries),
    writeBooks(ctx, stock, posted.stock),
    reopenBins(ctx, posted.movements),
    posting.beside?.(id) ?? null,
  );
  return { id, movements: await movements };
}

/** Why a posting may not be: what would go below zero, and, where it takes another back, what moved since. */
async function refused(ctx: Writing, posting: Posting, keys: readonly PoolKey[]): Promise<Refusal> {
  const [key] = keys;
  const item = await ctx.sql.one<{ code: string }>("SELECT code FROM item_head WHERE id = $item", {
    item: key?.item ?? 0,
  });
  const code = item?.code ?? "";
  if (posting.undoes === undefined) return new Refusal("below-zero", { code });
  const since = await ctx.sql.all<{ document: string }>(
    `SELECT DISTINCT o.document FROM json_each($keys) k
       JOIN movement m ON m.item_id = k.value ->> 'item' AND m.lot = k.value ->> 'lot' AND m.serial = k.value ->> 'serial'
       JOIN posting o ON o.id = m.posting_id WHERE o.id > $undoes ORDER BY o.id LIMIT 8`,
    {
      keys: asJson(keys.map(({ item, lot, serial }) => ({ item, lot, serial }))),
      undoes: posting.undoes,
    },
  );
  return new Refusal("undo-blocked", { code, documents: since.map((row) => row.document).join(", ") });
}

interface MovementRow {
  item: number;
  quantity: number;
  from_location: number | null;
  from_bin: string;
  from_owner: OwnerKind;
  from_owner_id: number;
  to_location: number | null;
  to_bin: string;
  to_owner: OwnerKind;
  to_owner_id: number;
  lot: string;
  serial: string;
  value: number;
  purpose: Purpose;
  source: SourceLine["document"] | "";
  source_id: number;
  source_line: number;
}

/** What was recorded, to be undone: the movements as they were valued. */
export async function movementsOf(ctx: Reading, posting: number): Promise<ValuedMovement[]> {
  const rows = await ctx.sql.all<MovementRow>(
    `SELECT item_id AS item, quantity, from_location, from_bin, from_owner, from_owner_id, to_location, to_bin, to_owner,
            to_owner_id, lot, serial, value, purpose, source, source_id, source_line
       FROM movement WHERE posting_id = $posting ORDER BY id`,
    { posting },
  );
  const spot = (location: number | null, bin: string, owner: OwnerKind, owner_id: number): Spot | null =>
    location === null ? null : { location, bin, ...ownerOf({ owner, owner_id }) };
  return rows.map((row) => ({
    item: row.item,
    lot: row.lot,
    serial: row.serial,
    purpose: row.purpose,
    quantity: quantityFromScaled(row.quantity),
    from: spot(row.from_location, row.from_bin, row.from_owner, row.from_owner_id),
    to: spot(row.to_location, row.to_bin, row.to_owner, row.to_owner_id),
    value: moneyFromScaled(row.value),
    ...(row.source !== "" && { source: { document: row.source, id: row.source_id, line: row.source_line } }),
  }));
}

/** What stands beside a posting: costs added and values lost. */
async function entriesOf(ctx: Reading, posting: number): Promise<PostingEntry[]> {
  const rows = await ctx.sql.all<Omit<PostingEntry, "value"> & { value: number }>(
    "SELECT side, what, value, reason FROM posting_entry WHERE posting_id = $posting ORDER BY position",
    { posting },
  );
  return rows.map((row) => ({ ...row, value: moneyFromScaled(row.value) }) as PostingEntry);
}

/**
 * Takes a posting back, today, by mirrored movements and entries. Lots and serials of which nothing is left that was not undone
 * are forgotten, so that they may come in anew; what anything else moved stays known.
 */
export async function undo(
  ctx: Writing,
  posting: Pick<Posting, "kind" | "document" | "reason"> & { undoes: number },
) {
  const movements = await movementsOf(ctx, posting.undoes);
  const entries = mirroredEntries(await entriesOf(ctx, posting.undoes));
  const recorded = await record(ctx, {
    ...posting,
    day: ctx.today,
    movements: mirrored(movements),
    entries,
    lots: [],
  });
  const arrived = movements.filter((m) => m.from === null);
  const keys = asJson(arrived.map(({ item, lot, serial }) => ({ item, lot, serial })));
  for (const table of ["lot", "serial"])
    await ctx.sql.run(
      `DELETE FROM ${table} WHERE EXISTS (SELECT 1 FROM json_each($keys) k
          WHERE k.value ->> 'item' = item_id AND k.value ->> '${table}' = code AND code <> '')
          AND NOT EXISTS (SELECT 1 FROM movement m JOIN posting o ON o.id = m.posting_id
                           WHERE m.item_id = ${table}.item_id AND m.${table} = ${table}.code AND m.${table} <> ''
                             AND o.undoes IS NULL AND NOT EXISTS (SELECT 1 FROM posting u WHERE u.undoes = o.id))`,
      { keys },
    );
  return recorded;
}

async function writeArrivals(
  ctx: Writing,
  posting: Posting,
  movements: readonly ValuedMovement[],
): Promise<void> {
  const received = posting.day;
  await ctx.sql.insert(
    LOT,
    posting.lots.map(({ item, lot, expiry, madeOn = null, makerNumber = "" }) => ({
      item_id: item,
      code: lot,
      code_key: codeKey(lot),
      expiry,
      received,
      made_on: madeOn,
      maker_number: makerNumber,
    })),
    "ON CONFLICT DO NOTHING",
  );
  const known = new Map((posting.units ?? []).map((unit) => [`${unit.item} ${unit.serial}`, unit]));
  await ctx.sql.insert(
    SERIAL,
    movements
      .filter((movement) => movement.from === null && movement.serial !== "")
      .map(({ item, serial }) => {
        const unit = known.get(`${item} ${serial}`);
        return {
          item_id: item,
          code: serial,
          code_key: codeKey(serial),
          received,
          expiry: unit?.expiry ?? null,
          made_on: unit?.madeOn ?? null,
        };
      }),
    "ON CONFLICT DO NOTHING",
  );
}

/** Writes the movements of a posting; gives them with their ids. */
async function writeMovements(
  ctx: Writing,
  posting: number,
  movements: readonly ValuedMovement[],
): Promise<RecordedMovement[]> {
  const ids = await ctx.sql.insert(
    MOVEMENT,
    movements.map((movement) => {
      const [from, to] = [spotColumns(movement.from), spotColumns(movement.to)];
      return {
        posting_id: posting,
        item_id: movement.item,
        quantity: quantityToScaled(movement.quantity),
        value: moneyToScaled(movement.value),
        from_location: from.location,
        from_bin: from.bin,
        from_owner: from.owner,
        from_owner_id: from.owner_id,
        to_location: to.location,
        to_bin: to.bin,
        to_owner: to.owner,
        to_owner_id: to.owner_id,
        lot: movement.lot,
        serial: movement.serial,
        purpose: movement.purpose,
        source: movement.source?.document ?? "",
        source_id: movement.source?.id ?? 0,
        source_line: movement.source?.line ?? 0,
        reason: movement.reason ?? "",
      };
    }),
  );
  return movements.map((movement, i) => ({ ...movement, id: ids[i] ?? 0 }));
}

/** What returns to a bin that was closed meanwhile opens it again. */
async function reopenBins(ctx: Writing, movements: readonly ValuedMovement[]): Promise<void> {
  const bins = movements.flatMap(({ to }) => (to && to.bin !== "" ? [[to.location, to.bin]] : []));
  if (bins.length === 0) return;
  await ctx.sql.run(
    `UPDATE bin SET closed = 0 WHERE closed = 1
        AND EXISTS (SELECT 1 FROM json_each($bins) b WHERE b.value ->> 0 = location_id AND b.value ->> 1 = code)`,
    { bins: JSON.stringify(bins) },
  );
}

async function writeEntries(ctx: Writing, posting: number, entries: readonly PostingEntry[]): Promise<void> {
  await ctx.sql.insert(
    POSTING_ENTRY,
    entries.map(({ side, what, value, reason }, i) => ({
      posting_id: posting,
      position: i + 1,
      side,
      what,
      value: moneyToScaled(value),
      reason,
    })),
  );
}

/** Writes the balances and pools that a posting changed. */
async function writeBooks(ctx: Writing, before: StockState, after: StockState): Promise<void> {
  const balances = [...after.balances].filter(([key, balance]) => before.balances.get(key) !== balance);
  const written = ctx.sql.upsert(
    BALANCE,
    ["item_id", "lot", "serial", "location_id", "bin", "owner", "owner_id"],
    balances.map(([, { item, lot, serial, location, bin, owner, quantity }]) => ({
      item_id: item,
      lot,
      serial,
      location_id: location,
      bin,
      ...ownerColumns(owner),
      quantity: quantityToScaled(quantity),
    })),
  );
  const pools = [...after.pools].filter(([key, pool]) => before.pools.get(key) !== pool);
  const valued = ctx.sql.upsert(
    POOL,
    ["item_id", "lot", "serial", "owner", "owner_id"],
    pools.map(([, { item, lot, serial, owner, quantity, value }]) => ({
      item_id: item,
      lot,
      serial,
      ...ownerColumns(owner),
      quantity: quantityToScaled(quantity),
      value: moneyToScaled(value),
    })),
  );
  await settleAll(written, valued);
}
