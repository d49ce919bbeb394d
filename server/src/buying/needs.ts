import { type NeedInput, type PurchaseRow, Refusal } from "@yosegi/contract";
import {
  AmountTooLarge,
  arrivesBy,
  checkDecimals,
  type Day,
  LARGEST_STORED,
  type Problem,
  quantityToScaled,
  reporter,
} from "@yosegi/core";
import { asJson, groupBy, type Reading, type Writing } from "../db/index.ts";
import { loadUnits, unitNamed } from "../items/index.ts";
import { refuseTooMuch } from "../ledger/index.ts";
import { refuseProblems } from "../problems.ts";
import { insertPurchase, priceOf, type StoredPrice, termsOf } from "./ordering.ts";
import { purchaseRows } from "./purchases.ts";
import { PURCHASE_LINE, PURCHASE_NEED } from "./tables.ts";

/** What is needed of an item from a supplier. */
interface Need {
  item: number;
  supplier: number;
  quantity: number;
  price: StoredPrice;
  /** The price was typed, so that it joins only a line of the same one. */
  priced: boolean;
  expected: Day | null;
  costTag: string;
  for: NeedInput["for"];
}

/** A line of a draft, as it is to be; without an id it is new. */
interface DraftLine extends StoredPrice {
  id: number | null;
  purchase_id: number;
  position: number;
  item_id: number;
  quantity: number;
  expected: Day | null;
  cost_tag: string;
}

/**
 * Puts what is needed onto drafts: one for each supplier, the open draft or a new one. What stands on it of the same item
 * grows, and each need stays linked. Gives the drafts.
 */
export async function buyNeeds(ctx: Writing, wanted: readonly NeedInput[]): Promise<PurchaseRow[]> {
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
  return purchaseRows(
    ctx,
    [...drafts.values()].sort((a, b) => b - a),
  );
}

export async function checkNeeds(ctx: Reading, wanted: readonly NeedInput[]): Promise<Need[]> {
  const terms = await termsOf(ctx, wanted);
  const units = await loadUnits(ctx);
  const problems: Problem[] = [];
  const needs = wanted.map((line, i): Need => {
    const item = terms[i];
    if (!item) throw Refusal.at(`lines.${i}.item`, "not-found", { what: "item", id: line.item });
    if (item.supplier === null || item.kind === "kit")
      throw Refusal.at(`lines.${i}.supplier`, "supplier-none", { code: item.code });
    if (item.archived) throw Refusal.at(`lines.${i}.supplier`, "firm-archived", { name: item.supplierName });
    checkDecimals("quantity", line.quantity, unitNamed(units, item.unit), reporter(i, problems));
    return {
      item: line.item,
      supplier: item.supplier,
      quantity: quantityToScaled(line.quantity),
      price: priceOf(item, line, units, i),
      priced: line.price !== null,
      expected: line.expected ?? arrivesBy(ctx.today, { leadDays: item.lead }),
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
      WHERE stage = 'draft' AND order_id IS NULL AND supplier_id IN (SELECT value FROM json_each($suppliers)) GROUP BY supplier_id`,
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
    `SELECT id, purchase_id, position, item_id, quantity, price, price_per, price_unit, expected, cost_tag
       FROM purchase_line WHERE purchase_id IN (SELECT value FROM json_each($drafts)) ORDER BY purchase_id, position`,
    { drafts: asJson(drafts) },
  );
  return groupBy(rows, (row) => row.purchase_id);
}

/** Adds a need to the line of a draft that it fits, else to a new one at its end. Gives that line. */
function join(lines: Map<number, DraftLine[]>, draft: number, need: Need): DraftLine {
  const own = lines.get(draft) ?? [];
  const { item, costTag, price } = need;
  const line = own.find(
    (l) =>
      l.item_id === item &&
      l.cost_tag === costTag &&
      (!need.priced || (l.price === price.price && l.price_per === price.price_per)),
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
  const added = {
    id: null,
    purchase_id: draft,
    position,
    item_id: item,
    quantity,
    expected,
    cost_tag: costTag,
    ...price,
  };
  lines.set(draft, [...own, added]);
  return added;
}

const earlier = (a: Day | null, b: Day | null): Day | null =>
  a === null || b === null ? (a ?? b) : a < b ? a : b;

async function writeDraftLines(ctx: Writing, changed: ReadonlyMap<DraftLine, Need["for"]>): Promise<void> {
  const lines = [...changed.keys()];
  const grown = lines.flatMap(({ id, quantity, expected }) =>
    id === null ? [] : [{ id, quantity, expected }],
  );
  await ctx.sql.update(PURCHASE_LINE, ["id"], grown);
  const added = lines.filter((line) => line.id === null);
  const ids = await ctx.sql.insert(
    PURCHASE_LINE,
    added.map(({ id: _, ...line }) => ({ ...line, pack: "", note: "", received: 0, open: 0, closed: 0 })),
  );
  const idOf = (line: DraftLine) => line.id ?? ids[added.indexOf(line)] ?? 0;
  await ctx.sql.insert(
    PURCHASE_NEED,
    [...changed].flatMap(([line, needed]) =>
      needed
        .filter((need) => need.build !== null || need.product !== null)
        .map((need) => ({
          line_id: idOf(line),
          build_id: need.build,
          product_id: need.product,
          order_line: need.orderLine,
          quantity: quantityToScaled(need.quantity),
        })),
    ),
  );
}

/** Links what stands on drafts for nobody to what it is for now, the oldest draft first; no more than stands there is linked. */
export async function linkDraftLines(
  ctx: Writing,
  needs: readonly (NeedInput["for"][number] & { item: number })[],
): Promise<void> {
  const rows = await ctx.sql.all<{ line: number; item: number; free: number }>(
    `SELECT l.id AS line, l.item_id AS item,
            l.quantity - COALESCE((SELECT SUM(n.quantity) FROM purchase_need n WHERE n.line_id = l.id), 0) AS free
       FROM purchase_line l JOIN purchase p ON p.id = l.purchase_id
      WHERE p.stage = 'draft' AND p.order_id IS NULL AND l.item_id IN (SELECT value FROM json_each($items)) ORDER BY l.id`,
    { items: asJson(new Set(needs.map((need) => need.item))) },
  );
  const links = needs.flatMap(({ item, build, product, orderLine, quantity }) => {
    let open = quantityToScaled(quantity);
    return rows
      .filter((row) => row.item === item)
      .flatMap((row) => {
        const own = Math.min(open, Math.max(0, row.free));
        row.free -= own;
        open -= own;
        const link = {
          line_id: row.line,
          build_id: build,
          product_id: product,
          order_line: orderLine,
          quantity: own,
        };
        return own === 0 ? [] : link;
      });
  });
  await ctx.sql.insert(PURCHASE_NEED, links);
}
