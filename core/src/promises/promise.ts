import {
  type Ask,
  allocateStock,
  NO_STANDING,
  type OrderSupply,
  type Standing,
} from "../allocations/index.ts";
import {
  compareDays,
  type Day,
  type Decimal,
  quantityFromScaled,
  quantityToScaled,
  sum,
  ZERO,
} from "../amounts/index.ts";
import {
  type Arrival,
  arrivalOf,
  type Claim,
  later,
  type Serving,
  type Supply,
  SupplyPool,
} from "../cover/index.ts";

// What is asked and dealt out is in whole millionths of the stock unit, as in allocating.ts.

/** A build that is for a line: what it can still give it, and the day it is due. */
export interface BuildForLine {
  key: string;
  coming: number;
  day: Day | null;
}

/** What one component of an order line asks for; `coming` is the sum of its builds'. */
export interface ComponentAsk extends Omit<Ask, "planned"> {
  item: number;
  builds: readonly BuildForLine[];
}

/** One line of an open order. */
export interface LineAsk {
  line: number;
  /** The day it is wanted. */
  due: Day | null;
  components: readonly ComponentAsk[];
}

/** Everything that covers the need of one item; what orders reserve of it is not taken off, for they are dealt out here. */
export interface PromiseSupply
  extends Omit<Supply, "stock">,
    Pick<OrderSupply, "usable" | "reservedByBuilds"> {}

/** When one component could leave, and what it waits for. */
export interface ComponentPromise extends Arrival {
  item: number;
  standing: Standing;
  /** What it gets of what is on its way: its own builds', and what was dealt out. */
  claims: Claim[];
  /** What is to be ordered or built for it today. */
  uncovered: Decimal;
}

export interface LinePromise {
  line: number;
  /** The day on which the whole line could leave; null: unknown. */
  day: Day | null;
  components: ComponentPromise[];
}

/**
 * The promise days of the lines of open orders, in their turn (docs/rules.md § 11). All stock and all that is on its way for nobody is
 * dealt out first; then what is missing is ordered or built, one line after the other, from what is left. `first`: only so many lines are
 * asked for; those that come after them change nothing of theirs but what they have in stock and on its way.
 */
export function promiseLines(
  lines: readonly LineAsk[],
  supplyOf: (item: number) => PromiseSupply,
  today: Day,
  first = lines.length,
): LinePromise[] {
  const standings = dealOutStock(lines, supplyOf);
  const dealt = lines.map(({ components }) => components.map((ask) => standings.get(ask) ?? NO_STANDING));
  const inStock = new Map<number, number>();
  for (const [i, { components }] of lines.entries())
    for (const [j, { item }] of components.entries())
      inStock.set(item, (inStock.get(item) ?? 0) + (dealt[i]?.[j]?.ready ?? 0));
  const supplyLeft = leftAfter(supplyOf, inStock);
  const serving: Serving = {
    pool: new SupplyPool(supplyLeft, today),
    supplyOf: supplyLeft,
    today,
    reaches: false,
  };
  const onTheWay = lines.map(({ components }, i) =>
    components.map((ask, j) => claimsOf(ask, dealt[i]?.[j] ?? NO_STANDING, serving)),
  );
  return lines.slice(0, first).map(({ line, due, components }, i) => {
    const given = components.map(({ item }, j) => {
      const standing = dealt[i]?.[j] ?? NO_STANDING;
      const rest = serving.pool.allocate(item, quantityFromScaled(standing.missing));
      return {
        item,
        standing,
        claims: [...(onTheWay[i]?.[j] ?? []), ...rest.claims],
        uncovered: rest.uncovered,
      };
    });
    const promised = given.map((part) => ({
      ...part,
      ...arrivalOf(part.item, part, due, serving, NO_PRODUCTS),
    }));
    return { line, day: promised.map((part) => part.day).reduce(later, today), components: promised };
  });
}

/** Above an order line is no product. */
const NO_PRODUCTS: ReadonlySet<number> = new Set();

function dealOutStock(
  lines: readonly LineAsk[],
  supplyOf: (item: number) => PromiseSupply,
): Map<ComponentAsk, Standing> {
  const asked = new Map<number, ComponentAsk[]>();
  for (const { components } of lines)
    for (const ask of components) {
      const known = asked.get(ask.item);
      if (known) known.push(ask);
      else asked.set(ask.item, [ask]);
    }
  const standings = new Map<ComponentAsk, Standing>();
  for (const [item, asks] of asked) {
    const { usable, reservedByBuilds, incoming } = supplyOf(item);
    const onTheWay = quantityToScaled(sum(incoming.map(({ quantity }) => quantity)));
    // What drafts are to give is missing until they are queued, so no day follows from it.
    const supply = { usable, reservedByBuilds, incoming: onTheWay, planned: 0 };
    for (const [i, standing] of allocateStock(supply, asks.map(withoutDrafts)).entries()) {
      const ask = asks[i];
      if (ask) standings.set(ask, standing);
    }
  }
  return standings;
}

const withoutDrafts = (ask: ComponentAsk): Ask => ({ ...ask, planned: 0 });

/** What is left of each item when so much of its stock was dealt out. */
function leftAfter(
  supplyOf: (item: number) => PromiseSupply,
  dealtOut: ReadonlyMap<number, number>,
): (item: number) => Supply {
  const known = new Map<number, Supply>();
  return (item) => {
    const found = known.get(item);
    if (found) return found;
    const { usable, reservedByBuilds, ...supply } = supplyOf(item);
    const stock = {
      onHand: quantityFromScaled(usable - (dealtOut.get(item) ?? 0)),
      expired: ZERO,
      reserved: quantityFromScaled(reservedByBuilds),
    };
    const left = { ...supply, stock };
    known.set(item, left);
    return left;
  };
}

/** What one ask gets of what is on its way: of its own builds those due first, then what was dealt out to it. */
function claimsOf({ item, builds }: ComponentAsk, { coming, dealtOut }: Standing, serving: Serving): Claim[] {
  let open = coming - dealtOut;
  const claims: Claim[] = [];
  const counted = builds.map(({ day, ...build }) => {
    const overdue = day !== null && day < serving.today;
    return { ...build, overdue, day: overdue ? serving.today : day };
  });
  for (const { key, coming: gives, day, overdue } of counted.sort((a, b) => compareDays(a.day, b.day))) {
    const quantity = Math.min(open, gives);
    if (quantity <= 0) continue;
    open -= quantity;
    claims.push({ key, quantity: quantityFromScaled(quantity), day, overdue });
  }
  return [...claims, ...serving.pool.allocate(item, quantityFromScaled(dealtOut)).claims];
}
