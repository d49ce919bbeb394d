import { addMonths, type Day, type Decimal, divideDown, quantityFromScaled } from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import type { briefs } from "../items/index.ts";

/** A unit by its serial number. */
interface UnitName {
  item: number;
  serial: string;
}

/** A reader of what was asked of several units at once. */
type OfUnit<Answer> = (unit: UnitName) => Answer;

interface InsideRow {
  item: number;
  quantity: Decimal;
  lot: string;
  serial: string;
  /** What put it in after it was built. */
  rework: { id: number; number: string } | null;
}

interface ReworkOf {
  id: number;
  number: string;
  was: number;
  became: number | null;
}

const keyOf = ({ item, serial }: UnitName): string => JSON.stringify([item, serial]);

/** The rows of each of several units, which a query numbers by their places. */
const byUnit = <Row extends { place: number }>(units: readonly UnitName[], rows: readonly Row[]) => {
  const found = groupBy(rows, ({ place }) => keyOf(units[place] ?? { item: 0, serial: "" }));
  return (unit: UnitName): readonly Row[] => found.get(keyOf(unit)) ?? [];
};

/** Reworks that units went into, or came out of, as far as they were not undone. */
export async function reworksOf(
  ctx: Reading,
  units: readonly UnitName[],
): Promise<OfUnit<readonly ReworkOf[]>> {
  const rows = await ctx.sql.all<ReworkOf & { place: number }>(
    `SELECT k.key AS place, r.id, r.number, r.item_id AS was, u.item_id AS became
       FROM json_each($units) k JOIN rework_unit_head u ON u.serial = k.value ->> 'serial' AND u.serial <> ''
       JOIN rework_head r ON r.id = u.rework_id AND r.undone_at IS NULL
      WHERE r.item_id = k.value ->> 'item' OR u.item_id = k.value ->> 'item' ORDER BY r.id`,
    { units: asJson(units) },
  );
  return byUnit(units, rows);
}

/** What a unit was before a rework made another item of it; null where none did. */
export const wasOf = ({ item }: UnitName, reworks: readonly ReworkOf[]): number | null =>
  reworks.find((own) => own.became === item && own.was !== item)?.was ?? null;

/** So much of a part for so many units. */
interface ShareRow extends Omit<InsideRow, "quantity" | "rework"> {
  place: number;
  quantity: number;
  units: number;
  decimals: number;
}

const shareOf = ({ quantity, units, decimals }: ShareRow): Decimal =>
  divideDown(quantityFromScaled(quantity), quantityFromScaled(units), decimals);

/** What went into units when they were built: their own numbered parts, and their shares of all others of that finish. */
async function builtInto(ctx: Reading, units: readonly UnitName[]): Promise<OfUnit<readonly InsideRow[]>> {
  const rows = await ctx.sql.all<ShareRow>(
    `WITH made AS (
       SELECT k.key AS place, k.value ->> 'item' AS item, k.value ->> 'serial' AS serial,
              (SELECT f.posting_id FROM stock_movement m JOIN posting_head o ON o.id = m.posting_id AND o.undoes IS NULL
                 JOIN finish_head f ON f.posting_id = o.id AND f.undone_at IS NULL
                WHERE m.item_id = k.value ->> 'item' AND m.serial = k.value ->> 'serial' AND m.purpose = 'built' ORDER BY m.id DESC LIMIT 1) AS posting_id
         FROM json_each($units) k)
     SELECT made.place, p.part_id AS item, 1000000 AS quantity, 1000000 AS units, 0 AS decimals, '' AS lot, p.part_serial AS serial
       FROM made JOIN unit_part p ON p.posting_id = made.posting_id AND p.item_id = made.item AND p.serial = made.serial
      UNION ALL
     SELECT made.place, m.item_id, SUM(m.quantity), f.good + f.rejected, i.decimals, m.lot, ''
       FROM made JOIN finish_head f ON f.posting_id = made.posting_id
       JOIN stock_movement m ON m.posting_id = made.posting_id AND m.purpose = 'used' AND m.serial = ''
       JOIN item_head i ON i.id = m.item_id GROUP BY made.place, m.item_id, m.lot, f.good + f.rejected, i.decimals`,
    { units: asJson(units) },
  );
  return byUnit(
    units,
    rows.map((row) => ({ ...row, rework: null, quantity: shareOf(row) })),
  );
}

/** What was written down as inside units. */
async function writtenInto(ctx: Reading, units: readonly UnitName[]): Promise<OfUnit<readonly InsideRow[]>> {
  const rows = await ctx.sql.all<
    Omit<InsideRow, "quantity" | "rework"> & { place: number; quantity: number }
  >(
    `SELECT k.key AS place, c.part_id AS item, c.quantity, c.part_lot AS lot, c.part_serial AS serial
       FROM json_each($units) k JOIN unit_content c ON c.item_id = k.value ->> 'item' AND c.serial = k.value ->> 'serial' ORDER BY c.id`,
    { units: asJson(units) },
  );
  return byUnit(
    units,
    rows.map((row) => ({ ...row, rework: null, quantity: quantityFromScaled(row.quantity) })),
  );
}

/**
 * What reworks put into units, also under the name of what they were before: their own parts, and their shares of those for all. A
 * share that is less than the least of a part is left out: whose that is, is not known.
 */
export async function addedTo(
  ctx: Reading,
  units: readonly UnitName[],
): Promise<OfUnit<readonly InsideRow[]>> {
  const rows = await ctx.sql.all<ShareRow & { id: number; number: string }>(
    `SELECT k.key AS place, a.id, a.number, a.part_id AS item, a.quantity, a.units, i.decimals, a.part_lot AS lot, a.part_serial AS serial
       FROM json_each($units) k JOIN rework_added a ON a.serial = k.value ->> 'serial' AND k.value ->> 'item' IN (a.item_id, a.was_id)
       JOIN item_head i ON i.id = a.part_id
      WHERE a.serial <> '' ORDER BY a.id, i.code_key`,
    { units: asJson(units) },
  );
  return byUnit(
    units,
    rows
      .map((row) => ({ ...row, rework: { id: row.id, number: row.number }, quantity: shareOf(row) }))
      .filter(({ quantity }) => quantity.gt(0)),
  );
}

/** What is inside a unit, as an answer tells it. */
export const contentsOf = (parts: readonly InsideRow[], brief: Awaited<ReturnType<typeof briefs>>) =>
  parts.map(({ item, quantity, lot, serial, rework }) => ({
    item: brief(item),
    quantity: quantity.toFixed(),
    lot,
    serial,
    rework,
  }));

/**
 * What is inside units: as they were built, also under the name of what they were before a rework, else as somebody wrote it down;
 * then what reworks put in.
 */
export async function insideOf(
  ctx: Reading,
  units: readonly UnitName[],
  reworks: OfUnit<readonly ReworkOf[]>,
): Promise<OfUnit<{ parts: readonly InsideRow[]; written: boolean }>> {
  // What a rework made another item of is what it was built as, with what is inside.
  const origin = (unit: UnitName) => ({ ...unit, item: wasOf(unit, reworks(unit)) ?? unit.item });
  const built = await builtInto(ctx, units.map(origin));
  const written = await writtenInto(ctx, units);
  const added = await addedTo(ctx, units);
  return (unit) => {
    const own = built(origin(unit));
    const first = own.length > 0 ? own : written(unit);
    return { parts: [...first, ...added(unit)], written: own.length === 0 && first.length > 0 };
  };
}

interface WarrantyRow {
  place: number;
  day: Day;
  months: number | null;
  firm: number;
  code: string;
  name: string;
  shipment: number;
  number: string;
}

/** From when and until when the warranty of units runs: from the day they were shipped, while they are with a customer; a rework of theirs changes nothing. */
export async function warrantiesOf(ctx: Reading, units: readonly UnitName[]) {
  const rows = await ctx.sql.all<WarrantyRow>(
    `SELECT k.key AS place, o.day, i.warranty_months AS months, f.id AS firm, f.code, f.name, h.id AS shipment, h.number
       FROM json_each($units) k
       JOIN serial_state s ON s.item_id = k.value ->> 'item' AND s.serial = k.value ->> 'serial' AND s.purpose = 'shipped'
       JOIN stock_movement m ON m.item_id = s.item_id AND m.serial = s.serial AND m.purpose = 'shipped'
       JOIN shipment_head h ON h.posting_id = m.posting_id JOIN posting_head o ON o.id = m.posting_id AND o.undoes IS NULL
       JOIN item_head i ON i.id = s.item_id JOIN order_head r ON r.id = h.order_id JOIN firm_head f ON f.id = r.customer_id
      WHERE NOT EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = o.id) ORDER BY m.id DESC`,
    { units: asJson(units) },
  );
  const found = byUnit(units, rows);
  return (unit: UnitName) => {
    const [row] = found(unit);
    if (!row) return null;
    return {
      from: row.day,
      until: row.months === null ? null : addMonths(row.day, row.months),
      customer: { id: row.firm, code: row.code, name: row.name },
      shipment: { id: row.shipment, number: row.number },
    };
  };
}
