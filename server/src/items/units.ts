import { type NewUnit, Refusal, type UnitAnswer } from "@yosegi/contract";
import {
  DIMENSIONS,
  type Dimension,
  decimal,
  decimalsOf,
  quantityFromWhole,
  type Unit,
  type Units,
} from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";

interface Row {
  code: string;
  name: string;
  dimension: string;
  factor: string;
  decimals: number;
  rec20: string;
}

/** Every unit of measure by its code. */
export const loadUnits = (ctx: Reading): Promise<Units> => ctx.memoOfCatalog("units", () => readUnits(ctx));

async function readUnits(ctx: Reading): Promise<Units> {
  const rows = await ctx.sql.all<Row>(
    "SELECT code, name, dimension, factor, decimals, rec20 FROM unit ORDER BY dimension, rowid",
  );
  return unitsOf(rows);
}

/** SQL for every unit within a question for something else, as `unitsFrom` reads it: for what is asked many times a day. */
export const UNITS = `(SELECT json_group_array(json_object('code', code, 'name', name, 'dimension', dimension,
  'factor', factor, 'decimals', decimals, 'rec20', rec20)) FROM unit)`;

export const unitsFrom = (json: string): Units => unitsOf(JSON.parse(json) as Row[]);

const unitsOf = (rows: readonly Row[]): Units =>
  new Map(
    rows.map((row) => [
      row.code,
      { ...row, dimension: asDimension(row.dimension), factor: decimal(row.factor) },
    ]),
  );

/** A unit that a foreign key guarantees. */
export function unitNamed(units: Units, code: string): Unit {
  const unit = units.get(code);
  if (!unit) throw new Error(`The database names an unknown unit ${code}`);
  return unit;
}

function asDimension(text: string): Dimension {
  const found = DIMENSIONS.find((dimension) => dimension === text);
  if (!found) throw new Error(`The database has an unknown dimension ${text}`);
  return found;
}

/** Every unit, with whether anything is told in it. */
export async function listUnits(ctx: Reading): Promise<UnitAnswer[]> {
  const used = await ctx.sql.all<{ unit: string }>(
    `SELECT unit FROM item UNION SELECT unit FROM revision_line UNION SELECT unit FROM build_line
      UNION SELECT unit FROM item_group WHERE unit IS NOT NULL`,
  );
  const inUse = new Set(used.map((row) => row.unit));
  return [...(await loadUnits(ctx)).values()].map((unit) => ({
    ...unit,
    factor: unit.factor.toFixed(),
    used: inUse.has(unit.code),
  }));
}

async function unitAnswer(ctx: Reading, code: string): Promise<UnitAnswer> {
  const unit = (await listUnits(ctx)).find((u) => u.code === code);
  if (!unit) throw new Refusal("not-found", { what: "unit", id: code });
  return unit;
}

export async function newUnit(ctx: Writing, body: NewUnit): Promise<UnitAnswer> {
  if ((await loadUnits(ctx)).has(body.code)) throw Refusal.at("code", "unit-taken", { code: body.code });
  await ctx.sql.run(
    `INSERT INTO unit (code, name, dimension, factor, decimals, rec20)
     VALUES ($code, $name, $dimension, $factor, $decimals, $rec20)`,
    { ...body, factor: decimal(body.factor).toFixed() },
  );
  return unitAnswer(ctx, body.code);
}

/** Changes a unit. What figures are told in (dimension, factor) stays once it is used; decimals only below what is there do not. */
export async function changeUnit(
  ctx: Writing,
  code: string,
  body: Omit<NewUnit, "code">,
): Promise<UnitAnswer> {
  const before = await unitAnswer(ctx, code);
  for (const field of ["dimension", "factor"] as const) {
    const same = field === "factor" ? decimal(before.factor).eq(body.factor) : before[field] === body[field];
    if (!same && before.used)
      throw Refusal.at(field, "unit-in-use", { code, field, what: "items and parts lists" });
  }
  if (body.decimals < before.decimals) {
    const places = await finerThan(ctx, code, body.decimals);
    if (places.length > 0)
      throw Refusal.at("decimals", "unit-decimals", { decimals: body.decimals, places: inWords(places) });
  }
  await ctx.sql.run(
    `UPDATE unit SET name = $name, dimension = $dimension, factor = $factor, decimals = $decimals, rec20 = $rec20
      WHERE code = $code`,
    { ...body, code, factor: decimal(body.factor).toFixed() },
  );
  return unitAnswer(ctx, code);
}

/** Where quantities in a unit have more decimals than so many: what it is, and the quantity. */
async function finerThan(ctx: Reading, unit: string, decimals: number): Promise<string[]> {
  // A quantity is whole millionths, so it has more decimals exactly where this step does not divide it.
  const step = 10 ** (6 - decimals);
  const rows = await ctx.sql.all<{ place: string; quantity: number }>(
    `SELECT 'the parts list of ' || i.code AS place, l.quantity FROM revision_line l JOIN revision r ON r.id = l.revision_id
       JOIN parts_list p ON p.id = r.list_id JOIN item i ON i.id = p.product_id
      WHERE l.unit = $unit AND l.quantity % $step <> 0 AND r.state <> 'retired'
      UNION ALL SELECT 'the parts list of ' || i.code, r.makes FROM revision r JOIN parts_list p ON p.id = r.list_id
       JOIN item i ON i.id = p.product_id WHERE i.unit = $unit AND (r.makes % $step <> 0 OR r.usual % $step <> 0)
      UNION ALL SELECT 'stock of ' || i.code, b.quantity FROM balance b JOIN item i ON i.id = b.item_id
      WHERE i.unit = $unit AND b.quantity % $step <> 0
      UNION ALL SELECT 'build ' || b.number, b.quantity FROM build b JOIN item i ON i.id = b.product_id
      WHERE i.unit = $unit AND b.stage IN ('draft', 'queued', 'on the bench') AND b.quantity % $step <> 0
      UNION ALL SELECT 'build ' || b.number, l.open FROM build_line l JOIN build b ON b.id = l.build_id JOIN item i ON i.id = l.item_id
      WHERE i.unit = $unit AND l.open % $step <> 0
      UNION ALL SELECT 'purchase order ' || p.number, l.quantity FROM purchase_line l JOIN purchase p ON p.id = l.purchase_id
       JOIN item i ON i.id = l.item_id WHERE i.unit = $unit AND l.quantity % $step <> 0 AND (p.stage = 'draft' OR l.open > 0)
      UNION ALL SELECT 'order ' || o.number, l.quantity FROM sales_line l JOIN sales_order o ON o.id = l.order_id
       JOIN item i ON i.id = l.item_id WHERE i.unit = $unit AND l.quantity % $step <> 0 AND o.stage = 'open'
      UNION ALL SELECT 'the stock target of ' || i.code, CASE WHEN k.target % $step <> 0 THEN k.target ELSE k.batch END FROM stock_target k JOIN item i ON i.id = k.product_id
      WHERE i.unit = $unit AND (k.target % $step <> 0 OR k.batch % $step <> 0)
      UNION ALL SELECT 'a recurring build of ' || i.code, s.quantity FROM recurring_build s JOIN item i ON i.id = s.product_id
      WHERE i.unit = $unit AND s.quantity % $step <> 0
      UNION ALL SELECT 'what a supplier asks for ' || i.code, CASE WHEN s.minimum % $step <> 0 THEN s.minimum ELSE s.multiple END
       FROM item_supplier s JOIN item i ON i.id = s.item_id WHERE i.unit = $unit AND (s.minimum % $step <> 0 OR s.multiple % $step <> 0)
      UNION ALL SELECT 'the reorder level of ' || code, reorder_level FROM item WHERE unit = $unit AND reorder_level % $step <> 0
      UNION ALL SELECT 'a pack of ' || i.code, k.quantity FROM pack k JOIN item i ON i.id = k.item_id
      WHERE i.unit = $unit AND k.quantity % $step <> 0
      UNION ALL SELECT 'kit ' || s.code, c.quantity FROM kit_content c JOIN item i ON i.id = c.item_id JOIN item s ON s.id = c.kit_id
      WHERE i.unit = $unit AND c.quantity % $step <> 0`,
    { unit, step },
  );
  const finest = new Map<string, string>();
  for (const { place, quantity } of rows) {
    const text = quantityFromWhole(quantity);
    if (decimalsOf(text) > decimals) finest.set(place, `${place} (${text.toFixed()} ${unit})`);
  }
  return [...finest.values()];
}

const PLACES_NAMED = 5;

function inWords(places: readonly string[]): string {
  const more = places.length - PLACES_NAMED;
  return places.slice(0, PLACES_NAMED).join(", ") + (more > 0 ? ` and ${more} more` : "");
}
