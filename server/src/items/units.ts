import { Refusal, type UnitAnswer, type UnitInput } from "@yosegi/contract";
import {
  DIMENSIONS,
  type Dimension,
  decimal,
  decimalsOf,
  quantityFromScaled,
  type Unit,
  type Units,
} from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { UNIT } from "./tables.ts";

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
    `SELECT unit FROM item UNION SELECT unit FROM list_part UNION SELECT unit FROM build_part
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

export async function newUnit(ctx: Writing, body: UnitInput): Promise<UnitAnswer> {
  if ((await loadUnits(ctx)).has(body.code)) throw Refusal.at("code", "unit-taken", { code: body.code });
  await ctx.model(UNIT).create({ ...body, factor: body.factor.toFixed() });
  return unitAnswer(ctx, body.code);
}

/** Changes a unit. What figures are told in (dimension, factor) stays once it is used; decimals only below what is there do not. */
export async function changeUnit(
  ctx: Writing,
  code: string,
  body: Omit<UnitInput, "code">,
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
  await ctx.model(UNIT).update({ ...body, factor: body.factor.toFixed() }, { where: { code } });
  return unitAnswer(ctx, code);
}

/** Where quantities in a unit have more decimals than so many: what it is, and the quantity. */
async function finerThan(ctx: Reading, unit: string, decimals: number): Promise<string[]> {
  // A quantity is whole millionths, so it has more decimals exactly where this step does not divide it.
  const step = 10 ** (6 - decimals);
  const rows = await ctx.sql.all<{ place: string; quantity: number }>(
    "SELECT stands_in AS place, quantity FROM quantity_in_use WHERE unit = $unit AND quantity % $step <> 0",
    { unit, step },
  );
  const finest = new Map<string, string>();
  for (const { place, quantity } of rows) {
    const text = quantityFromScaled(quantity);
    if (decimalsOf(text) > decimals) finest.set(place, `${place} (${text.toFixed()} ${unit})`);
  }
  return [...finest.values()];
}

const PLACES_NAMED = 5;

function inWords(places: readonly string[]): string {
  const more = places.length - PLACES_NAMED;
  return places.slice(0, PLACES_NAMED).join(", ") + (more > 0 ? ` and ${more} more` : "");
}
