import { type ReceiveBody, Refusal } from "@yosegi/contract";
import {
  checkDecimals,
  checkStock,
  type Decimal,
  decimal,
  isStocked,
  moneyFromWhole,
  moneyToWhole,
  ONE,
  type Problem,
  quantityFromWhole,
  quantityToWhole,
  reporter,
  type StockRow,
  sum,
  type Tracking,
} from "@yosegi/core";
import {
  ensureBins,
  knownItems,
  loadUnits,
  placeOf,
  refuseProblems,
  storeIds,
  unitNamed,
} from "../catalog/index.ts";
import { asJson, nextNumber, type Writing } from "../db/index.ts";
import { record, undo } from "../ledger/index.ts";
import { arrival, knownStock } from "../stock/index.ts";
import { COMING, refuseStage } from "./ordering.ts";
import { linesOf, type PurchaseLineRow, purchaseById } from "./purchases.ts";

interface ItemOfLine {
  id: number;
  code: string;
  unit: string;
  kind: "bought" | "built" | "service" | "kit";
  tracking: Tracking;
  not_counted: number;
  store: string;
}

/** One lot, serial or plain quantity that came, of one line. */
interface Came {
  line: PurchaseLineRow;
  item: ItemOfLine;
  stock: StockRow & { unitCost: Decimal };
}

type Typed = ReceiveBody["lines"][number];

/** Takes in what came of an order: stock at the price it has, the rest still to come or given up. */
export async function receivePurchase(ctx: Writing, id: number, body: ReceiveBody): Promise<void> {
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
  await writeReceipt(ctx, { purchase: id, number, posting, body, came });
  await writeProgress(ctx, id, body, lines);
}

async function itemsOf(ctx: Writing, ids: readonly number[]): Promise<Map<number, ItemOfLine>> {
  const rows = await ctx.sql.all<ItemOfLine>(
    `SELECT i.id, i.code, i.unit, i.kind, i.tracking, i.not_counted,
            COALESCE(p.name, (SELECT name FROM place WHERE kind = 'store' ORDER BY id LIMIT 1)) AS store
       FROM json_each($ids) ids JOIN item i ON i.id = ids.value LEFT JOIN place p ON p.id = i.home_place_id`,
    { ids: asJson(new Set(ids)) },
  );
  return new Map(rows.map((row) => [row.id, row]));
}

const stocked = (item: ItemOfLine): boolean =>
  isStocked({ kind: item.kind, notCounted: item.not_counted === 1 });

/** Checks each line as it is typed; what comes in by lots and serials becomes one row each. */
async function checkReceipt(
  ctx: Writing,
  body: ReceiveBody,
  lines: ReadonlyMap<number, PurchaseLineRow>,
  items: ReadonlyMap<number, ItemOfLine>,
): Promise<Came[]> {
  const units = await loadUnits(ctx);
  const stores = await storeIds(ctx);
  const problems: Problem[] = [];
  const came: Came[] = [];
  for (const [i, typed] of body.lines.entries()) {
    const line = lines.get(typed.line);
    const item = line && items.get(line.item_id);
    if (!line || !item) throw Refusal.at(`lines.${i}.line`, "not-found", { what: "line", id: typed.line });
    const quantity = decimal(typed.quantity);
    checkDecimals("quantity", quantity, unitNamed(units, item.unit), reporter(i, problems));
    if (quantity.gt(0)) refuseMore(body, line, item, quantity, i);
    const store = typed.store === "" ? item.store : typed.store;
    if (stores(store) === null) throw Refusal.at(`lines.${i}.store`, "store-unknown", { store });
    came.push(...rowsOf(typed, line, item, i, store));
  }
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
  if (came.length === 0 && !body.lines.some((line) => line.close))
    throw Refusal.at("lines.0.quantity", "build-empty");
  await checkNumbers(ctx, came);
  return came;
}

/** More than was ordered is kept only where the person says so. */
function refuseMore(
  body: ReceiveBody,
  line: PurchaseLineRow,
  item: ItemOfLine,
  quantity: Decimal,
  at: number,
): void {
  const open = quantityFromWhole(line.open);
  if (body.more || quantity.lte(open)) return;
  throw Refusal.at(`lines.${at}.quantity`, "over-delivery", {
    ...{ code: item.code, unit: item.unit, open: open.toFixed() },
    more: quantity.minus(open).toFixed(),
  });
}

function rowsOf(typed: Typed, line: PurchaseLineRow, item: ItemOfLine, at: number, store: string): Came[] {
  const quantity = decimal(typed.quantity);
  if (quantity.eq(0)) return [];
  const unitCost = typed.price === null ? moneyFromWhole(line.price) : decimal(typed.price);
  const row = (more: Partial<Omit<StockRow, "unitCost">>): Came => ({
    ...{ line, item },
    stock: {
      ...{
        row: at,
        item: item.code,
        quantity,
        unitCost,
        store,
        bin: typed.bin,
        lot: "",
        expiry: null,
        serial: "",
      },
      ...more,
    },
  });
  if (item.tracking === "lot") {
    const given = sum(typed.lots.map((l) => decimal(l.quantity)));
    if (!given.eq(quantity))
      throw Refusal.at(`lines.${at}.lots`, "lots-sum", {
        ...{ code: item.code, given: given.toFixed(), quantity: quantity.toFixed() },
      });
    return typed.lots.map((l) => row({ lot: l.lot, expiry: l.expiry, quantity: decimal(l.quantity) }));
  }
  if (item.tracking === "serial") {
    if (!quantity.eq(typed.serials.length))
      throw Refusal.at(`lines.${at}.serials`, "serial-count", {
        good: quantity.toFixed(),
        given: typed.serials.length,
      });
    return typed.serials.map((serial) => row({ serial, quantity: ONE }));
  }
  return [row({})];
}

/** Lots and serials by the rules that hold for all that comes in. */
async function checkNumbers(ctx: Writing, came: readonly Came[]): Promise<void> {
  const rows = came.filter((c) => stocked(c.item)).map((c) => c.stock);
  const codes = rows.map((row) => row.item);
  const { problems } = checkStock(
    rows,
    await knownItems(ctx, codes),
    await loadUnits(ctx),
    await knownStock(ctx, codes),
    false,
  );
  const field: Record<string, string> = { lot: "lots", expiry: "lots", serial: "serials" };
  refuseProblems(problems, (p) => `lines.${p.row}.${field[p.field] ?? p.field}`);
}

/** What is kept on the books comes in; what is not only costs. Gives the posting; null where nothing is kept. */
async function postReceipt(
  ctx: Writing,
  number: string,
  body: ReceiveBody,
  came: readonly Came[],
): Promise<number | null> {
  const kept = came.filter((c) => stocked(c.item));
  if (kept.length === 0) return null;
  const stores = await storeIds(ctx);
  const spots = kept.map((c) => ({ place: placeOf(stores, c.stock.store), bin: c.stock.bin }));
  await ensureBins(ctx, spots);
  const posted = await record(ctx, {
    kind: "receipt",
    document: number,
    build: null,
    day: body.day,
    reason: body.note,
    movements: kept.map((c, i) => arrival(c.stock, c.item.id, spots[i]?.place ?? 0)),
    lots: kept
      .filter((c) => c.stock.lot !== "")
      .map((c) => ({ item: c.item.id, lot: c.stock.lot, expiry: c.stock.expiry })),
  });
  return posted.id;
}

interface Receipt {
  purchase: number;
  number: string;
  posting: number | null;
  body: ReceiveBody;
  came: readonly Came[];
}

async function writeReceipt(ctx: Writing, { purchase, number, posting, body, came }: Receipt): Promise<void> {
  if (came.length === 0) return;
  await ctx.sql.run(
    `INSERT INTO receipt (number, purchase_id, posting_id, person_id, moment, day, note)
     VALUES ($number, $purchase, $posting, $person, $moment, $day, $note)`,
    { number, purchase, posting, person: ctx.person.id, moment: ctx.moment, day: body.day, note: body.note },
  );
  const stores = await storeIds(ctx);
  const rows = came.map((c, i) => [
    ...[i + 1, c.line.id, quantityToWhole(c.stock.quantity), moneyToWhole(c.stock.unitCost), c.stock.lot],
    ...[c.stock.serial, stocked(c.item) ? stores(c.stock.store) : null, c.stock.bin],
  ]);
  await ctx.sql.run(
    `INSERT INTO receipt_line (receipt_id, position, line_id, quantity, price, lot, serial, place_id, bin)
     SELECT (SELECT id FROM receipt WHERE number = $number), value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4,
            value ->> 5, value ->> 6, value ->> 7 FROM json_each($rows)`,
    { number, rows: asJson(rows) },
  );
}

/** Brings the lines forward, and the order with them: part received while anything is still waited for. */
async function writeProgress(
  ctx: Writing,
  id: number,
  body: ReceiveBody,
  lines: ReadonlyMap<number, PurchaseLineRow>,
): Promise<void> {
  const rows = body.lines.map((typed) => {
    const line = lines.get(typed.line);
    const received = (line?.received ?? 0) + quantityToWhole(decimal(typed.quantity));
    const rest = Math.max(0, (line?.quantity ?? 0) - received);
    const closed = line?.closed === 1 || (typed.close && rest > 0);
    return [typed.line, received, closed ? 0 : rest, closed ? 1 : 0];
  });
  await ctx.sql.run(
    `UPDATE purchase_line SET received = r.value ->> 1, open = r.value ->> 2, closed = r.value ->> 3
       FROM json_each($rows) r WHERE purchase_id = $id AND purchase_line.id = r.value ->> 0`,
    { id, rows: asJson(rows) },
  );
  await settleStage(ctx, id);
}

async function settleStage(ctx: Writing, id: number): Promise<void> {
  await ctx.sql.run(
    `UPDATE purchase SET stage = s.stage,
            received_by = CASE s.stage WHEN 'received' THEN $person END, received_at = CASE s.stage WHEN 'received' THEN $moment END
       FROM (SELECT CASE WHEN SUM(open) = 0 THEN 'received' WHEN SUM(received) > 0 THEN 'part received' ELSE 'sent' END AS stage
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
  if (row.posting !== null)
    await undo(ctx, {
      ...{ kind: "receipt", document: row.number, build: null, day: ctx.today, reason: "" },
      undoes: row.posting,
    });
  await ctx.sql.run("UPDATE receipt SET undone_by = $person, undone_at = $moment WHERE id = $receipt", {
    ...{ receipt, person: ctx.person.id, moment: ctx.moment },
  });
  await ctx.sql.run(
    `UPDATE purchase_line SET received = received - c.quantity, closed = 0, open = MAX(0, purchase_line.quantity - received + c.quantity)
       FROM (SELECT line_id, SUM(quantity) AS quantity FROM receipt_line WHERE receipt_id = $receipt GROUP BY line_id) c
      WHERE id = c.line_id`,
    { receipt },
  );
  await settleStage(ctx, row.purchase);
  return row.purchase;
}
