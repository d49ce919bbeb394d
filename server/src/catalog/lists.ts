import {
  type ListLine,
  moneyFromWhole,
  moneyToWhole,
  type PartsList,
  quantityFromWhole,
  quantityToWhole,
  type Units,
} from "@yosegi/core";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import { loadUnits, unitNamed } from "./units.ts";

/** A line as tables keep it: quantities in millionths, waste in millionths of a percent. */
export interface LineRow {
  item: number;
  quantity: number;
  unit: string;
  waste: number;
  once: number;
  stock_unit: string;
  kind: string;
}

/** Makes a line of the core from its row, whether of a parts list or of a build. */
export function lineOf(row: LineRow, units: Units): ListLine {
  return {
    item: row.item,
    quantity: quantityFromWhole(row.quantity),
    unit: unitNamed(units, row.unit),
    stockUnit: unitNamed(units, row.stock_unit),
    waste: quantityFromWhole(row.waste),
    oncePerBuild: row.once === 1,
    service: row.kind === "service",
  };
}

/** Columns of a line to write, in the order item, quantity, unit, waste, once. */
export function lineColumns(line: ListLine): [number, number, string, number, number] {
  return [
    line.item,
    quantityToWhole(line.quantity),
    line.unit.code,
    quantityToWhole(line.waste),
    line.oncePerBuild ? 1 : 0,
  ];
}

/** The parts lists of the products named, by product. */
export async function loadLists(ctx: Reading, products: Iterable<number>): Promise<Map<number, PartsList>> {
  const ids = asJson(new Set(products));
  const heads = await ctx.sql.all<{ product: number; makes: number; usual: number; overhead: number }>(
    `SELECT p.product_id AS product, p.makes, p.usual, p.overhead
       FROM json_each($ids) ids JOIN parts_list p ON p.product_id = ids.value`,
    { ids },
  );
  const rows = await ctx.sql.all<LineRow & { product: number }>(
    `SELECT p.product_id AS product, l.item_id AS item, l.quantity, l.unit, l.waste, l.once, i.unit AS stock_unit, i.kind
       FROM json_each($ids) ids JOIN parts_list p ON p.product_id = ids.value
       JOIN parts_list_line l ON l.list_id = p.id JOIN item i ON i.id = l.item_id
      ORDER BY l.list_id, l.line`,
    { ids },
  );
  const units = await loadUnits(ctx);
  const linesOf = new Map<number, ListLine[]>(heads.map((head) => [head.product, []]));
  for (const row of rows) linesOf.get(row.product)?.push(lineOf(row, units));
  return new Map(
    heads.map((head) => [
      head.product,
      {
        makes: quantityFromWhole(head.makes),
        usual: quantityFromWhole(head.usual),
        overhead: moneyFromWhole(head.overhead),
        lines: linesOf.get(head.product) ?? [],
      },
    ]),
  );
}

/** Writes the list of a product, replacing the one that is there. Builds keep the lines they were queued with. */
export async function writeList(ctx: Writing, product: number, list: PartsList): Promise<void> {
  const head = {
    product,
    makes: quantityToWhole(list.makes),
    usual: quantityToWhole(list.usual),
    overhead: moneyToWhole(list.overhead),
  };
  await ctx.sql.run(
    `INSERT INTO parts_list (product_id, makes, usual, overhead) VALUES ($product, $makes, $usual, $overhead)
         ON CONFLICT (product_id) DO UPDATE
        SET makes = excluded.makes, usual = excluded.usual, overhead = excluded.overhead`,
    head,
  );
  await ctx.sql.run(
    "DELETE FROM parts_list_line WHERE list_id = (SELECT id FROM parts_list WHERE product_id = $product)",
    { product },
  );
  await ctx.sql.run(
    `INSERT INTO parts_list_line (list_id, line, item_id, quantity, unit, waste, once)
     SELECT p.id, r.key + 1, r.value ->> 0, r.value ->> 1, r.value ->> 2, r.value ->> 3, r.value ->> 4
       FROM parts_list p, json_each($rows) r WHERE p.product_id = $product`,
    { product, rows: asJson(list.lines.map(lineColumns)) },
  );
}
