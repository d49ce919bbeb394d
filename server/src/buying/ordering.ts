import {
  type NeedLine,
  type PurchaseBody,
  type PurchaseRow,
  type PurchaseStage,
  Refusal,
} from "@yosegi/contract";
import {
  addDays,
  checkDecimals,
  codeKey,
  type Day,
  decimal,
  moneyToWhole,
  type Problem,
  quantityToWhole,
  reporter,
} from "@yosegi/core";
import { loadUnits, refuseProblems, unitNamed } from "../catalog/index.ts";
import { asJson, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { linesOf, type PurchaseTableRow, purchaseById, purchaseRows } from "./purchases.ts";

/** Refuses a step that the order's stage does not allow. */
export function refuseStage(
  { number, stage }: Pick<PurchaseTableRow, "number" | "stage">,
  allowed: readonly PurchaseStage[],
  step: string,
): void {
  if (!allowed.includes(stage)) throw new Refusal("stage-wrong", { number, stage, step });
}

export const COMING = ["sent", "part received"] as const;

interface ItemTerms {
  id: number;
  code: string;
  kind: string;
  unit: string;
  packs: { name: string; quantity: number }[];
  /** What the supplier asks: null where the supplier was never named for the item. */
  price: number | null;
  lead: number | null;
  cost: number | null;
}

/** What one supplier asks for items, and what is known of them. */
async function termsOf(
  ctx: Reading,
  supplier: number,
  items: Iterable<number>,
): Promise<Map<number, ItemTerms>> {
  const rows = await ctx.sql.all<Omit<ItemTerms, "packs"> & { packs: string }>(
    `SELECT i.id, i.code, i.kind, i.unit, s.price, s.lead_days AS lead, i.standard_cost AS cost,
            (SELECT json_group_array(json_object('name', name, 'quantity', quantity)) FROM pack WHERE item_id = i.id) AS packs
       FROM json_each($ids) ids JOIN item i ON i.id = ids.value
       LEFT JOIN item_supplier s ON s.item_id = i.id AND s.supplier_id = $supplier`,
    { ids: asJson(new Set(items)), supplier },
  );
  return new Map(rows.map((row) => [row.id, { ...row, packs: JSON.parse(row.packs) }]));
}

async function supplierById(ctx: Reading, id: number): Promise<void> {
  const firm = await ctx.models.firm.findByPk(id, { transaction: ctx.sql.transaction });
  if (firm?.get({ plain: true }).kind !== "supplier")
    throw Refusal.at("supplier", "not-found", { what: "supplier", id });
}

async function insertPurchase(ctx: Writing, supplier: number, note: string): Promise<number> {
  return ctx.sql.insert(
    `INSERT INTO purchase (number, supplier_id, stage, note, made_by, made_at)
     VALUES ($number, $supplier, 'draft', $note, $person, $moment)`,
    { number: await nextNumber(ctx, "P"), supplier, note, person: ctx.person.id, moment: ctx.moment },
  );
}

/** Makes a draft by hand. Gives its id. */
export async function newPurchase(
  ctx: Writing,
  { supplier, ...body }: PurchaseBody & { supplier: number },
): Promise<number> {
  await supplierById(ctx, supplier);
  const id = await insertPurchase(ctx, supplier, body.note);
  await writeLines(ctx, id, supplier, body.lines);
  return id;
}

/** Changes a draft; lines that stay keep what they are for. */
export async function changePurchase(ctx: Writing, id: number, body: PurchaseBody): Promise<void> {
  const purchase = await purchaseById(ctx, id);
  refuseStage(purchase, ["draft"], "changed");
  await ctx.sql.run("UPDATE purchase SET note = $note WHERE id = $id", { note: body.note, id });
  await writeLines(ctx, id, purchase.supplier_id, body.lines);
}

/** Writes a draft's lines in the place of those it has; a line keeps its id, and with it its needs. */
async function writeLines(
  ctx: Writing,
  id: number,
  supplier: number,
  lines: PurchaseBody["lines"],
): Promise<void> {
  const terms = await termsOf(
    ctx,
    supplier,
    lines.map((line) => line.item),
  );
  const units = await loadUnits(ctx);
  const own = new Set((await linesOf(ctx, [id])).map((line) => line.id));
  const problems: Problem[] = [];
  const rows = lines.map((line, i) => {
    const item = terms.get(line.item);
    if (!item) throw Refusal.at(`lines.${i}.item`, "not-found", { what: "item", id: line.item });
    if (item.kind === "kit") throw Refusal.at(`lines.${i}.item`, "not-bought", { code: item.code });
    const pack = item.packs.find((p) => codeKey(p.name) === codeKey(line.pack));
    if (line.pack !== "" && !pack)
      throw Refusal.at(`lines.${i}.pack`, "pack-unknown", { code: item.code, pack: line.pack });
    const price = line.price === null ? (item.price ?? item.cost) : moneyToWhole(decimal(line.price));
    if (price === null) throw Refusal.at(`lines.${i}.price`, "cost-needed", { code: item.code });
    checkDecimals("quantity", decimal(line.quantity), unitNamed(units, item.unit), reporter(i, problems));
    return [
      ...[
        line.id !== null && own.has(line.id) ? line.id : null,
        i + 1,
        line.item,
        quantityToWhole(decimal(line.quantity)),
      ],
      ...[pack?.name ?? "", pack?.quantity ?? null, price, line.expected ?? expectedBy(ctx.today, item.lead)],
      ...[line.costTag, line.note],
    ];
  });
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
  await ctx.sql.run(
    `DELETE FROM purchase_line WHERE purchase_id = $id AND id NOT IN (SELECT value ->> 0 FROM json_each($rows) WHERE value ->> 0 IS NOT NULL)`,
    { id, rows: asJson(rows) },
  );
  await ctx.sql.run(
    `INSERT INTO purchase_line (id, purchase_id, position, item_id, quantity, pack, pack_quantity, price, expected, cost_tag, note, received, open, closed)
     SELECT value ->> 0, $id, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, value ->> 6, value ->> 7, value ->> 8, value ->> 9, 0, 0, 0
       FROM json_each($rows) WHERE true
         ON CONFLICT (id) DO UPDATE SET position = excluded.position, item_id = excluded.item_id, quantity = excluded.quantity,
            pack = excluded.pack, pack_quantity = excluded.pack_quantity, price = excluded.price, expected = excluded.expected,
            cost_tag = excluded.cost_tag, note = excluded.note`,
    { id, rows: asJson(rows) },
  );
}

const expectedBy = (today: Day, lead: number | null): Day | null =>
  lead === null ? null : addDays(today, lead);

interface Offered {
  item: number;
  code: string;
  supplier: number | null;
  price: number | null;
  lead: number | null;
  cost: number | null;
  kind: string;
}

/** The supplier named, or the preferred one, of each item needed. Work may be asked of any supplier. */
async function offersFor(ctx: Reading, lines: readonly NeedLine[]): Promise<Offered[]> {
  return ctx.sql.all<Offered>(
    `SELECT i.id AS item, i.code, i.kind, i.standard_cost AS cost, s.price, s.lead_days AS lead,
            CASE i.kind WHEN 'service' THEN COALESCE(s.supplier_id, l.value ->> 1) ELSE s.supplier_id END AS supplier
       FROM json_each($lines) l JOIN item i ON i.id = l.value ->> 0
       LEFT JOIN item_supplier s ON s.item_id = i.id
        AND CASE WHEN l.value ->> 1 IS NULL THEN s.preferred = 1 ELSE s.supplier_id = l.value ->> 1 END
      ORDER BY l.key`,
    { lines: asJson(lines.map((line) => [line.item, line.supplier])) },
  );
}

/**
 * Puts what is needed onto drafts: one for each supplier, the draft that is there already or a new one. What stands on it
 * of the same item grows, and each need stays linked. Gives the drafts.
 */
export async function buyNeeds(ctx: Writing, lines: readonly NeedLine[]): Promise<PurchaseRow[]> {
  const offers = await offersFor(ctx, lines);
  const units = await loadUnits(ctx);
  const problems: Problem[] = [];
  const drafts = new Map<number, number>();
  const touched: number[] = [];
  for (const [i, line] of lines.entries()) {
    const offer = offers[i];
    if (!offer) throw Refusal.at(`lines.${i}.item`, "not-found", { what: "item", id: line.item });
    if (offer.supplier === null)
      throw Refusal.at(`lines.${i}.supplier`, "supplier-none", { code: offer.code });
    const price = line.price === null ? (offer.price ?? offer.cost) : moneyToWhole(decimal(line.price));
    if (price === null) throw Refusal.at(`lines.${i}.price`, "cost-needed", { code: offer.code });
    const unit = await ctx.sql.one<{ unit: string }>("SELECT unit FROM item WHERE id = $item", {
      item: line.item,
    });
    checkDecimals(
      "quantity",
      decimal(line.quantity),
      unitNamed(units, unit?.unit ?? ""),
      reporter(i, problems),
    );
    const draft = drafts.get(offer.supplier) ?? (await draftOf(ctx, offer.supplier));
    drafts.set(offer.supplier, draft);
    touched.push(draft);
    await addNeed(ctx, draft, line, price, line.expected ?? expectedBy(ctx.today, offer.lead));
  }
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
  return purchaseRows(ctx, { ids: touched });
}

async function draftOf(ctx: Writing, supplier: number): Promise<number> {
  const row = await ctx.sql.one<{ id: number }>(
    "SELECT id FROM purchase WHERE supplier_id = $supplier AND stage = 'draft' ORDER BY id DESC LIMIT 1",
    { supplier },
  );
  return row?.id ?? insertPurchase(ctx, supplier, "");
}

async function addNeed(
  ctx: Writing,
  draft: number,
  line: NeedLine,
  price: number,
  expected: Day | null,
): Promise<void> {
  const quantity = quantityToWhole(decimal(line.quantity));
  const there = await ctx.sql.one<{ id: number }>(
    `SELECT id FROM purchase_line WHERE purchase_id = $draft AND item_id = $item AND cost_tag = $tag AND (price = $price OR $told = 0)
      ORDER BY position LIMIT 1`,
    { draft, item: line.item, tag: line.costTag, price, told: line.price === null ? 0 : 1 },
  );
  if (there)
    await ctx.sql.run(
      `UPDATE purchase_line SET quantity = quantity + $quantity, expected = MIN(COALESCE(expected, $expected), COALESCE($expected, expected))
        WHERE id = $id`,
      { id: there.id, quantity, expected },
    );
  else
    await ctx.sql.run(
      `INSERT INTO purchase_line (purchase_id, position, item_id, quantity, pack, price, expected, cost_tag, note, received, open, closed)
       SELECT $draft, COALESCE(MAX(position), 0) + 1, $item, $quantity, '', $price, $expected, $tag, '', 0, 0, 0
         FROM purchase_line WHERE purchase_id = $draft`,
      { draft, item: line.item, quantity, price, expected, tag: line.costTag },
    );
  const id = there?.id ?? (await ctx.sql.one<{ id: number }>("SELECT last_insert_rowid() AS id"))?.id ?? 0;
  await ctx.sql.run(
    `INSERT INTO purchase_for (line_id, build_id, product_id, quantity)
     SELECT $id, value ->> 0, value ->> 1, value ->> 2 FROM json_each($needs) WHERE COALESCE(value ->> 0, value ->> 1) IS NOT NULL`,
    { id, needs: asJson(line.for.map((f) => [f.build, f.product, quantityToWhole(decimal(f.quantity))])) },
  );
}

/** Says when what was sent is expected now. */
export async function changeExpected(
  ctx: Writing,
  id: number,
  lines: readonly { line: number; expected: Day | null }[],
): Promise<void> {
  const purchase = await purchaseById(ctx, id);
  refuseStage(purchase, ["draft", ...COMING], "changed");
  await ctx.sql.run(
    `UPDATE purchase_line SET expected = r.value ->> 1 FROM json_each($rows) r WHERE purchase_id = $id AND purchase_line.id = r.value ->> 0`,
    { id, rows: asJson(lines.map((l) => [l.line, l.expected])) },
  );
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
  await ctx.sql.run(
    `UPDATE purchase SET stage = $ends, ${ends}_by = $person, ${ends}_at = $moment WHERE id = $id`,
    { id, ends, person: ctx.person.id, moment: ctx.moment },
  );
}
