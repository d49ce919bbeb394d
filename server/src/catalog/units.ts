import { DIMENSIONS, type Dimension, decimal, type Unit, type Units } from "@yosegi/core";
import type { Reading } from "../db/index.ts";

interface Row {
  code: string;
  name: string;
  dimension: string;
  factor: string;
  decimals: number;
  rec20: string;
}

/** Every unit of measure by its code. */
export async function loadUnits(ctx: Reading): Promise<Units> {
  const rows = await ctx.sql.all<Row>(
    "SELECT code, name, dimension, factor, decimals, rec20 FROM unit ORDER BY dimension, rowid",
  );
  return new Map(
    rows.map((row) => [
      row.code,
      { ...row, dimension: asDimension(row.dimension), factor: decimal(row.factor) },
    ]),
  );
}

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
