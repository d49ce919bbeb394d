import { type ReceiptInput, Refusal } from "@yosegi/contract";
import {
  checkDecimals,
  checkStock,
  type Day,
  type Decimal,
  isStocked,
  moneyToScaled,
  ONE,
  type Problem,
  quantityFromScaled,
  quantityToScaled,
  reporter,
  sum,
  type Tracking,
  type Units,
  type ValuedRow,
  ZERO,
} from "@yosegi/core";
import { asJson, groupBy, nextNumber, type Writing } from "../db/index.ts";
import { knownItems, loadUnits, packTexts, pricedRate, unitNamed } from "../items/index.ts";
import { checkMade, ensureBins, locationOf, record, storeIds, undo } from "../ledger/index.ts";
import { refuseProblems } from "../problems.ts";
import { arrival, knownStock } from "../stock/index.ts";
import { undoCorrections } from "./correcting.ts";
import { COMING, refuseStage } from "./ordering.ts";
import { linesOf, type PurchaseLineRow, priceOfLine, purchaseById } from "./purchases.ts";
import { PURCHASE_LINE, RECEIPT, RECEIPT_LINE } from "./tables.ts";

interface ItemOfLine {
  id: number;
  code: string;
  unit: string;
  kind: "bought" | "built" | "service" | "kit";
  tracking: Tracking;
  not_stock_tracked: number;
  packs: string;
  store: string;
}

/** One lot, serial or plain quantity that came, of one line. */
interface Came {
  line: PurchaseLineRow;
  item: ItemOfLine;
  stock: ValuedRow;
  /** The unit or pack that its price is for, as it was said. */
  pricePer: string;
  /** When its lots or units were made. */
  madeOn: Day | null;
}

type Typed = ReceiptInput["lines"][number];

/** Takes in what came of an order: stock at the price it has, the rest still to come or given up. */
export async function receivePurchase(ctx: Writing, id: number, body: ReceiptInput): Promise<void> {
  const { order_id, number } = await purchaseById(ctx, id);
  if (order_id !== null) throw new Refusal("direct-receipt", { number });
  await receive(ctx, id, body);
}

/** A receipt as it was recorded; without a posting where nothing of it is stock. */
export interface Received {
  id: number | null;
  posting: number | null;
}

/** The same of what a supplier delivered straight to a customer; whoever records it ships it in the same step. */
export async function receiveDirect(
  ctx: Writing,
  id: number,
  body: ReceiptInput,
): Promise<Received & { order: number }> {
  const { order_id: order, number } = await purchaseById(ctx, id);
  if (order === null) throw new Refusal("not-direct", { number });
  const store = await ctx.sql.one<{ name: string }>(
    "SELECT name FROM location_head WHERE kind = 'store' AND archived = 0 ORDER BY id LIMIT 1",
  );
  // Nothing of it comes into a store: it passes through the books only.
  const lines = body.lines.map((line) => ({ ...line, store: store?.name ?? "", bin: "" }));
  return { order, ...(await receive(ctx, id, { ...body, lines })) };
}

async function receive(ctx: Writing, id: number, body: ReceiptInput): Promise<Received> {
  const purchase = await purchaseById(ctx, id);
  refuseStage(purchase, COMING, "received");
  if (body.day > ctx.today) throw Refusal.at("day", "day-future");
  const lines = new Map((await linesOf(ctx, [id])).map((line) => [line.id, line]));
  const items = await itemsOf(
    ctx,
    [...lines.values()].map((line) => line.item_id),
  );
  const came = await checkReceipt(ctx, body, lines, items);
  const number = await nextNumber(ctx, "RC");
  const posting = await postReceipt(ctx, number, body, came);
  const receipt = await writeReceipt(ctx, { purchase: id, number, posting, body, came });
  await writeProgress(ctx, id, body, lines);
  return { id: receipt, posting };
}

async function itemsOf(ctx: Writing, ids: readonly number[]): Promise<Map<number, ItemOfLine>> {
  const rows = await ctx.sql.all<ItemOfLine>(
    `SELECT i.id, i.code, i.unit, i.kind, i.tracking, i.not_stock_tracked, i.packs, COALESCE(p.name, '') AS store
       FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value JOIN item_home h ON h.item_id = i.id
       LEFT JOIN location_head p ON p.id = h.location_id`,
    { ids: asJson(new Set(ids)) },
  );
  return new Map(rows.map((row) => [row.id, row]));
}

const stocked = (item: ItemOfLine): boolean =>
  isStocked({ kind: item.kind, notStockTracked: item.not_stock_tracked === 1 });

/** Checks each line as it is typed; what comes in by lots and serials becomes one row each. */
async function checkReceipt(
  ctx: Writing,
  body: ReceiptInput,
  lines: ReadonlyMap<number, PurchaseLineRow>,
  items: ReadonlyMap<number, ItemOfLine>,
): Promise<Came[]> {
  const units = await loadUnits(ctx);
  const stores = await storeIds(ctx);
  const problems: Problem[] = [];
  const came: Came[] = [];
  const sums = new Map<number, Decimal>();
  for (const [i, typed] of body.lines.entries()) {
    const line = lines.get(typed.line);
    const item = line && items.get(line.item_id);
    if (!line || !item) throw Refusal.at(`lines.${i}.line`, "not-found", { what: "line", id: typed.line });
    const quantity = typed.quantity;
    checkDecimals("quantity", quantity, unitNamed(units, item.unit), reporter(i, problems));
    // One line may come in several entries, into several bins; what counts is their sum.
    const all = (sums.get(line.id) ?? ZERO).plus(quantity);
    sums.set(line.id, all);
    if (quantity.gt(0)) refuseMore(body, line, item, all, i);
    const store = typed.store === "" ? item.store : typed.store;
    if (stores(store) === null) throw Refusal.at(`lines.${i}.store`, "store-unknown", { store });
    came.push(...rowsOf(typed, line, item, { at: i, store, units, today: ctx.today }));
  }
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
  if (came.length === 0 && !body.lines.some((line) => line.close))
    throw Refusal.at("lines.0.quantity", "receive-empty");
  await checkNumbers(ctx, came);
  return came;
}

/** More than was ordered is kept only where the person says so. */
function refuseMore(
  body: ReceiptInput,
  line: PurchaseLineRow,
  item: ItemOfLine,
  quantity: Decimal,
  at: number,
): void {
  const open = quantityFromScaled(line.open);
  if (body.more || quantity.lte(open)) return;
  throw Refusal.at(`lines.${at}.quantity`, "over-delivery", {
    code: item.code,
    unit: item.unit,
    open: open.toFixed(),
    more: quantity.minus(open).toFixed(),
  });
}

interface Where {
  at: number;
  store: string;
  units: Units;
  today: Day;
}

function rowsOf(
  typed: Typed,
  line: PurchaseLineRow,
  item: ItemOfLine,
  { at, store, units, today }: Where,
): Came[] {
  const quantity = typed.quantity;
  if (quantity.eq(0)) return [];
  const madeOn = `lines.${at}.madeOn`;
  checkMade(typed, today, { madeOn, expiry: `lines.${at}.expiry` });
  for (const [i, { expiry }] of typed.lots.entries())
    checkMade({ madeOn: typed.madeOn, expiry }, today, { madeOn, expiry: `lines.${at}.lots.${i}.expiry` });
  const priced = { code: item.code, unit: item.unit, packs: packTexts(item.packs) };
  const unitCost =
    typed.price === null
      ? priceOfLine(line)
      : pricedRate(`lines.${at}.pricePer`, typed.price, typed.pricePer, priced, units);
  const pricePer = typed.price === null ? line.price_unit : typed.pricePer;
  const plain: ValuedRow = {
    row: at,
    item: item.code,
    quantity,
    unitCost,
    store,
    bin: typed.bin,
    lot: "",
    expiry: null,
    serial: "",
  };
  const row = (more: Partial<ValuedRow>): Came => ({
    line,
    item,
    pricePer,
    madeOn: typed.madeOn,
    stock: { ...plain, ...more },
  });
  if (item.tracking === "lot") {
    const given = sum(typed.lots.map((l) => l.quantity));
    if (!given.eq(quantity))
      throw Refusal.at(`lines.${at}.lots`, "lots-sum", {
        code: item.code,
        given: given.toFixed(),
        quantity: quantity.toFixed(),
      });
    return typed.lots.map((l) => row({ lot: l.lot, expiry: l.expiry, quantity: l.quantity }));
  }
  if (item.tracking === "serial") {
    if (!quantity.eq(typed.serials.length))
      throw Refusal.at(`lines.${at}.serials`, "serial-count", {
        good: quantity.toFixed(),
        given: typed.serials.length,
      });
    return typed.serials.map((serial) => row({ serial, expiry: typed.expiry, quantity: ONE }));
  }
  return [row({})];
}

/** Lots and serials by the rules that hold for all that comes in. */
async function checkNumbers(ctx: Writing, came: readonly Came[]): Promise<void> {
  const kept = came.filter((c) => stocked(c.item));
  const codes = kept.map((c) => c.item.code);
  const { problems } = checkStock(
    kept.map((c) => ({ ...c.stock, unitCost: c.stock.unitCost.amount, costPer: c.pricePer })),
    await knownItems(ctx, codes),
    await loadUnits(ctx),
    await knownStock(
      ctx,
      kept.map((c) => c.stock),
      "bought",
    ),
    false,
  );
  const field: Record<string, string> = { lot: "lots", expiry: "lots", serial: "serials" };
  refuseProblems(problems, (p) => `lines.${p.row}.${field[p.field] ?? p.field}`);
}

/** What is kept on the books comes in; what is not only costs. Gives the posting; null where nothing is kept. */
async function postReceipt(
  ctx: Writing,
  number: string,
  body: ReceiptInput,
  came: readonly Came[],
): Promise<number | null> {
  const kept = came.filter((c) => stocked(c.item));
  if (kept.length === 0) return null;
  const stores = await storeIds(ctx);
  const spots = kept.map((c) => ({ location: locationOf(stores, c.stock.store), bin: c.stock.bin }));
  await ensureBins(ctx, spots);
  const posted = await record(ctx, {
    kind: "receipt",
    document: number,
    day: body.day,
    reason: body.note,
    movements: kept.map((c, i) => ({
      ...arrival(c.stock, c.item.id, spots[i]?.location ?? 0, "bought"),
      source: { document: "purchase", id: c.line.purchase_id, line: c.line.id },
    })),
    lots: kept
      .filter((c) => c.stock.lot !== "")
      .map((c) => ({ item: c.item.id, lot: c.stock.lot, expiry: c.stock.expiry, madeOn: c.madeOn })),
    units: kept
      .filter((c) => c.stock.serial !== "")
      .map((c) => ({ item: c.item.id, serial: c.stock.serial, expiry: c.stock.expiry, madeOn: c.madeOn })),
  });
  return posted.id;
}

interface Receipt {
  purchase: number;
  number: string;
  posting: number | null;
  body: ReceiptInput;
  came: readonly Came[];
}

async function writeReceipt(
  ctx: Writing,
  { purchase, number, posting, body, came }: Receipt,
): Promise<number | null> {
  if (came.length === 0) return null;
  const row = await ctx.model(RECEIPT).create({
    number,
    purchase_id: purchase,
    posting_id: posting,
    person_id: ctx.person.id,
    moment: ctx.moment,
    day: body.day,
    note: body.note,
  });
  const { id } = row.get({ plain: true });
  const stores = await storeIds(ctx);
  await ctx.sql.insert(
    RECEIPT_LINE,
    came.map(({ line, item, stock, pricePer }, i) => ({
      receipt_id: id,
      position: i + 1,
      line_id: line.id,
      quantity: quantityToScaled(stock.quantity),
      price: moneyToScaled(stock.unitCost.amount),
      price_per: quantityToScaled(stock.unitCost.per),
      price_unit: pricePer,
      lot: stock.lot,
      serial: stock.serial,
      location_id: stocked(item) ? stores(stock.store) : null,
      bin: stock.bin,
    })),
  );
  return id;
}

/** Brings the lines forward, and the order with them: part received while anything is still waited for. */
async function writeProgress(
  ctx: Writing,
  id: number,
  body: ReceiptInput,
  lines: ReadonlyMap<number, PurchaseLineRow>,
): Promise<void> {
  const rows = [...groupBy(body.lines, (typed) => typed.line)].map(([line, entries]) => {
    const kept = lines.get(line);
    const came = sum(entries.map((typed) => typed.quantity));
    const received = (kept?.received ?? 0) + quantityToScaled(came);
    const rest = Math.max(0, (kept?.quantity ?? 0) - received);
    const closed = kept?.closed === 1 || (rest > 0 && entries.some((typed) => typed.close));
    return { id: line, received, open: closed ? 0 : rest, closed: closed ? 1 : 0 };
  });
  await ctx.sql.update(PURCHASE_LINE, ["id"], rows);
  await settleStage(ctx, id);
}

/** An order ends when nothing more is waited for: received where anything came, else cancelled. */
async function settleStage(ctx: Writing, id: number): Promise<void> {
  await ctx.sql.run(
    `UPDATE purchase SET stage = s.stage,
            received_by = CASE s.stage WHEN 'received' THEN $person END, received_at = CASE s.stage WHEN 'received' THEN $moment END,
            cancelled_by = CASE s.stage WHEN 'cancelled' THEN $person END, cancelled_at = CASE s.stage WHEN 'cancelled' THEN $moment END
       FROM (SELECT CASE WHEN SUM(open) = 0 AND SUM(received) = 0 THEN 'cancelled' WHEN SUM(open) = 0 THEN 'received'
                         WHEN SUM(received) > 0 THEN 'part received' ELSE 'sent' END AS stage
               FROM purchase_line WHERE purchase_id = $id) s WHERE id = $id`,
    { id, person: ctx.person.id, moment: ctx.moment },
  );
}

/** Takes a receipt back: stock and value as they were, and what came is waited for again. Gives the order's id. */
export async function undoReceipt(ctx: Writing, receipt: number): Promise<number> {
  const row = await ctx.sql.one<{
    number: string;
    purchase: number;
    posting: number | null;
    undone_at: string | null;
  }>(
    "SELECT number, purchase_id AS purchase, posting_id AS posting, undone_at FROM receipt WHERE id = $receipt",
    { receipt },
  );
  if (!row) throw new Refusal("not-found", { what: "receipt", id: receipt });
  if (row.undone_at !== null) throw new Refusal("receipt-undone", { number: row.number });
  const shipped = await ctx.sql.one<{ number: string }>(
    "SELECT number FROM shipment_head WHERE receipt_id = $receipt AND undone_at IS NULL",
    { receipt },
  );
  if (shipped) throw new Refusal("direct-undo", { number: row.number, shipment: shipped.number });
  await undoCorrections(ctx, receipt);
  if (row.posting !== null)
    await undo(ctx, {
      kind: "receipt",
      document: row.number,
      reason: "",
      undoes: row.posting,
    });
  await ctx
    .model(RECEIPT)
    .update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id: receipt } });
  await ctx.sql.run(
    `UPDATE purchase_line SET received = received - c.quantity, closed = 0, open = MAX(0, purchase_line.quantity - received + c.quantity)
       FROM (SELECT line_id, SUM(quantity) AS quantity FROM receipt_line WHERE receipt_id = $receipt GROUP BY line_id) c
      WHERE id = c.line_id`,
    { receipt },
  );
  await settleStage(ctx, row.purchase);
  return row.purchase;
}
