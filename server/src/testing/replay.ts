import {
  COMPANY,
  type Day,
  type Decimal,
  decimal,
  imbalance,
  moneyFromScaled,
  type Owner,
  type OwnerKind,
  ownerKey,
  type PostingEntry,
  type Purpose,
  quantityFromScaled,
  sum,
  ZERO,
} from "@yosegi/core";
import { groupBy, read } from "../db/index.ts";
import type { World } from "./open.ts";

interface Row {
  posting: number;
  kind: string;
  document: string;
  day: Day;
  item: string;
  lot: string;
  serial: string;
  quantity: number;
  value: number;
  purpose: Purpose;
  from: string | null;
  from_owner: OwnerKind;
  from_owner_id: number;
  to: string | null;
  to_owner: OwnerKind;
  to_owner_id: number;
}

const ownerOf = (kind: OwnerKind, id: number): Owner => (kind === "company" ? COMPANY : { kind, id });

/**
 * What is wrong with a ledger, found by going through it again from its first movement on, without its balances: a posting
 * that does not balance, a serial number in two places at a moment, stock below zero at the end of a day.
 */
export async function ledgerFaults(world: World): Promise<string[]> {
  const { rows, entries } = await read(world.store, async (ctx) => ({
    rows: await ctx.sql.all<Row>(
      `SELECT m.posting_id AS posting, o.kind, o.document, o.day, i.code AS item, m.lot, m.serial, m.quantity, m.value, m.purpose,
              m.from_location || '/' || m.from_bin AS "from", m.from_owner, m.from_owner_id,
              m.to_location || '/' || m.to_bin AS "to", m.to_owner, m.to_owner_id
         FROM movement m JOIN posting o ON o.id = m.posting_id JOIN item i ON i.id = m.item_id ORDER BY m.id`,
    ),
    entries: await ctx.sql.all<{ posting: number; side: string; what: string; value: number }>(
      "SELECT posting_id AS posting, side, what, value FROM posting_entry",
    ),
  }));
  return [...unbalanced(rows, entries), ...twice(rows), ...belowZero(rows)];
}

function unbalanced(
  rows: readonly Row[],
  entries: readonly { posting: number; side: string; what: string; value: number }[],
): string[] {
  const beside = groupBy(entries, (entry) => entry.posting);
  const spot = (at: string | null, owner: OwnerKind, id: number) =>
    at === null ? null : { location: 0, bin: at, owner: ownerOf(owner, id) };
  const postings = groupBy(rows, (row) => row.posting);
  return [...new Set([...postings.keys(), ...beside.keys()])].flatMap((posting) => {
    const movements = (postings.get(posting) ?? []).map((row) => ({
      purpose: row.purpose,
      value: moneyFromScaled(row.value),
      from: spot(row.from, row.from_owner, row.from_owner_id),
      to: spot(row.to, row.to_owner, row.to_owner_id),
    }));
    const own = (beside.get(posting) ?? []).map(
      (entry) => ({ ...entry, reason: "", value: moneyFromScaled(entry.value) }) as PostingEntry,
    );
    const off = imbalance(movements, own);
    return off.eq(0) ? [] : [`posting ${posting} is off by ${off.toFixed()}`];
  });
}

/** Serial numbers that arrive while they are somewhere, or leave from where they are not. */
function twice(rows: readonly Row[]): string[] {
  const at = new Map<string, string | null>();
  return rows
    .filter((row) => row.serial !== "" && row.quantity > 0)
    .flatMap((row) => {
      const key = `${row.item} ${row.serial}`;
      const fault =
        (at.get(key) ?? null) !== row.from ? [`${key} was not at ${row.from} (${row.document})`] : [];
      at.set(key, row.to);
      return fault;
    });
}

/** Spots that end a day with less than nothing, by the days on which things happened. */
function belowZero(rows: readonly Row[]): string[] {
  const changes = rows.flatMap((row) => {
    const key = (spot: string, owner: Owner) =>
      JSON.stringify([row.item, row.lot, row.serial, spot, ...ownerKey(owner)]);
    const { day } = row;
    const quantity = quantityFromScaled(row.quantity);
    const from = row.from && key(row.from, ownerOf(row.from_owner, row.from_owner_id));
    const to = row.to && key(row.to, ownerOf(row.to_owner, row.to_owner_id));
    return [
      ...(from ? [{ spot: from, day, change: ZERO.minus(quantity) }] : []),
      ...(to ? [{ spot: to, day, change: quantity }] : []),
    ];
  });
  return [...groupBy(changes, (change) => change.spot)].flatMap(([spot, own]) => {
    const days = [...groupBy(own, (change) => change.day)].sort(([a], [b]) => (a < b ? -1 : 1));
    let held: Decimal = decimal(0);
    return days.flatMap(([day, changed]) => {
      held = held.plus(sum(changed.map((change) => change.change)));
      return held.lt(0) ? [`${spot} holds ${held.toFixed()} on ${day}`] : [];
    });
  });
}
