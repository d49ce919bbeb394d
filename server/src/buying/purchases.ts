import {
  type PurchaseLine,
  type PurchaseRow,
  type PurchaseSheet,
  type PurchaseStage,
  type ReceiptRecord,
  Refusal,
} from "@yosegi/contract";
import { type Day, quantityFromScaled, type Rate, sum, valueAt } from "@yosegi/core";
import { asJson, findPage, groupBy, type PageQuery, type Reading, rateFromScaled } from "../db/index.ts";
import { firmById } from "../firms/index.ts";
import { briefs } from "../items/index.ts";
import { messagesAbout } from "../outbox/index.ts";

export interface PurchaseTableRow {
  id: number;
  number: string;
  version: number;
  supplier_id: number;
  stage: PurchaseStage;
  note: string;
  created_by: number;
  created_at: string;
  sent_by: number | null;
  sent_at: string | null;
  received_by: number | null;
  received_at: string | null;
  cancelled_by: number | null;
  cancelled_at: string | null;
  /** The customer's order that it is delivered straight to. */
  order_id: number | null;
  deliver_to: string;
}

export interface PurchaseLineRow {
  id: number;
  purchase_id: number;
  position: number;
  item_id: number;
  quantity: number;
  pack: string;
  pack_quantity: number | null;
  price: number;
  price_per: number;
  price_unit: string;
  expected: Day | null;
  cost_tag: string;
  note: string;
  received: number;
  open: number;
  closed: number;
}

/** So much at a price, as a query reads it. */
type Priced = Pick<PurchaseLineRow, "quantity" | "price" | "price_per">;

export const priceOfLine = ({ price, price_per }: Omit<Priced, "quantity">): Rate =>
  rateFromScaled(price, price_per);

/** What lines come to together, each rounded as it is told. */
const totalOf = (ctx: Reading, lines: readonly Priced[]): string =>
  sum(
    lines.map((line) => valueAt(quantityFromScaled(line.quantity), priceOfLine(line), ctx.currencyDecimals)),
  ).toFixed(ctx.currencyDecimals);

export async function purchaseById(ctx: Reading, id: number): Promise<PurchaseTableRow> {
  const row = await ctx.sql.one<PurchaseTableRow>("SELECT * FROM purchase WHERE id = $id", { id });
  if (!row) throw new Refusal("not-found", { what: "purchase order", id });
  return row;
}

export const linesOf = (ctx: Reading, purchases: readonly number[]): Promise<PurchaseLineRow[]> =>
  ctx.sql.all<PurchaseLineRow>(
    `SELECT l.* FROM json_each($ids) ids JOIN purchase_line l ON l.purchase_id = ids.value ORDER BY l.purchase_id, l.position`,
    { ids: asJson(purchases) },
  );

export interface PurchaseFilter {
  stage?: string | undefined;
  supplier?: number | undefined;
}

const ENDED = "p.stage IN ('received', 'cancelled')";

/** A page of purchase orders: drafts, then what is still to come by day, then what ended, latest first. */
export async function findPurchases(
  ctx: Reading,
  { stage = "", supplier = 0, ...query }: PurchaseFilter & PageQuery,
): Promise<{ purchases: PurchaseRow[]; total: number; next: string | null }> {
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "p.id",
    text: "p.number || ' ' || f.code || ' ' || f.name || ' ' || p.stage",
    from: `purchase p JOIN firm_head f ON f.id = p.supplier_id
      WHERE ($stage = '' OR p.stage = $stage) AND ($supplier = 0 OR p.supplier_id = $supplier)
      ORDER BY ${ENDED}, p.stage <> 'draft',
               CASE WHEN ${ENDED} THEN NULL ELSE (SELECT MIN(expected) FROM purchase_line WHERE purchase_id = p.id AND open > 0) END,
               p.id DESC`,
    bind: { stage, supplier },
  });
  return { purchases: await purchaseRows(ctx, ids), total, next };
}

/** Purchase orders as the list shows them, in the order of the ids. */
export async function purchaseRows(ctx: Reading, ids: readonly number[]): Promise<PurchaseRow[]> {
  const rows = await ctx.sql.all<PurchaseTableRow & { code: string; name: string }>(
    `SELECT p.*, f.code, f.name FROM json_each($ids) ids JOIN purchase p ON p.id = ids.value
       JOIN firm_head f ON f.id = p.supplier_id ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
  const found = await linesOf(
    ctx,
    rows.map((row) => row.id),
  );
  const lines = groupBy(found, (line) => line.purchase_id);
  return rows.map((row) => {
    const own = lines.get(row.id) ?? [];
    const waiting = row.stage === "draft" ? own : own.filter((line) => line.open > 0);
    return {
      id: row.id,
      number: row.number,
      supplier: { id: row.supplier_id, code: row.code, name: row.name },
      stage: row.stage,
      lines: own.length,
      linesDone: row.stage === "draft" ? 0 : own.filter((line) => line.open === 0).length,
      total: totalOf(ctx, own),
      expected: waiting
        .map((line) => line.expected)
        .reduce<Day | null>((a, b) => (a === null || (b !== null && b < a) ? b : a), null),
      made: row.created_at,
    };
  });
}

export async function purchaseRow(ctx: Reading, id: number): Promise<PurchaseRow> {
  const [row] = await purchaseRows(ctx, [id]);
  if (!row) throw new Refusal("not-found", { what: "purchase order", id });
  return row;
}

export async function purchaseSheet(ctx: Reading, id: number): Promise<PurchaseSheet> {
  const purchase = await purchaseById(ctx, id);
  const { contact, email, terms } = await firmById(ctx, purchase.supplier_id);
  return {
    ...(await purchaseRow(ctx, id)),
    version: purchase.version,
    deliverTo: await deliveredTo(ctx, purchase),
    note: purchase.note,
    contact,
    email,
    terms,
    messages: (await messagesAbout(ctx, "purchase", id)).map(({ subject: _, ...message }) => message),
    orderLines: await lineAnswers(ctx, purchase),
    receipts: await receipts(ctx, id),
    history: await history(ctx, purchase),
  };
}

async function lineAnswers(ctx: Reading, purchase: PurchaseTableRow): Promise<PurchaseLine[]> {
  const lines = await linesOf(ctx, [purchase.id]);
  const brief = await briefs(
    ctx,
    lines.map((line) => line.item_id),
  );
  const more = await ctx.sql.all<{
    id: number;
    their_code: string;
    store: string | null;
    bin: string;
    shelf_life: number | null;
    price: number | null;
    price_per: number | null;
    price_unit: string | null;
  }>(
    `SELECT l.id, COALESCE(s.their_code, '') AS their_code, s.price, s.price_per, s.price_unit, i.shelf_life, h.bin, p.name AS store
       FROM purchase_line l JOIN item_head i ON i.id = l.item_id JOIN item_home h ON h.item_id = l.item_id
       LEFT JOIN location_head p ON p.id = h.location_id
       LEFT JOIN supplier_terms s ON s.item_id = l.item_id AND s.supplier_id = $supplier WHERE l.purchase_id = $id`,
    { supplier: purchase.supplier_id, id: purchase.id },
  );
  const needs = await needsOf(ctx, purchase.id);
  return lines.map((line) => {
    const quantity = quantityFromScaled(line.quantity);
    const price = priceOfLine(line);
    const size = line.pack_quantity === null ? null : quantityFromScaled(line.pack_quantity);
    const facts = more.find((m) => m.id === line.id);
    return {
      id: line.id,
      item: brief(line.item_id),
      theirCode: facts?.their_code ?? "",
      quantity: quantity.toFixed(),
      pack: size && { name: line.pack, size: size.toFixed(), count: quantity.div(size).toFixed() },
      price: price.amount.toFixed(),
      pricePer: line.price_unit,
      total: totalOf(ctx, [line]),
      agreed:
        facts === undefined || facts.price === null || facts.price_per === null
          ? null
          : {
              price: rateFromScaled(facts.price, facts.price_per).amount.toFixed(),
              pricePer: facts.price_unit ?? "",
            },
      expected: line.expected,
      costTag: line.cost_tag,
      note: line.note,
      received: quantityFromScaled(line.received).toFixed(),
      open: quantityFromScaled(line.open).toFixed(),
      closed: line.closed === 1,
      store: facts?.store ?? "",
      bin: facts?.bin ?? "",
      shelfLife: facts?.shelf_life ?? null,
      for: needs.filter((need) => need.line === line.id).map(({ line: _, ...need }) => need),
    };
  });
}

async function needsOf(ctx: Reading, purchase: number) {
  const rows = await ctx.sql.all<{
    line: number;
    quantity: number;
    build: number | null;
    number: string | null;
    order: number | null;
    orderNumber: string | null;
    customer: string | null;
    product: number | null;
    code: string | null;
    name: string | null;
  }>(
    `SELECT n.line_id AS line, n.quantity, n.build_id AS build, b.number, i.id AS product, i.code, i.name,
            d.order_id AS "order", d.number AS orderNumber, d.customer_name AS customer
       FROM purchase_line l JOIN purchase_need n ON n.line_id = l.id LEFT JOIN build_head b ON b.id = n.build_id
       LEFT JOIN order_line_head d ON d.line_id = n.order_line
       LEFT JOIN item_head i ON i.id = COALESCE(n.product_id, b.product_id) WHERE l.purchase_id = $purchase ORDER BY n.id`,
    { purchase },
  );
  return rows.map((row) => ({
    line: row.line,
    build: row.build === null ? null : { id: row.build, number: row.number ?? "" },
    order:
      row.order === null
        ? null
        : { id: row.order, number: row.orderNumber ?? "", customer: row.customer ?? "" },
    product: row.product === null ? null : { id: row.product, code: row.code ?? "", name: row.name ?? "" },
    quantity: quantityFromScaled(row.quantity).toFixed(),
  }));
}

interface ReceiptRow {
  id: number;
  number: string;
  moment: string;
  day: Day;
  person: string;
  note: string;
  undone_person: string | null;
  undone_at: string | null;
}

/** Where a supplier delivers straight to; null: to us. */
async function deliveredTo(
  ctx: Reading,
  { order_id: id, deliver_to: address }: PurchaseTableRow,
): Promise<PurchaseSheet["deliverTo"]> {
  if (id === null) return null;
  const order = await ctx.sql.one<{ number: string }>("SELECT number FROM order_head WHERE id = $id", { id });
  return { order: { id, number: order?.number ?? "" }, address };
}

/** What came, earliest first, with what was undone. */
async function receipts(ctx: Reading, purchase: number): Promise<ReceiptRecord[]> {
  const rows = await ctx.sql.all<ReceiptRow>(
    `SELECT r.id, r.number, r.moment, r.day, n.name AS person, r.note, u.name AS undone_person, r.undone_at
       FROM receipt r JOIN person_name n ON n.id = r.person_id LEFT JOIN person_name u ON u.id = r.undone_by
      WHERE r.purchase_id = $purchase ORDER BY r.id`,
    { purchase },
  );
  const lines = await ctx.sql.all<{
    receipt: number;
    position: number;
    item: number;
    quantity: number;
    price: number;
    price_per: number;
    price_unit: string;
    lot: string;
    serial: string;
    store: string | null;
    bin: string;
  }>(
    `SELECT r.id AS receipt, x.position, l.item_id AS item, x.quantity, x.price, x.price_per, x.price_unit, x.lot, x.serial, p.name AS store, x.bin
       FROM receipt r JOIN receipt_line x ON x.receipt_id = r.id JOIN purchase_line l ON l.id = x.line_id
       LEFT JOIN location_head p ON p.id = x.location_id WHERE r.purchase_id = $purchase ORDER BY r.id, x.position`,
    { purchase },
  );
  const brief = await briefs(
    ctx,
    lines.map((line) => line.item),
  );
  return rows.map((row) => {
    const own = lines.filter((line) => line.receipt === row.id);
    return {
      id: row.id,
      number: row.number,
      moment: row.moment,
      day: row.day,
      person: row.person,
      note: row.note,
      value: totalOf(ctx, own),
      lines: own.map((l) => ({
        line: l.position,
        item: brief(l.item),
        quantity: quantityFromScaled(l.quantity).toFixed(),
        price: priceOfLine(l).amount.toFixed(),
        pricePer: l.price_unit,
        lot: l.lot,
        serial: l.serial,
        store: l.store ?? "",
        bin: l.bin,
      })),
      undone: row.undone_at === null ? null : { person: row.undone_person ?? "", moment: row.undone_at },
    };
  });
}

async function history(ctx: Reading, purchase: PurchaseTableRow): Promise<PurchaseSheet["history"]> {
  const people = await ctx.sql.all<{ id: number; name: string }>("SELECT id, name FROM person_name");
  const steps = [
    ["created", purchase.created_by, purchase.created_at],
    ["sent", purchase.sent_by, purchase.sent_at],
    ["received", purchase.received_by, purchase.received_at],
    ["cancelled", purchase.cancelled_by, purchase.cancelled_at],
  ] as const;
  return steps.flatMap(([what, by, moment]) =>
    moment === null ? [] : [{ what, person: people.find((p) => p.id === by)?.name ?? "", moment }],
  );
}
