import { codeKey, type ItemKind, type ItemState, type KnownItem, type Tracking } from "@yosegi/core";
import { asJson, type Reading, rateOrNull } from "../db/index.ts";
import { packsFrom } from "./briefs.ts";

export type Known = Map<string, KnownItem & { id: number }>;

interface Row {
  id: number;
  key: string;
  code: string;
  kind: ItemKind;
  tracking: Tracking;
  unit: string;
  barcode: string;
  state: ItemState;
  not_stock_tracked: number;
  cost: number | null;
  cost_per: number;
  packs: string;
  moved: number;
  /** A movement that was not undone. */
  lasting: number;
  built: number;
  ordered: number;
  sold: number;
  listed: number;
  part: number;
  set: number;
}

/** Items with these codes and barcodes, and all that their lists lead to: enough to check a form against. */
export async function knownItems(
  ctx: Reading,
  codes: Iterable<string>,
  barcodes: Iterable<string> = [],
): Promise<Known> {
  return load(
    ctx,
    `WITH RECURSIVE wanted (id) AS (
       SELECT i.id FROM json_each($codes) c JOIN item i ON i.code_key = c.value
        UNION SELECT i.id FROM json_each($barcodes) c JOIN item i ON i.barcode = c.value AND c.value <> ''
        UNION SELECT l.item_id FROM wanted w ${LISTS} JOIN list_part l ON l.revision_id = r.id)`,
    "wanted",
    { codes: asJson([...codes].map(codeKey)), barcodes: asJson(barcodes) },
  );
}

/** The whole catalog, for files. */
export async function allKnownItems(ctx: Reading): Promise<Known> {
  return load(ctx, "", "item", {});
}

/** The revisions `r` of the items `w` that may still be used. */
const LISTS = "JOIN revision_head r ON r.product_id = w.id AND r.state <> 'retired'";

async function load(
  ctx: Reading,
  ctes: string,
  from: "wanted" | "item",
  bind: Record<string, string>,
): Promise<Known> {
  const rows = await ctx.sql.all<Row>(
    `${ctes} SELECT i.id, i.code_key AS key, i.code, i.kind, i.tracking, i.unit, i.barcode, i.state, i.not_stock_tracked,
            c.standard_cost AS cost, c.cost_per, i.packs, ${USES}
       FROM ${from} w JOIN item_head i ON i.id = w.id JOIN item_cost c ON c.item_id = i.id`,
    bind,
  );
  const parts = await ctx.sql.all<{ product: number; part: string }>(
    `${ctes} SELECT DISTINCT w.id AS product, i.code_key AS part
       FROM ${from} w ${LISTS} JOIN list_part l ON l.revision_id = r.id JOIN item i ON i.id = l.item_id`,
    bind,
  );
  const partsOf = new Map<number, string[]>();
  for (const { product, part } of parts) {
    const known = partsOf.get(product);
    if (known) known.push(part);
    else partsOf.set(product, [part]);
  }
  return new Map(
    rows.map((row) => [
      row.key,
      {
        id: row.id,
        code: row.code,
        kind: row.kind,
        tracking: row.tracking,
        unit: row.unit,
        barcode: row.barcode,
        state: row.state,
        notStockTracked: row.not_stock_tracked === 1,
        cost: rateOrNull(row.cost, row.cost_per),
        packs: packsFrom(row.packs),
        hasStock: row.lasting === 1,
        inUse: useWords(row),
        parts: row.listed === 1 ? (partsOf.get(row.id) ?? []) : null,
      },
    ]),
  );
}

/** Columns that say what an item is used for, for an item `i`. */
export const USES = `
  EXISTS (SELECT 1 FROM item_use WHERE item_id = i.id AND use = 'movement') AS moved,
  EXISTS (SELECT 1 FROM item_use WHERE item_id = i.id AND use = 'lasting movement') AS lasting,
  EXISTS (SELECT 1 FROM item_use WHERE item_id = i.id AND use = 'build') AS built,
  EXISTS (SELECT 1 FROM item_use WHERE item_id = i.id AND use = 'purchase') AS ordered,
  EXISTS (SELECT 1 FROM item_use WHERE item_id = i.id AND use = 'order') AS sold,
  EXISTS (SELECT 1 FROM item_use WHERE item_id = i.id AND use = 'list') AS listed,
  EXISTS (SELECT 1 FROM item_use WHERE item_id = i.id AND use = 'part') AS part,
  EXISTS (SELECT 1 FROM item_use WHERE item_id = i.id AND use IN ('kit', 'content')) AS "set"`;

/** What keeps an item's kind, unit and tracking as they are, in words; null where nothing does. */
export function useWords(
  row: Pick<Row, "moved" | "built" | "ordered" | "sold" | "listed" | "part" | "set">,
): string | null {
  if (row.moved) return "stock movements";
  if (row.built) return "builds";
  if (row.ordered) return "purchase orders";
  if (row.sold) return "customers’ orders";
  if (row.listed) return "a parts list";
  if (row.part) return "a place on parts lists";
  return row.set ? "a place in kits" : null;
}
