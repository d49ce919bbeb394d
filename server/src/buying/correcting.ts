import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  added,
  type Decimal,
  lost,
  type Movement,
  moneyToScaled,
  poolOf,
  priceCorrection,
  quantityFromScaled,
  quantityToScaled,
  valueAt,
  ZERO,
} from "@yosegi/core";
import { nextNumber, rateFromScaled, type Writing } from "../db/index.ts";
import { loadUnits, packTexts, pricedRate } from "../items/index.ts";
import { loadBooks, record, undo } from "../ledger/index.ts";
import { PRICE_CORRECTION, RECEIPT_LINE } from "./tables.ts";

interface ReceivedRow {
  number: string;
  undone_at: string | null;
  purchase: number;
  line: number;
  item: number;
  code: string;
  unit: string;
  packs: string;
  quantity: number;
  price: number;
  price_per: number;
  price_unit: string;
  lot: string;
  serial: string;
  /** Where it came in; null for what is not stock-tracked. */
  location: number | null;
  bin: string;
}

/**
 * Puts the price of a received line right afterwards (docs/rules.md § 5): what is still on hand takes its share of the
 * difference, the rest is a price difference with its reason; builds that are finished stay as they are. Gives the order's id.
 */
export async function correctPrice(
  ctx: Writing,
  receipt: number,
  body: ParsedBody<typeof routes.correctPrice>,
): Promise<number> {
  const row = await receivedRow(ctx, receipt, body.line);
  if (row.undone_at !== null) throw new Refusal("receipt-undone", { number: row.number });
  const priced = { code: row.code, unit: row.unit, packs: packTexts(row.packs) };
  const rate = pricedRate("pricePer", body.price, body.pricePer, priced, await loadUnits(ctx));
  const quantity = quantityFromScaled(row.quantity);
  const difference = valueAt(quantity, rate).minus(
    valueAt(quantity, rateFromScaled(row.price, row.price_per)),
  );
  if (difference.eq(0)) throw Refusal.at("price", "price-same", { code: row.code });
  const number = await nextNumber(ctx, "K");
  const posting =
    row.location === null
      ? null
      : await postCorrection(ctx, row, row.location, number, difference, body.reason);
  const { price, price_per, price_unit } = row;
  await ctx.model(PRICE_CORRECTION).create({
    number,
    receipt_id: receipt,
    position: body.line,
    price,
    price_per,
    price_unit,
    reason: body.reason,
    posting_id: posting,
    person_id: ctx.person.id,
    moment: ctx.moment,
  });
  await ctx.model(RECEIPT_LINE).update(
    {
      price: moneyToScaled(rate.amount),
      price_per: quantityToScaled(rate.per),
      price_unit: body.pricePer,
    },
    { where: { receipt_id: receipt, position: body.line } },
  );
  return row.purchase;
}

async function receivedRow(ctx: Writing, receipt: number, line: number): Promise<ReceivedRow> {
  const row = await ctx.sql.one<ReceivedRow>(
    `SELECT r.number, r.undone_at, r.purchase_id AS purchase, l.id AS line, l.item_id AS item, i.code, i.unit, i.packs,
            x.quantity, x.price, x.price_per, x.price_unit, x.lot, x.serial, x.location_id AS location, x.bin
       FROM receipt r JOIN receipt_line x ON x.receipt_id = r.id AND x.position = $line
       JOIN purchase_line l ON l.id = x.line_id JOIN item_head i ON i.id = l.item_id WHERE r.id = $receipt`,
    { receipt, line },
  );
  if (!row) throw new Refusal("not-found", { what: "line of a receipt", id: line });
  return row;
}

/** Takes back all that was put right of a receipt, the last first, before it is undone itself. */
export async function undoCorrections(ctx: Writing, receipt: number): Promise<void> {
  const corrections = await ctx.sql.all<{ number: string; posting: number }>(
    `SELECT number, posting_id AS posting FROM price_correction
      WHERE receipt_id = $receipt AND posting_id IS NOT NULL ORDER BY id DESC`,
    { receipt },
  );
  for (const { number, posting } of corrections)
    await undo(ctx, { kind: "correction", document: number, reason: "", undoes: posting });
}

/** Gives the posting. */
async function postCorrection(
  ctx: Writing,
  row: ReceivedRow,
  location: number,
  document: string,
  difference: Decimal,
  reason: string,
): Promise<number> {
  const { stock } = await loadBooks(ctx, [row.item]);
  const key = { item: row.item, lot: row.lot, serial: row.serial };
  const own = poolOf(stock.pools, key, undefined);
  const { pool, rest } = priceCorrection(difference, own, quantityFromScaled(row.quantity));
  const spot = { location, bin: row.bin };
  const movement: Movement = {
    ...key,
    purpose: "corrected",
    source: { document: "purchase", id: row.purchase, line: row.line },
    quantity: ZERO,
    value: pool.abs(),
    from: pool.lt(0) ? spot : null,
    to: pool.lt(0) ? null : spot,
  };
  const recorded = await record(ctx, {
    kind: "correction",
    document,
    day: ctx.today,
    reason,
    movements: pool.eq(0) ? [] : [movement],
    entries: [...added("price corrected", rest), ...lost("price difference", rest, reason)],
    lots: [],
    books: stock,
  });
  return recorded.id;
}
