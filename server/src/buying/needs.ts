import { type NeedLine, type PurchaseRow, Refusal } from "@yosegi/contract";
import {
  AmountTooLarge,
  checkDecimals,
  type Day,
  decimal,
  LARGEST_STORED,
  type Problem,
  quantityToWhole,
  reporter,
} from "@yosegi/core";
import { asJson, groupBy, type Reading, type Writing } from "../db/index.ts";
import { loadUnits, unitNamed } from "../items/index.ts";
import { refuseTooMuch } from "../ledger/index.ts";
import { refuseProblems } from "../problems.ts";
import { expectedBy, insertPurchase, type KeptPrice, priceOf, termsOf } from "./ordering.ts";
import { purchaseRows } from "./purchases.ts";

/** What is needed of an item from a supplier. */
interface Need {
  item: number;
  supplier: number;
  quantity: number;
  price: KeptPrice;
  /** The price was typed, so that it joins only a line of the same one. */
  priced: boolean;
  expected: Day | null;
  costTag: string;
  for: NeedLine["for"];
}

/** A line of a draft, as it is to be; without an id it is new. */
interface DraftLine extends KeptPrice {
  id: number | null;
  purchase: number;
  position: number;
  item: number;
  quantity: number;
  expected: Day | null;
  costTag: string;
}

/**
 * Puts what is needed onto drafts: one for each supplier, the open draft or a new one. What stands on it of the same item
 * grows, and each need stays linked. Gives the drafts.
 */
export async function buyNeeds(ctx: Writing, wanted: readonly NeedLine[]): Promise<PurchaseRow[]> {
  const needs = await checkNeeds(ctx, wanted);
  const drafts = await draftsOf(ctx, new Set(needs.map((need) => need.supplier)));
  const lines = await linesOfDrafts(ctx, drafts.values());
  const changed = new Map<DraftLine, Need["for"]>();
  for (const need of needs) {
    const line = join(lines, drafts.get(need.supplier) ?? 0, need);
    changed.set(line, [...(changed.get(line) ?? []), ...need.for]);
  }
  await writeDraftLines(ctx, changed);
  await refuseTooMuch(
    ctx,
    needs.map((need) => need.item),
  );
  return purchaseRows(ctx, { ids: [...drafts.values()] });
}

async function checkNeeds(ctx: Reading, wanted: readonly NeedLine[]): Promise<Need[]> {
  const terms = await termsOf(ctx, wanted);
  const units = await loadUnits(ctx);
  const problems: Problem[] = [];
  const needs = wanted.map((line, i): Need => {
    const item = terms[i];
    if (!item) throw Refusal.at(`lines.${i}.item`, "not-found", { what: "item", id: line.item });
    if (item.supplier === null || item.kind === "kit")
      throw Refusal.at(`lines.${i}.supplier`, "supplier-none", { code: item.code });
    if (item.archived) throw Refusal.at(`lines.${i}.supplier`, "firm-archived", { name: item.supplierName });
    checkDecimals("quantity", decimal(line.quantity), unitNamed(units, item.unit), reporter(i, problems));
    return {
      item: line.item,
      supplier: item.supplier,
      quantity: quantityToWhole(decimal(line.quantity)),
      price: priceOf(item, line, units, i),
      priced: line.price !== null,
      expected: line.expected ?? expectedBy(ctx.today, item.lead),
      costTag: line.costTag,
      for: line.for,
    };
  });
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
  return needs;
}

/** The draft of each supplier; made where there is none. */
async function draftsOf(ctx: Writing, suppliers: ReadonlySet<number>): Promise<Map<number, number>> {
  const rows = await ctx.sql.all<{ supplier: number; draft: number }>(
    `SELECT supplier_id AS supplier, MAX(id) AS draft FROM purchase
      WHERE stage = 'draft' AND supplier_id IN (SELECT value FROM json_each($suppliers)) GROUP BY supplier_id`,
    { suppliers: asJson(suppliers) },
  );
  const open = new Map(rows.map((row) => [row.supplier, row.draft]));
  const drafts = new Map<number, number>();
  for (const supplier of suppliers)
    drafts.set(supplier, open.get(supplier) ?? (await insertPurchase(ctx, supplier, "")));
  return drafts;
}

/** The lines of drafts, by draft and in their order. */
async function linesOfDrafts(ctx: Reading, drafts: Iterable<number>): Promise<Map<number, DraftLine[]>> {
  const rows = await ctx.sql.all<DraftLine>(
    `SELECT id, purchase_id AS purchase, position, item_id AS item, quantity, price, price_per AS per, price_unit AS unit,
            expected, cost_tag AS costTag
       FROM purchase_line WHERE purchase_id IN (SELECT value FROM json_each($drafts)) ORDER BY purchase_id, position`,
    { drafts: asJson(drafts) },
  );
  return groupBy(rows, (row) => row.purchase);
}

/** Adds a need to the line of a draft that it fits, else to a new one at its end. Gives that line. */
function join(lines: Map<number, DraftLine[]>, draft: number, need: Need): DraftLine {
  const own = lines.get(draft) ?? [];
  const { item, costTag, price } = need;
  const line = own.find(
    (l) =>
      l.item === item &&
      l.costTag === costTag &&
      (!need.priced || (l.price === price.price && l.per === price.per)),
  );
  if ((line?.quantity ?? 0) + need.quantity > LARGEST_STORED)
    throw new AmountTooLarge("A line of a purchase order grows too large");
  if (line) {
    line.quantity += need.quantity;
    line.expected = earlier(line.expected, need.expected);
    return line;
  }
  const { quantity, expected } = need;
  const position = (own.at(-1)?.position ?? 0) + 1;
  const added = { id: null, purchase: draft, position, item, quantity, expected, costTag, ...price };
  lines.set(draft, [...own, added]);
  return added;
}

const earlier = (a: Day | null, b: Day | null): Day | null =>
  a === null || b === null ? (a ?? b) : a < b ? a : b;

async function writeDraftLines(ctx: Writing, changed: ReadonlyMap<DraftLine, Need["for"]>): Promise<void> {
  const rows = asJson(changed.keys());
  await ctx.sql.run(
    `UPDATE purchase_line SET quantity = r.value ->> 'quantity', expected = r.value ->> 'expected'
       FROM json_each($rows) r WHERE purchase_line.id = r.value ->> 'id'`,
    { rows },
  );
  await ctx.sql.run(
    `INSERT INTO purchase_line (purchase_id, position, item_id, quantity, pack, price, price_per, price_unit, expected, cost_tag,
                                note, received, open, closed)
     SELECT value ->> 'purchase', value ->> 'position', value ->> 'item', value ->> 'quantity', '', value ->> 'price',
            value ->> 'per', value ->> 'unit', value ->> 'expected', value ->> 'costTag', '', 0, 0, 0
       FROM json_each($rows) WHERE value ->> 'id' IS NULL ORDER BY key`,
    { rows },
  );
  const needs = [...changed].flatMap(([{ purchase, position }, needed]) =>
    needed.map((f) => ({ ...f, purchase, position, quantity: quantityToWhole(decimal(f.quantity)) })),
  );
  await ctx.sql.run(
    `INSERT INTO purchase_need (line_id, build_id, product_id, quantity)
     SELECT l.id, n.value ->> 'build', n.value ->> 'product', n.value ->> 'quantity'
       FROM json_each($needs) n
       JOIN purchase_line l ON l.purchase_id = n.value ->> 'purchase' AND l.position = n.value ->> 'position'
      WHERE COALESCE(n.value ->> 'build', n.value ->> 'product') IS NOT NULL ORDER BY n.key`,
    { needs: asJson(needs) },
  );
}
