import { Refusal } from "@yosegi/contract";
import {
  type Gone,
  lastSerialMove,
  type Movement,
  mayComeIn,
  PURPOSES,
  type Purpose,
  type SerialMove,
} from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";

/** A serial number of an item. */
export interface SerialKey {
  item: number;
  serial: string;
}

interface Move extends SerialMove, SerialKey {
  document: string;
  location: string;
  bin: string;
  /** Number of the build that has it, where it is on a bench. */
  build: string;
}

const keyOf = ({ item, serial }: SerialKey): string => JSON.stringify([item, serial]);

/** Where serial numbers are, as their movements say; null where one never was in stock, or is forgotten. */
async function serialMoves(
  ctx: Reading,
  keys: readonly SerialKey[],
): Promise<(key: SerialKey) => Move | null> {
  const rows = await ctx.sql.all<Omit<Move, "arrives"> & { arrives: number }>(
    `SELECT m.item_id AS item, m.serial, m.posting_id AS posting, o.undoes, m.purpose, m.to_location IS NOT NULL AS arrives,
            o.document, COALESCE(p.name, '') AS location, m.to_bin AS bin, COALESCE(b.number, '') AS build
       FROM json_each($keys) k
       JOIN movement m ON m.item_id = k.value ->> 'item' AND m.serial = k.value ->> 'serial' AND m.serial <> '' AND m.quantity > 0
       JOIN posting o ON o.id = m.posting_id
       LEFT JOIN location p ON p.id = m.to_location LEFT JOIN build_head b ON m.to_owner = 'build' AND b.id = m.to_owner_id
      ORDER BY m.id`,
    { keys: asJson(keys.map(({ item, serial }) => ({ item, serial }))) },
  );
  const moves = groupBy(
    rows.map((row): Move => ({ ...row, arrives: row.arrives === 1 })),
    keyOf,
  );
  return (key) => lastSerialMove(moves.get(keyOf(key)) ?? []);
}

/** Where a movement left a serial number, in words such as "in Front store 04-C" or "inside a unit (B-12)". */
function whereabouts(move: Move): string {
  if (!move.arrives) return `${goneBy(move) ?? "out of stock"} (${move.document})`;
  return `in ${[move.location, move.build || move.bin].filter(Boolean).join(" ")}`;
}

const goneBy = ({ arrives, purpose }: SerialMove): Gone | null => (arrives ? null : PURPOSES[purpose].gone);

/** Where those serial numbers are that may not come in by a purpose (docs/rules.md § 8), in words; null for the others. */
export async function serialsElsewhere(
  ctx: Reading,
  keys: readonly SerialKey[],
  purpose: Purpose,
): Promise<(key: SerialKey) => string | null> {
  const moveOf = keys.length === 0 ? () => null : await serialMoves(ctx, keys);
  return (key) => {
    const last = moveOf(key);
    return last && (last.arrives || !mayComeIn(goneBy(last), purpose)) ? whereabouts(last) : null;
  };
}

/**
 * Refuses movements that bring in a serial number which is elsewhere (docs/rules.md § 8): one number is one unit. What the
 * same movements took out before, such as a count in another bin, counts. An undo brings back what was, whatever its
 * purpose, but not what has come in again since.
 */
export async function refuseSecondSerials(
  ctx: Reading,
  movements: readonly Movement[],
  undoes: boolean,
): Promise<void> {
  const arriving = movements.filter((m) => m.from === null && m.serial !== "" && m.quantity.gt(0));
  if (arriving.length === 0) return;
  const moveOf = await serialMoves(ctx, arriving);
  const states = new Map<string, typeof IN_STOCK | Gone | null>();
  for (const { item, serial } of arriving) {
    const last = moveOf({ item, serial });
    states.set(keyOf({ item, serial }), last?.arrives ? IN_STOCK : last && goneBy(last));
  }
  for (const movement of movements) {
    const { from, to, serial, purpose, quantity } = movement;
    if (serial === "" || quantity.lte(0)) continue;
    const key = keyOf(movement);
    const state = states.get(key) ?? null;
    if (from === null && (state === IN_STOCK || !(undoes || mayComeIn(state, purpose)))) {
      const last = moveOf(movement);
      throw new Refusal("serial-elsewhere", { serial, where: last ? whereabouts(last) : "named twice here" });
    }
    states.set(key, to === null ? PURPOSES[purpose].gone : IN_STOCK);
  }
}

const IN_STOCK = Symbol("in stock");
