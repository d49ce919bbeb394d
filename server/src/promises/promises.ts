import {
  compareTurns,
  type Decimal,
  type LinePromise,
  type OrderTurn,
  type PromiseSupply,
  promiseLines,
  quantityFromScaled,
  quantityToScaled,
} from "@yosegi/core";
import { allocationsOf } from "../allocations/index.ts";
import { type ItemFacts, loadFactsBelow } from "../cover/index.ts";
import { groupBy, type Reading } from "../db/index.ts";
import { askOf, type OpenLine, openLines } from "./demand.ts";

/** The lines of all open orders in their turn, when each could leave, and what is known of what they take. */
export interface Promises {
  lines: readonly OpenLine[];
  /** In the order of `lines`. */
  promises: readonly LinePromise[];
  factsOf: (item: number) => ItemFacts;
}

/** When each line of every open order could leave (docs/rules.md § 11); kept until the next change. */
export const openPromises = (ctx: Reading): Promise<Promises> =>
  ctx.memo("promises of open orders", async () => {
    const lines = await savedLines(ctx);
    return promised(ctx, lines, lines, await factsFor(ctx, lines));
  });

/** What open orders ask, as it is saved; kept until the next change. */
const savedLines = (ctx: Reading): Promise<OpenLine[]> =>
  ctx.memo("lines of open orders", () => openLines(ctx));

/** An order as it is typed: what its lines would take from stock. */
export interface TypedOrder {
  /** The order that is changed; null for a new one. */
  id: number | null;
  turn: Omit<OrderTurn, "order">;
  lines: readonly {
    id: number | null;
    /** What is open of each item. */
    takes: ReadonlyMap<number, Decimal>;
    /** What left of each already, in whole millionths. */
    shipped: ReadonlyMap<number, number>;
  }[];
}

/** The order after all that there are, which one that is not saved yet will be. */
const NEXT_ORDER = Number.MAX_SAFE_INTEGER;

/**
 * The same as it would be with an order as it is typed; `promisesOfTyped` picks out its own lines. `only`: no promise is told of lines
 * whose turn comes after it, which takes a fraction of the time among thousands.
 */
export async function promisesWith(ctx: Reading, typed: TypedOrder, only = false): Promise<Promises> {
  const before = await savedLines(ctx);
  const others = before.filter((line) => line.order.order !== typed.id);
  const order = { ...typed.turn, order: typed.id ?? NEXT_ORDER, number: "", customer: "" };
  const allocations = groupBy(
    await allocationsOf(
      ctx,
      typed.lines.flatMap((line) => line.id ?? []),
    ),
    ({ line, product }) => `${line} ${product}`,
  );
  const own = typed.lines.map(({ id, takes, shipped }, i): OpenLine => {
    const components = [...takes].map(([item, quantity]) =>
      askOf(
        { item, open: quantityToScaled(quantity), shipped: shipped.get(item) ?? 0 },
        allocations.get(`${id} ${item}`) ?? [],
      ),
    );
    return { line: typedLine(i), due: typed.turn.due, order, components };
  });
  const lines = [...others, ...own];
  return promised(ctx, lines, before, await factsFor(ctx, lines), only);
}

/** What a typed line at a place is known by among the saved ones. */
export const typedLine = (at: number): number => -1 - at;

/** The promises of an order's own lines as they were typed, in their places. */
export function promisesOfTyped({ promises }: Promises): LinePromise[] {
  return promises.filter(({ line }) => line < 0);
}

/** The same as it would be with another precedence of one order. */
export async function promisesAtPrecedence(
  ctx: Reading,
  id: number,
  precedence: number | null,
): Promise<Promises> {
  const lines = await savedLines(ctx);
  const changed = lines.map((line) =>
    line.order.order === id ? { ...line, order: { ...line.order, precedence } } : line,
  );
  return promised(ctx, changed, lines, await factsFor(ctx, changed));
}

/** `saved` are the lines that reserve stock now, whatever is asked. */
function promised(
  ctx: Reading,
  all: readonly OpenLine[],
  saved: readonly OpenLine[],
  facts: ReadonlyMap<number, ItemFacts>,
  onlyTyped = false,
): Promises {
  // Sorting is stable, so the lines of an order stay in their places.
  const lines = [...all].sort((a, b) => compareTurns(a.order, b.order));
  const factsOf = (item: number) => {
    const known = facts.get(item);
    if (!known) throw new Error(`Item ${item} is asked for, so its facts were read`);
    return known;
  };
  const supplyOf = suppliesFor(lines, saved, factsOf);
  const first = onlyTyped ? lines.findLastIndex((one) => one.line < 0) + 1 : lines.length;
  return { lines, factsOf, promises: promiseLines(lines, supplyOf, ctx.today, first) };
}

/** What is known of everything that lines take, and of what that is built from. What was read is kept until the next change. */
async function factsFor(ctx: Reading, lines: readonly OpenLine[]): Promise<Map<number, ItemFacts>> {
  const kept = await ctx.memo("facts for promises", async () => new Map<number, ItemFacts>());
  const items = lines.flatMap((line) => line.components.map(({ item }) => item));
  const unread = new Set(items.filter((item) => !kept.has(item)));
  if (unread.size > 0)
    for (const [item, facts] of await loadFactsBelow(ctx, unread, EVERYWHERE)) kept.set(item, facts);
  return kept;
}

const EVERYWHERE = { store: null, own: [], onHand: new Map(), days: new Map() };

/** What covers each item for orders: stock without what builds reserve, and what is on its way for no line. */
function suppliesFor(
  lines: readonly OpenLine[],
  saved: readonly OpenLine[],
  factsOf: (item: number) => ItemFacts,
): (item: number) => PromiseSupply {
  const reserved = new Map<number, number>();
  const allocated = new Map<string, number>();
  for (const { item, open } of saved.flatMap(({ components }) => components))
    reserved.set(item, (reserved.get(item) ?? 0) + open);
  for (const { key, coming } of lines.flatMap(({ components }) => components.flatMap((ask) => ask.builds)))
    allocated.set(key, (allocated.get(key) ?? 0) + coming);
  const known = new Map<number, PromiseSupply>();
  return (item) => {
    const found = known.get(item);
    if (found) return found;
    const { stock, incoming, drafts, offer, recipe } = factsOf(item);
    const supply = {
      usable: quantityToScaled(stock.onHand.minus(stock.expired)),
      reservedByBuilds: quantityToScaled(stock.reserved) - (reserved.get(item) ?? 0),
      incoming: incoming.map((one) => ({
        ...one,
        quantity: one.quantity.minus(quantityFromScaled(allocated.get(one.key) ?? 0)),
      })),
      drafts,
      offer,
      recipe,
    };
    known.set(item, supply);
    return supply;
  };
}
