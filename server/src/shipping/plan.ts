import { type ItemBrief, Refusal, type ShipInput } from "@yosegi/contract";
import {
  type CreditStop,
  componentsLeft,
  type Decimal,
  type LeftOfLine,
  lineTotal,
  margin,
  moneyFromScaled,
  ONE,
  type PickableStock,
  type PickedComponent,
  pickLeaving,
  post,
  QUANTITY_DECIMALS,
  quantityFromScaled,
  quantityOf,
  quantityToScaled,
  type Rate,
  revenueSoFar,
  type SoldComponent,
  type SoldLine,
  type StockState,
  shareRevenue,
  shipmentMovements,
  sum,
  sumIfKnown,
  type Valued,
  type ValuedMovement,
  valueAt,
  wholeLeft,
  ZERO,
} from "@yosegi/core";
import { buildsById } from "../builds/index.ts";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { loadBooks } from "../ledger/index.ts";
import { currentCosts } from "../lists/index.ts";
import {
  askedFor,
  type CustomerTerms,
  hasLeft,
  moneyIn,
  type OrderedLine,
  type OrderTableRow,
  orderById,
  orderedLines,
  refuseNotOpen,
  savedSets,
  setItems,
  stopAtShipping,
  withTax,
} from "../orders/index.ts";
import { type AskedLine, askedLines, lineAfter } from "./asked.ts";
import { finishedOf, serialsFinished, stockToFinish } from "./finishing.ts";
import { type InTurn, takenFromOthers } from "./turn.ts";

/** What a shipment brings and costs of one thing that leaves. */
export interface PlannedComponent {
  item: number;
  stocked: boolean;
  quantity: Decimal;
  revenue: Decimal;
  /** The value that leaves stock, or what is not stock-tracked costs now; null where there is not enough stock. */
  cost: Decimal | null;
  /** Of what is stocked. */
  picked: PickedComponent | null;
}

export interface PlannedLine extends AskedLine {
  after: OrderedLine;
  /** Whole sets or units that are complete with it. */
  complete: Decimal;
  revenue: Decimal;
  components: PlannedComponent[];
}

/** A shipment as it would be recorded; `posted` is null where there is not enough stock. */
export interface Planned {
  order: OrderTableRow;
  lines: PlannedLine[];
  picked: PickedComponent[];
  ready: readonly PickableStock[];
  books: StockState;
  /** Where what is packed for the order lies; null where nothing is. */
  packed: number | null;
  posted: Valued | null;
  takesFrom: InTurn[];
  stop: CreditStop | null;
  /** null where nothing can stop it. */
  terms: CustomerTerms | null;
  /** What the order comes to with tax. */
  worth: Decimal;
  brief: (item: number) => ItemBrief;
  /** Whether something stays open. */
  rest: boolean;
}

export interface PlanChoices {
  /** The builds that are finished with it are finished already. */
  isFinished?: boolean;
  /** What suppliers delivered straight to the customer, by line. */
  delivered?: ReadonlyMap<number, PickedComponent["taken"]>;
}

/**
 * What a shipment of an order would take, bring and cost (docs/rules.md § 12). Refuses what is not the order's to ship.
 */
export async function planShipment(
  ctx: Reading,
  id: number,
  body: ShipInput,
  { isFinished = false, delivered = new Map() }: PlanChoices = {},
): Promise<Planned> {
  if (body.day > ctx.today) throw Refusal.at("day", "day-future");
  const order = await orderById(ctx, id);
  refuseNotOpen(order);
  const all = await orderedLines(ctx, [id]);
  const items = new Set(all.flatMap((line) => [line.item, ...line.components.map((own) => own.item)]));
  const brief = await briefs(ctx, items);
  const asked = askedLines(all, body, brief);
  for (const { at, line } of asked)
    if (line.price === null)
      throw Refusal.at(at === null ? "lines" : `lines.${at}.line`, "ship-no-price", {
        code: brief(line.item).code,
      });
  const stocked = asked.flatMap(({ leaving }) => leaving.map((own) => own.item));
  const { stock, ready: inStock, packed: inBins } = await loadBooks(ctx, stocked);
  const packed = inBins.filter((balance) => balance.bin === order.number);
  // While it is only looked at, what is to be finished with it counts as in stock; its value is not known yet.
  const toCome = isFinished ? [] : await stockToFinish(ctx, order, body.finishes);
  const ready = [...packed, ...inStock, ...toCome];
  for (const { at, line } of asked)
    if (line.bySupplier && !delivered.has(line.id))
      throw Refusal.at(at === null ? "lines" : `lines.${at}.quantity`, "line-by-supplier", {
        code: brief(line.item).code,
      });
  const [direct, own] = [asked.filter(isDelivered), asked.filter((one) => !isDelivered(one))];
  const picked = [
    ...direct.flatMap((one) => pickDelivered(one, delivered)),
    ...(await pick(ctx, own, ready, body, packed[0]?.location ?? null)),
  ];
  const isUnknown = toCome.length > 0 || picked.some(({ short }) => short.gt(0));
  const posted = isUnknown ? null : post(stock, shipmentMovements(id, picked));
  const valued = posted?.ok ? posted : null;
  const lines = await moneyOf(ctx, asked, picked, valued?.movements ?? null);
  const worth = withTax(
    ctx,
    all.map(({ quantity, price, discount, taxRate }) => ({
      taxRate,
      total: price && lineTotal(quantityFromScaled(quantity), price, discount, ctx.currencyDecimals),
    })),
  );
  const afterOf = new Map(lines.map(({ line, after }) => [line.id, after]));
  return {
    order,
    lines,
    picked,
    ready,
    books: stock,
    packed: packed[0]?.location ?? null,
    posted: valued,
    takesFrom: await takenFromOthers(ctx, all, fromStock(picked, packed), finishedOf(toCome)),
    ...(await stopAtShipping(ctx, order, worth)),
    worth,
    brief,
    rest: all.some((line) => isOpen(afterOf.get(line.id) ?? line)),
  };
}

/** What of a shipment comes from stock that is there for all, of each item in whole millionths: not what is packed, nor delivered directly. */
function fromStock(
  picked: readonly PickedComponent[],
  packed: readonly PickableStock[],
): Map<number, number> {
  const [bin] = packed;
  const found = new Map<number, number>();
  for (const { item, taken } of picked)
    for (const { from, quantity, value } of taken)
      if (value === undefined && from.location !== bin?.location)
        found.set(item, (found.get(item) ?? 0) + quantityToScaled(quantity));
  return found;
}

const isOpen = ({ quantity, shipped, closed, components }: OrderedLine): boolean =>
  components.length === 0 ? quantity - shipped - closed > 0 : components.some((own) => own.open > 0);

const isDelivered = ({ line }: AskedLine): boolean => line.bySupplier;

/** What a supplier delivered of a line is what leaves of it, at the value that it came in with. */
const pickDelivered = (
  { line, leaving }: AskedLine,
  delivered: NonNullable<PlanChoices["delivered"]>,
): PickedComponent[] =>
  leaving.map((one) => {
    const taken = delivered.get(line.id) ?? [];
    return { ...one, line: line.id, taken, short: one.quantity.minus(quantityOf(taken)) };
  });

/** Takes what is to leave from stock; the unit that a line asks for, and none that another order asks for, unless it is named. */
async function pick(
  ctx: Reading,
  asked: readonly AskedLine[],
  ready: readonly PickableStock[],
  body: ShipInput,
  packed: number | null,
): Promise<PickedComponent[]> {
  const builds =
    body.finishes.length === 0
      ? new Map()
      : await buildsById(
          ctx,
          body.finishes.map(({ build }) => build),
        );
  const product = (build: number) => builds.get(build)?.product_id ?? 0;
  const leaving = asked.flatMap(({ line, leaving: own }) =>
    own.map((one) => {
      const { item, quantity, only } = one;
      const asksFor = line.serial !== "" && item === line.item ? [line.serial] : [];
      const wanted = asksFor.length > 0 ? asksFor : serialsFinished(body.finishes, product, item, quantity);
      // What is packed leaves first.
      return { ...one, line: line.id, only: only.length > 0 ? only : wanted, store: packed };
    }),
  );
  const numbered = ready.filter(({ serial }) => serial !== "");
  if (numbered.length === 0) return pickLeaving(leaving, ready, body.day);
  const others = await askedFor(
    ctx,
    numbered.map(({ item }) => item),
    asked.map(({ line }) => line.id),
  );
  const named = new Set(leaving.flatMap(({ item, only }) => only.map((code) => `${item} ${code}`)));
  const free = ready.filter(({ item, serial }) => {
    const key = `${item} ${serial}`;
    return serial === "" || named.has(key) || !others.has(key);
  });
  return pickLeaving(leaving, free, body.day);
}

/** What was counted of lines by shipments that stand. */
export async function countedOf(ctx: Reading, lines: readonly number[]): Promise<(line: number) => Decimal> {
  if (lines.length === 0) return () => ZERO;
  const rows = await ctx.sql.all<{ line: number; revenue: number }>(
    `SELECT l.line_id AS line, SUM(l.revenue) AS revenue FROM json_each($lines) ids
       JOIN shipment_line l ON l.line_id = ids.value JOIN shipment s ON s.id = l.shipment_id AND s.undone_at IS NULL GROUP BY 1`,
    { lines: asJson(lines) },
  );
  const found = new Map(rows.map((row) => [row.line, moneyFromScaled(row.revenue)]));
  return (line) => found.get(line) ?? ZERO;
}

/** Lines as they are sold: each the item itself, or what is in its set. */
export async function soldAs(ctx: Reading, lines: readonly OrderedLine[]): Promise<SoldLine[]> {
  const sets = await savedSets(
    ctx,
    lines.map(({ id }) => id),
  );
  const itemOf = sets.size === 0 ? NO_MONEY : moneyIn(await setItems(ctx, sets.values()));
  return lines.map((line) => soldLine(line, sets.get(line.id)?.contents ?? null, itemOf));
}

/** What each line that leaves brings, shared over what leaves of it, and what that costs. */
async function moneyOf(
  ctx: Reading,
  asked: readonly AskedLine[],
  picked: readonly PickedComponent[],
  movements: readonly ValuedMovement[] | null,
): Promise<PlannedLine[]> {
  const counted = await countedOf(
    ctx,
    asked.flatMap(({ line }) => (hasLeft(line) ? [line.id] : [])),
  );
  const sold = await soldAs(
    ctx,
    asked.map(({ line }) => line),
  );
  const unstocked = sold.flatMap(({ components }) =>
    components.filter((own) => !own.stocked).map((own) => own.item),
  );
  const costOf = unstocked.length === 0 ? () => null : await currentCosts(ctx, unstocked);
  const values = groupBy(movements ?? [], (m) => `${m.source?.line} ${m.item}`);
  const pickOf = new Map(picked.map((own) => [`${own.line} ${own.item}`, own]));
  return asked.map((own, i): PlannedLine => {
    const { line } = own;
    const after = lineAfter(own);
    const of = sold[i];
    if (!of) throw new Error("Each line that leaves is sold");
    const [before, now] = [leftOf(line), leftOf(after)];
    const had = componentsLeft(of, before);
    const quantities = componentsLeft(of, now).map((n, c) => n.minus(had[c] ?? ZERO));
    const revenue = revenueSoFar(of, now, ctx.currencyDecimals).minus(counted(line.id));
    const shares = shareRevenue(revenue, of.components, quantities, ctx.currencyDecimals);
    return {
      ...own,
      after,
      complete: wholeLeft(of, now).minus(wholeLeft(of, before)),
      revenue,
      components: of.components.flatMap(({ item, stocked }, c): PlannedComponent[] => {
        const quantity = quantities[c] ?? ZERO;
        const key = `${line.id} ${item}`;
        if (quantity.eq(0)) return [];
        return [
          {
            item,
            stocked,
            quantity,
            revenue: shares[c] ?? ZERO,
            cost: stocked
              ? movements && sum((values.get(key) ?? []).map((m) => m.value))
              : costNow(quantity, costOf(item)),
            picked: stocked ? (pickOf.get(key) ?? null) : null,
          },
        ];
      }),
    };
  });
}

/** Of an order without sets no price is shared out. */
const NO_MONEY = () => ({ price: null, cost: null });

const costNow = (quantity: Decimal, rate: Rate | null): Decimal => (rate ? valueAt(quantity, rate) : ZERO);

/** A line as it is sold: the item itself, or what is in its set, each content once. */
function soldLine(
  { item, quantity, price, discount, components }: OrderedLine,
  contents: readonly { item: number; quantity: Decimal }[] | null,
  money: ReturnType<typeof moneyIn>,
): SoldLine {
  if (price === null) throw new Error("A line without a price is not shipped");
  const sold = { quantity: quantityFromScaled(quantity), price, discount };
  const own: SoldComponent = { item, quantity: ONE, stocked: components.length > 0, price: null, cost: null };
  if (contents === null) return { ...sold, decimals: QUANTITY_DECIMALS, components: [own] };
  const stocked = new Set(components.map((component) => component.item));
  return {
    ...sold,
    // Kits are sold in whole sets.
    decimals: 0,
    components: [...groupBy(contents, (content) => content.item)].map(([content, same]) => ({
      item: content,
      quantity: sum(same.map((one) => one.quantity)),
      stocked: stocked.has(content),
      ...money(content),
    })),
  };
}

/** What left of a line so far. */
export const leftOf = ({ shipped, components }: OrderedLine): LeftOfLine => {
  const left = new Map(components.map((own) => [own.item, quantityFromScaled(own.shipped)]));
  return { of: (item) => left.get(item) ?? ZERO, units: quantityFromScaled(shipped) };
};

/** What lines or components bring, less what they cost; null where that is not known. */
export function moneyAnswer(ctx: Reading, revenue: Decimal, cost: Decimal | null) {
  const rest = cost && margin(revenue, cost);
  return {
    revenue: revenue.toFixed(ctx.currencyDecimals),
    cost: cost?.toFixed(4) ?? null,
    margin: rest?.money.toFixed(4) ?? null,
    marginPercent: rest?.percent?.toFixed(1) ?? null,
  };
}

/** What several cost in all; null where one is not known. */
export const costOfAll = (lines: readonly Pick<PlannedLine, "components">[]): Decimal | null =>
  sumIfKnown(lines.flatMap(({ components }) => components.map(({ cost }) => cost)));
