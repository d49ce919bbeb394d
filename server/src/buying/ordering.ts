import {
  type ItemBrief,
  type NeedInput,
  type PurchaseInput,
  type PurchaseStage,
  Refusal,
} from "@yosegi/contract";
import {
  arrivesBy,
  checkDecimals,
  codeKey,
  type Day,
  decimal,
  moneyToScaled,
  type Problem,
  quantityToScaled,
  reporter,
  type Units,
} from "@yosegi/core";
import { asJson, countChange, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { loadUnits, packTexts, pricedRate, unitNamed } from "../items/index.ts";
import { refuseTooMuch } from "../ledger/index.ts";
import { refuseProblems } from "../problems.ts";
import { linesOf, type PurchaseTableRow, purchaseById } from "./purchases.ts";
import { PURCHASE, PURCHASE_LINE } from "./tables.ts";

/** Refuses a step that the order's stage does not allow. */
export function refuseStage(
  { number, stage }: Pick<PurchaseTableRow, "number" | "stage">,
  allowed: readonly PurchaseStage[],
  step: string,
): void {
  if (!allowed.includes(stage)) throw new Refusal("stage-wrong", { number, stage, step });
}

export const COMING = ["sent", "part received"] as const;

/** An item as it is bought of one supplier. */
interface Terms {
  id: number;
  code: string;
  kind: string;
  unit: string;
  packs: ItemBrief["packs"];
  /** Id of the supplier; null where none is named and none preferred. */
  supplier: number | null;
  supplierName: string;
  archived: boolean;
  lead: number | null;
  /** What the supplier asks, else the item's standard cost; null where neither is known. */
  price: StoredPrice | null;
}

/** A price as a line has it in its columns: money for so much of the stock unit, and the unit or pack it was said for. */
export interface StoredPrice {
  price: number;
  price_per: number;
  price_unit: string;
}

/** Which supplier each line asks of; null: the preferred one of its item. Work may be asked of anybody. */
interface Wanted {
  item: number;
  supplier: number | null;
}

/** What is known of what is wanted, line by line. */
export async function termsOf(ctx: Reading, lines: readonly Wanted[]): Promise<(Terms | null)[]> {
  const rows = await ctx.sql.all<
    Omit<Terms, "packs" | "price" | "archived"> & {
      at: number;
      packs: string;
      archived: number;
      price: string;
    }
  >(
    `SELECT w.at, i.id, i.code, i.kind, i.unit, i.packs, f.id AS supplier, COALESCE(f.name, '') AS supplierName,
            COALESCE(f.archived, 0) AS archived, s.lead_days AS lead,
            CASE WHEN s.price IS NOT NULL THEN json_object('price', s.price, 'price_per', s.price_per, 'price_unit', s.price_unit)
                 WHEN c.standard_cost IS NOT NULL THEN json_object('price', c.standard_cost, 'price_per', c.cost_per, 'price_unit', c.cost_unit)
                 ELSE 'null' END AS price
       FROM (SELECT key AS at, value ->> 'item' AS item, value ->> 'supplier' AS supplier FROM json_each($lines)) w
       JOIN item_head i ON i.id = w.item JOIN item_cost c ON c.item_id = i.id
       LEFT JOIN supplier_terms s ON s.item_id = i.id
        AND CASE WHEN w.supplier IS NULL THEN s.preferred = 1 ELSE s.supplier_id = w.supplier END
       LEFT JOIN firm_head f ON f.kind = 'supplier' AND f.id = COALESCE(s.supplier_id, w.supplier)`,
    { lines: asJson(lines) },
  );
  const found = new Map(
    rows.map(({ at, packs, archived, price, ...row }): [number, Terms] => [
      at,
      {
        ...row,
        packs: packTexts(packs),
        archived: archived === 1,
        price: JSON.parse(price),
      },
    ]),
  );
  return lines.map((_, at) => found.get(at) ?? null);
}

/** The price of a line as it was typed, else as the supplier asks. */
export function priceOf(
  terms: Terms,
  { price, pricePer }: Pick<NeedInput, "price" | "pricePer">,
  units: Units,
  at: number,
): StoredPrice {
  if (price !== null) {
    const rate = pricedRate(`lines.${at}.pricePer`, price, pricePer, terms, units);
    return {
      price: moneyToScaled(rate.amount),
      price_per: quantityToScaled(rate.per),
      price_unit: pricePer,
    };
  }
  if (terms.price === null) throw Refusal.at(`lines.${at}.price`, "cost-needed", { code: terms.code });
  return terms.price;
}

export async function insertPurchase(ctx: Writing, supplier: number, note: string): Promise<number> {
  const row = await ctx.model(PURCHASE).create({
    number: await nextNumber(ctx, "P"),
    supplier_id: supplier,
    stage: "draft",
    note,
    created_by: ctx.person.id,
    created_at: ctx.moment,
  });
  return row.get({ plain: true }).id;
}

/** Makes a draft by hand. Gives its id. */
export async function newPurchase(
  ctx: Writing,
  { supplier, ...body }: PurchaseInput & { supplier: number },
): Promise<number> {
  await refuseFirm(ctx, "supplier", "supplier", { id: supplier });
  const id = await insertPurchase(ctx, supplier, body.note);
  await writeLines(ctx, id, supplier, body.lines);
  return id;
}

/** Changes a draft; lines that stay keep what they are for. */
export async function changePurchase(ctx: Writing, id: number, body: PurchaseInput): Promise<void> {
  const purchase = await purchaseById(ctx, id);
  refuseStage(purchase, ["draft"], "changed");
  if (purchase.order_id !== null) await refuseOtherItems(ctx, purchase, body.lines);
  await ctx.model(PURCHASE).update({ note: body.note }, { where: { id } });
  await writeLines(ctx, id, purchase.supplier_id, body.lines);
}

/** What is delivered straight to a customer is for the lines of their order: none comes in beside them. */
async function refuseOtherItems(
  ctx: Reading,
  { id, number }: PurchaseTableRow,
  lines: PurchaseInput["lines"],
): Promise<void> {
  const own = new Map((await linesOf(ctx, [id])).map((line) => [line.id, line.item_id]));
  const other = lines.findIndex((line) => line.id === null || own.get(line.id) !== line.item);
  if (other !== -1) throw Refusal.at(`lines.${other}.item`, "direct-line", { number });
}

/** Writes a draft's lines in the place of those it has; a line keeps its id, and with it its needs. */
async function writeLines(
  ctx: Writing,
  id: number,
  supplier: number,
  lines: PurchaseInput["lines"],
): Promise<void> {
  const rows = await lineRows(ctx, id, supplier, lines);
  await ctx.sql.run(
    `DELETE FROM purchase_line WHERE purchase_id = $id
        AND id NOT IN (SELECT value ->> 'id' FROM json_each($rows) WHERE value ->> 'id' IS NOT NULL)`,
    { id, rows: asJson(rows) },
  );
  await ctx.sql.insert(
    PURCHASE_LINE,
    rows.filter((row): row is typeof row & { id: number } => row.id !== null),
    `ON CONFLICT (id) DO UPDATE SET position = excluded.position, quantity = excluded.quantity, pack = excluded.pack,
       pack_quantity = excluded.pack_quantity, price = excluded.price, price_per = excluded.price_per,
       price_unit = excluded.price_unit, expected = excluded.expected, cost_tag = excluded.cost_tag, note = excluded.note`,
  );
  await ctx.sql.insert(
    PURCHASE_LINE,
    rows.filter((row) => row.id === null).map(({ id: _, ...row }) => row),
  );
  await refuseTooMuch(
    ctx,
    rows.map((row) => row.item_id),
  );
}

/** The rows of the lines that were asked for, with what the supplier asks where the person says nothing; refuses what can't be bought so. */
async function lineRows(ctx: Reading, id: number, supplier: number, lines: PurchaseInput["lines"]) {
  const terms = await termsOf(
    ctx,
    lines.map(({ item }) => ({ item, supplier })),
  );
  const units = await loadUnits(ctx);
  const before = new Map((await linesOf(ctx, [id])).map((line) => [line.id, line.item_id]));
  const problems: Problem[] = [];
  const rows = lines.map((line, i) => {
    const item = terms[i];
    if (!item) throw Refusal.at(`lines.${i}.item`, "not-found", { what: "item", id: line.item });
    if (item.kind === "kit") throw Refusal.at(`lines.${i}.item`, "not-bought", { code: item.code });
    const pack = item.packs.find((p) => codeKey(p.name) === codeKey(line.pack));
    if (line.pack !== "" && !pack)
      throw Refusal.at(`lines.${i}.pack`, "pack-unknown", { code: item.code, pack: line.pack });
    checkDecimals("quantity", line.quantity, unitNamed(units, item.unit), reporter(i, problems));
    return {
      // What another item was for is not what this one is for: it is another line.
      id: line.id !== null && before.get(line.id) === line.item ? line.id : null,
      purchase_id: id,
      position: i + 1,
      item_id: line.item,
      quantity: quantityToScaled(line.quantity),
      pack: pack?.name ?? "",
      pack_quantity: pack ? quantityToScaled(decimal(pack.quantity)) : null,
      ...priceOf(item, line, units, i),
      expected: line.expected ?? arrivesBy(ctx.today, { leadDays: item.lead }),
      cost_tag: line.costTag,
      note: line.note,
      received: 0,
      open: 0,
      closed: 0,
    };
  });
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
  return rows;
}

/** Says when what was sent is expected now. */
export async function changeExpected(
  ctx: Writing,
  id: number,
  lines: readonly { line: number; expected: Day | null }[],
): Promise<void> {
  const purchase = await purchaseById(ctx, id);
  refuseStage(purchase, ["draft", ...COMING], "changed");
  const own = new Set((await linesOf(ctx, [id])).map((line) => line.id));
  await ctx.sql.update(
    PURCHASE_LINE,
    ["id"],
    lines.filter(({ line }) => own.has(line)).map(({ line, expected }) => ({ id: line, expected })),
  );
  await countChange(ctx, PURCHASE, id);
}

/** Cancels what has not come; what came stays. */
export async function cancelPurchase(ctx: Writing, id: number): Promise<void> {
  const purchase = await purchaseById(ctx, id);
  refuseStage(purchase, ["draft", ...COMING], "cancelled");
  await ctx.sql.run(
    "UPDATE purchase_line SET open = 0, closed = 1 WHERE purchase_id = $id AND received < quantity",
    { id },
  );
  // An order of which some came is received; only what never came is cancelled.
  const ends = purchase.stage === "part received" ? "received" : "cancelled";
  await ctx
    .model(PURCHASE)
    .update({ stage: ends, [`${ends}_by`]: ctx.person.id, [`${ends}_at`]: ctx.moment }, { where: { id } });
}
