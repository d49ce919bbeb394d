import {
  type PurchaseLine,
  type PurchaseRow,
  type PurchaseSheet,
  type PurchaseStage,
  type ReceiptRecord,
  Refusal,
} from "@yosegi/contract";
import { type Day, lineTotal, moneyFromWhole, quantityFromWhole, sum } from "@yosegi/core";
import { briefs } from "../catalog/index.ts";
import { asJson, type Reading } from "../db/index.ts";

export interface PurchaseTableRow {
  id: number;
  number: string;
  supplier_id: number;
  stage: PurchaseStage;
  note: string;
  made_by: number;
  made_at: string;
  sent_by: number | null;
  sent_at: string | null;
  received_by: number | null;
  received_at: string | null;
  cancelled_by: number | null;
  cancelled_at: string | null;
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
  expected: Day | null;
  cost_tag: string;
  note: string;
  received: number;
  open: number;
  closed: number;
}

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

/** Purchase orders: drafts, then what is still to come by day, then what ended, latest first. */
export async function purchaseRows(
  ctx: Reading,
  filter: { ids?: readonly number[]; stage?: string | undefined; supplier?: number | undefined },
): Promise<PurchaseRow[]> {
  const rows = await ctx.sql.all<PurchaseTableRow & { code: string; name: string }>(
    `SELECT p.*, f.code, f.name FROM purchase p JOIN firm f ON f.id = p.supplier_id
      WHERE ($stage = '' OR p.stage = $stage) AND ($supplier = 0 OR p.supplier_id = $supplier)
        AND ($ids = '' OR p.id IN (SELECT value FROM json_each($ids)))
      ORDER BY p.stage IN ('received', 'cancelled'), p.stage <> 'draft',
               (SELECT MIN(expected) FROM purchase_line WHERE purchase_id = p.id AND open > 0), p.id DESC`,
    {
      stage: filter.stage ?? "",
      supplier: filter.supplier ?? 0,
      ids: filter.ids ? asJson(filter.ids) : "",
    },
  );
  const lines = await linesOf(
    ctx,
    rows.map((row) => row.id),
  );
  return rows.map((row) => {
    const own = lines.filter((line) => line.purchase_id === row.id);
    const waiting = row.stage === "draft" ? own : own.filter((line) => line.open > 0);
    return {
      id: row.id,
      number: row.number,
      supplier: { id: row.supplier_id, code: row.code, name: row.name },
      stage: row.stage,
      lines: own.length,
      linesDone: row.stage === "draft" ? 0 : own.filter((line) => line.open === 0).length,
      total: sum(own.map((l) => lineTotal(quantityFromWhole(l.quantity), moneyFromWhole(l.price)))).toFixed(
        2,
      ),
      expected: waiting
        .map((line) => line.expected)
        .reduce<Day | null>((a, b) => (a === null || (b !== null && b < a) ? b : a), null),
      made: row.made_at,
    };
  });
}

export async function purchaseRow(ctx: Reading, id: number): Promise<PurchaseRow> {
  const [row] = await purchaseRows(ctx, { ids: [id] });
  if (!row) throw new Refusal("not-found", { what: "purchase order", id });
  return row;
}

export async function purchaseSheet(ctx: Reading, id: number): Promise<PurchaseSheet> {
  const purchase = await purchaseById(ctx, id);
  const firm = await ctx.models.firm.findByPk(purchase.supplier_id, { transaction: ctx.sql.transaction });
  const { contact = "", email = "", terms = "" } = firm?.get({ plain: true }) ?? {};
  const messages = await ctx.sql.all<{ id: number; moment: string; sent: string | null }>(
    "SELECT id, made_at AS moment, sent_at AS sent FROM outbox WHERE purchase_id = $id ORDER BY id",
    { id },
  );
  return {
    ...(await purchaseRow(ctx, id)),
    ...{ note: purchase.note, contact, email, terms, messages },
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
    store: string;
    bin: string;
    shelf_life: number | null;
  }>(
    `SELECT l.id, COALESCE(s.their_code, '') AS their_code, i.shelf_life, i.home_bin AS bin,
            COALESCE(p.name, (SELECT name FROM place WHERE kind = 'store' ORDER BY id LIMIT 1)) AS store
       FROM purchase_line l JOIN item i ON i.id = l.item_id LEFT JOIN place p ON p.id = i.home_place_id
       LEFT JOIN item_supplier s ON s.item_id = l.item_id AND s.supplier_id = $supplier WHERE l.purchase_id = $id`,
    { supplier: purchase.supplier_id, id: purchase.id },
  );
  const needs = await needsOf(ctx, purchase.id);
  return lines.map((line) => {
    const quantity = quantityFromWhole(line.quantity);
    const price = moneyFromWhole(line.price);
    const size = line.pack_quantity === null ? null : quantityFromWhole(line.pack_quantity);
    const facts = more.find((m) => m.id === line.id);
    return {
      id: line.id,
      item: brief(line.item_id),
      theirCode: facts?.their_code ?? "",
      quantity: quantity.toFixed(),
      pack: size && { name: line.pack, size: size.toFixed(), count: quantity.div(size).toFixed() },
      price: price.toFixed(),
      total: lineTotal(quantity, price).toFixed(2),
      expected: line.expected,
      costTag: line.cost_tag,
      note: line.note,
      received: quantityFromWhole(line.received).toFixed(),
      open: quantityFromWhole(line.open).toFixed(),
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
    product: number | null;
    code: string | null;
    name: string | null;
  }>(
    `SELECT n.line_id AS line, n.quantity, n.build_id AS build, b.number, i.id AS product, i.code, i.name
       FROM purchase_line l JOIN purchase_for n ON n.line_id = l.id LEFT JOIN build b ON b.id = n.build_id
       LEFT JOIN item i ON i.id = COALESCE(n.product_id, b.product_id) WHERE l.purchase_id = $purchase ORDER BY n.id`,
    { purchase },
  );
  return rows.map((row) => ({
    line: row.line,
    build: row.build === null ? null : { id: row.build, number: row.number ?? "" },
    product: row.product === null ? null : { id: row.product, code: row.code ?? "", name: row.name ?? "" },
    quantity: quantityFromWhole(row.quantity).toFixed(),
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

/** What came, earliest first, with what was taken back. */
async function receipts(ctx: Reading, purchase: number): Promise<ReceiptRecord[]> {
  const rows = await ctx.sql.all<ReceiptRow>(
    `SELECT r.id, r.number, r.moment, r.day, n.name AS person, r.note, u.name AS undone_person, r.undone_at
       FROM receipt r JOIN person n ON n.id = r.person_id LEFT JOIN person u ON u.id = r.undone_by
      WHERE r.purchase_id = $purchase ORDER BY r.id`,
    { purchase },
  );
  const lines = await ctx.sql.all<{
    receipt: number;
    item: number;
    quantity: number;
    price: number;
    lot: string;
    serial: string;
    store: string | null;
    bin: string;
  }>(
    `SELECT r.id AS receipt, l.item_id AS item, x.quantity, x.price, x.lot, x.serial, p.name AS store, x.bin
       FROM receipt r JOIN receipt_line x ON x.receipt_id = r.id JOIN purchase_line l ON l.id = x.line_id
       LEFT JOIN place p ON p.id = x.place_id WHERE r.purchase_id = $purchase ORDER BY r.id, x.position`,
    { purchase },
  );
  const brief = await briefs(
    ctx,
    lines.map((line) => line.item),
  );
  return rows.map((row) => {
    const own = lines.filter((line) => line.receipt === row.id);
    return {
      ...{
        id: row.id,
        number: row.number,
        moment: row.moment,
        day: row.day,
        person: row.person,
        note: row.note,
      },
      value: sum(own.map((l) => lineTotal(quantityFromWhole(l.quantity), moneyFromWhole(l.price)))).toFixed(
        2,
      ),
      lines: own.map((l) => ({
        item: brief(l.item),
        quantity: quantityFromWhole(l.quantity).toFixed(),
        price: moneyFromWhole(l.price).toFixed(),
        ...{ lot: l.lot, serial: l.serial, store: l.store ?? "", bin: l.bin },
      })),
      undone: row.undone_at === null ? null : { person: row.undone_person ?? "", moment: row.undone_at },
    };
  });
}

async function history(ctx: Reading, purchase: PurchaseTableRow): Promise<PurchaseSheet["history"]> {
  const people = await ctx.sql.all<{ id: number; name: string }>("SELECT id, name FROM person");
  const steps = [
    ["made", purchase.made_by, purchase.made_at],
    ["sent", purchase.sent_by, purchase.sent_at],
    ["received", purchase.received_by, purchase.received_at],
    ["cancelled", purchase.cancelled_by, purchase.cancelled_at],
  ] as const;
  return steps.flatMap(([what, by, moment]) =>
    moment === null ? [] : [{ what, person: people.find((p) => p.id === by)?.name ?? "", moment }],
  );
}
