import { codeKey, type ItemKind, type ItemState, type KnownItem, type Tracking } from "@yosegi/core";
import { asJson, type Reading, rateOrNull } from "../db/index.ts";
import { PACKS, packsFrom } from "./briefs.ts";

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
        UNION SELECT l.item_id FROM wanted w ${LISTS} JOIN revision_line l ON l.revision_id = r.id
        UNION SELECT s.item_id FROM wanted w ${LISTS} JOIN line_substitute s ON s.revision_id = r.id)`,
    "wanted",
    { codes: asJson([...codes].map(codeKey)), barcodes: asJson(barcodes) },
  );
}

/** The whole catalog, for files. */
export async function allKnownItems(ctx: Reading): Promise<Known> {
  return load(ctx, "", "item", {});
}

/** The revisions `r` of the items `w` that may still be used. */
const LISTS =
  "JOIN parts_list p ON p.product_id = w.id JOIN revision r ON r.list_id = p.id AND r.state <> 'retired'";

async function load(
  ctx: Reading,
  ctes: string,
  from: "wanted" | "item",
  bind: Record<string, string>,
): Promise<Known> {
  const rows = await ctx.sql.all<Row>(
    `${ctes} SELECT i.id, i.code_key AS key, i.code, i.kind, i.tracking, i.unit, i.barcode, i.state, i.not_stock_tracked,
            i.standard_cost AS cost, i.cost_per, ${PACKS} AS packs, ${USES} FROM ${from} w JOIN item i ON i.id = w.id`,
    bind,
  );
  const parts = await ctx.sql.all<{ product: number; part: string }>(
    `${ctes} SELECT w.id AS product, i.code_key AS part
       FROM ${from} w ${LISTS} JOIN revision_line l ON l.revision_id = r.id JOIN item i ON i.id = l.item_id
      UNION SELECT w.id, i.code_key
       FROM ${from} w ${LISTS} JOIN line_substitute s ON s.revision_id = r.id JOIN item i ON i.id = s.item_id`,
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
        notCounted: row.not_stock_tracked === 1,
        cost: rateOrNull(row.cost, row.cost_per),
        packs: packsFrom(row.packs),
        hasStock: row.moved === 1,
        inUse: useWords(row),
        parts: row.listed === 1 ? (partsOf.get(row.id) ?? []) : null,
      },
    ]),
  );
}

/** Columns that say what an item is used for, for an item `i`. */
export const USES = `
  EXISTS (SELECT 1 FROM movement WHERE item_id = i.id) AS moved,
  EXISTS (SELECT 1 FROM build WHERE product_id = i.id) OR EXISTS (SELECT 1 FROM build_line WHERE item_id = i.id) AS built,
  EXISTS (SELECT 1 FROM purchase_line WHERE item_id = i.id) AS ordered,
  EXISTS (SELECT 1 FROM sales_line WHERE item_id = i.id) OR EXISTS (SELECT 1 FROM order_component WHERE item_id = i.id) AS sold,
  EXISTS (SELECT 1 FROM parts_list WHERE product_id = i.id) AS listed,
  EXISTS (SELECT 1 FROM revision_line WHERE item_id = i.id) OR EXISTS (SELECT 1 FROM line_substitute WHERE item_id = i.id) AS part,
  EXISTS (SELECT 1 FROM kit WHERE item_id = i.id) OR EXISTS (SELECT 1 FROM kit_content WHERE item_id = i.id)
    OR EXISTS (SELECT 1 FROM kit_swap WHERE item_id = i.id) AS "set"`;

/** What keeps an item's kind, unit and tracking as they are, in words; null where nothing does. */
export function useWords(
  row: Pick<Row, "moved" | "built" | "ordered" | "sold" | "listed" | "part" | "set">,
): string | null {
  if (row.moved) return "movements on the books";
  if (row.built) return "builds";
  if (row.ordered) return "purchase orders";
  if (row.sold) return "customers’ orders";
  if (row.listed) return "a parts list";
  if (row.part) return "a place on parts lists";
  return row.set ? "a place in kits" : null;
}
