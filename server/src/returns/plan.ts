import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  checkDecimals,
  creditDue,
  creditFor,
  type Decimal,
  enteringValue,
  isStocked,
  max,
  moneyFromScaled,
  ONE,
  type Problem,
  quantityFromScaled,
  reporter,
  shareCredit,
  split,
  sum,
  valueAt,
  ZERO,
} from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { briefs, checkCurrency } from "../items/index.ts";
import { itemRows } from "../itemsheets/index.ts";
import { currentCosts } from "../lists/index.ts";
import { orderedLines, taxAnswer, taxRates } from "../orders/index.ts";
import { refuseProblems } from "../problems.ts";
import { countedOf, leftOf, soldAs } from "../shipping/index.ts";
import { refuseTracking } from "../stock/index.ts";
import { type FromShipment, type Piece, shipmentOf, shippedPieces } from "./returnable.ts";

export type ReturnInput = ParsedBody<typeof routes.newReturn>;
type Line = ReturnInput["lines"][number];

/** A line of a return as it would be received. */
export interface PlannedLine extends Line {
  value: Decimal;
  credit: Decimal;
  /** Percent. */
  taxRate: Decimal;
}

export interface PlannedReturn {
  customer: number;
  shipment: FromShipment | null;
  lines: PlannedLine[];
}

/** What a return would be credited and carry (docs/rules.md § 12). Refuses what did not leave, or is not with the customer any more. */
export async function planReturn(ctx: Reading, body: ReturnInput): Promise<PlannedReturn> {
  if (body.day > ctx.today) throw Refusal.at("day", "day-future");
  await checkQuantities(ctx, body);
  checkCurrency(ctx, "fee", body.fee);
  for (const [i, { credit }] of body.lines.entries())
    if (credit !== null) checkCurrency(ctx, `lines.${i}.credit`, credit);
  if (body.shipment !== null) return planFromShipment(ctx, body, await shipmentOf(ctx, body.shipment));
  if (body.customer === null) throw Refusal.at("customer", "return-of-nobody");
  await refuseFirm(ctx, "customer", "customer", { id: body.customer });
  return {
    customer: body.customer,
    shipment: null,
    lines: await linesOfNoShipment(ctx, body.customer, body),
  };
}

async function checkQuantities(ctx: Reading, { lines }: ReturnInput): Promise<void> {
  const brief = await briefs(
    ctx,
    lines.map(({ item }) => item),
  );
  const problems: Problem[] = [];
  for (const [i, { item, serial, lot, quantity }] of lines.entries()) {
    const { code, unit, decimals, tracking, kind, notStockTracked } = brief(item);
    if (!isStocked({ kind, notStockTracked }))
      throw Refusal.at(`lines.${i}.item`, "not-stocked", { code, kind });
    checkDecimals("quantity", quantity, { code: unit, decimals }, reporter(i, problems));
    refuseTracking((field) => `lines.${i}.${field}`, { lot, serial }, { code, tracking });
    if (serial !== "" && !quantity.eq(ONE)) throw Refusal.at(`lines.${i}.quantity`, "serial-one", { serial });
  }
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
}

async function planFromShipment(
  ctx: Reading,
  body: ReturnInput,
  shipment: FromShipment,
): Promise<PlannedReturn> {
  if (body.day < shipment.day)
    throw Refusal.at("day", "return-before-shipment", { number: shipment.number, day: shipment.day });
  const pieces = await shippedPieces(ctx, shipment.id);
  const brief = await briefs(
    ctx,
    body.lines.map(({ item }) => item),
  );
  const found = body.lines.map((line, i) => {
    const at = (field: string) => `lines.${i}.${field}`;
    const piece = pieces.find(
      (own) =>
        own.orderLine === line.orderLine &&
        own.item === line.item &&
        own.lot === line.lot &&
        own.serial === line.serial,
    );
    const { code, unit } = brief(line.item);
    const named = [code, line.serial || line.lot].filter(Boolean).join(" ");
    if (!piece) throw Refusal.at(at("item"), "return-not-shipped", { piece: named, number: shipment.number });
    const open = piece.quantity.minus(piece.returned);
    if (line.quantity.gt(open))
      throw Refusal.at(at("quantity"), "return-too-many", { open: open.toFixed(), unit, piece: named });
    if (line.credit !== null) throw Refusal.at(at("credit"), "return-credit-given");
    return { line, piece };
  });
  const credits = await creditsOf(ctx, shipment, found);
  return {
    customer: shipment.customer,
    shipment,
    lines: found.map(({ line, piece }, i) => ({
      ...line,
      value: enteringValue(piece, line.quantity),
      ...(credits[i] ?? { credit: ZERO, taxRate: ZERO }),
    })),
  };
}

/** What each line that came back is credited: of each line of the order what was paid for it, shared over its pieces. */
async function creditsOf(
  ctx: Reading,
  { order }: FromShipment,
  found: readonly { line: Line; piece: Piece }[],
): Promise<{ credit: Decimal; taxRate: Decimal }[]> {
  const ids = new Set(found.map(({ piece }) => piece.orderLine));
  const lines = (await orderedLines(ctx, [order])).filter(({ id }) => ids.has(id));
  const sold = await soldAs(ctx, lines);
  const counted = await countedOf(ctx, [...ids]);
  const before = await returnedBefore(ctx, [...ids]);
  const credits = found.map(() => ({ credit: ZERO, taxRate: ZERO }));
  for (const [at, line] of lines.entries()) {
    const as = sold[at];
    const own = [...found.entries()].filter(([, { piece }]) => piece.orderLine === line.id);
    if (!as) continue;
    const shipped = leftOf(line);
    const returned = (item: number) =>
      before
        .quantity(line.id, item)
        .plus(sum(own.flatMap(([, { line: back }]) => (back.item === item ? [back.quantity] : []))));
    const kept = {
      of: (item: number) => shipped.of(item).minus(returned(item)),
      units: shipped.units.minus(returned(line.item)),
    };
    const money = { revenue: counted(line.id), credited: before.credit(line.id) };
    const credit = creditFor(as, shipped, kept, money, ctx.currencyDecimals);
    const shares = shareCredit(
      credit,
      own.map(([, { line: back, piece }]) => ({
        quantity: back.quantity,
        brought: piece.broughtEach.revenue.times(back.quantity).div(piece.broughtEach.quantity),
      })),
      ctx.currencyDecimals,
    );
    for (const [place, [i]] of own.entries())
      credits[i] = { credit: shares[place] ?? ZERO, taxRate: line.taxRate };
  }
  return credits;
}

/** What came back of lines of orders before, and what was credited for it, by returns that stand. */
async function returnedBefore(ctx: Reading, lines: readonly number[]) {
  const rows = await ctx.sql.all<{ line: number; item: number; quantity: number; credit: number }>(
    `SELECT l.order_line_id AS line, l.item_id AS item, SUM(l.quantity) AS quantity, SUM(l.credit) AS credit
       FROM return_line l JOIN customer_return r ON r.id = l.return_id AND r.undone_at IS NULL
      WHERE l.order_line_id IN (SELECT value FROM json_each($lines)) GROUP BY 1, 2`,
    { lines: asJson(lines) },
  );
  const byLine = groupBy(rows, (row) => row.line);
  const of = (line: number) => byLine.get(line) ?? [];
  return {
    quantity: (line: number, item: number) =>
      sum(of(line).flatMap((row) => (row.item === item ? [quantityFromScaled(row.quantity)] : []))),
    credit: (line: number) => sum(of(line).map((row) => moneyFromScaled(row.credit))),
  };
}

/** Without a shipment goods enter at their current unit cost, and the credit is typed. */
async function linesOfNoShipment(
  ctx: Reading,
  customer: number,
  { lines }: ReturnInput,
): Promise<PlannedLine[]> {
  const items = lines.map(({ item }) => item);
  const costOf = await currentCosts(ctx, items);
  const rateOf = await taxRates(ctx, customer);
  const rows = new Map((await itemRows(ctx, items)).map((row) => [row.id, row]));
  return lines.map((line, i) => {
    if (line.credit === null) throw Refusal.at(`lines.${i}.credit`, "return-credit-needed");
    const cost = costOf(line.item);
    const row = rows.get(line.item);
    return {
      ...line,
      credit: line.credit,
      value: cost ? valueAt(line.quantity, cost) : ZERO,
      taxRate: row ? rateOf(row) : ZERO,
    };
  });
}

/** The money of a return as it is answered: the credit of its lines, less the fee, which each line bears in its share, and the tax. */
export function moneyOf(
  ctx: Reading,
  lines: readonly { credit: Decimal; taxRate: Decimal }[],
  { fee, charges = ZERO }: { fee: Decimal; charges?: Decimal },
  isFree: boolean,
) {
  const credits = lines.map(({ credit }) => credit);
  const due = isFree ? ZERO : creditDue(credits, fee.plus(charges));
  const off = sum(credits).minus(due);
  // A credit below nothing, after a price was lowered, bears no part of the fee.
  const bearing = credits.map((credit) => max(credit, ZERO));
  const shares = off.lte(0) ? credits.map(() => ZERO) : split(off, bearing, ctx.currencyDecimals);
  const { taxes, gross } = taxAnswer(
    ctx,
    lines.map(({ credit, taxRate }, i) => ({ total: credit.minus(shares[i] ?? ZERO), taxRate })),
  );
  const money = (amount: Decimal) => amount.toFixed(ctx.currencyDecimals);
  return {
    credit: money(sum(credits)),
    fee: money(fee),
    charges: money(charges),
    due: money(due),
    taxes,
    gross: gross ?? money(due),
  };
}
