import type { AnswerOf, QuestionInput, routes, ShortageWay } from "@yosegi/contract";
import {
  type Decimal,
  decimal,
  expectedOfList,
  free,
  quantityFromScaled,
  unitsForShortage,
  valueAt,
  ZERO,
} from "@yosegi/core";
import { listsFor } from "../builds/index.ts";
import { coverOf } from "../cover/index.ts";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { briefs, itemsById } from "../items/index.ts";
import { locationNames, stockFigures } from "../ledger/index.ts";
import { currentCosts, inForce } from "../lists/index.ts";
import { recoveryBy } from "./plan.ts";
import { sharesIn } from "./proposal.ts";

/** So many products are looked at for each part, and so many offered, the cheapest first. */
const MOST_PRODUCTS = 20;
/** Of so many short parts, in the order of the check. */
const MOST_PARTS = 40;
const MOST_EACH = 5;

/**
 * What taking finished products apart would bring of the parts that a check is short of, and what of their value is lost by it
 * (docs/rules.md § 17). Products that the check wants or needs itself are left alone.
 */
export async function takeApartWays(
  ctx: Reading,
  question: QuestionInput,
): Promise<AnswerOf<typeof routes.takeApartWays>> {
  const { parts, demands } = await coverOf(ctx, question);
  const short = parts
    .filter(({ stocked, shortNow }) => stocked && decimal(shortNow).gt(0))
    .slice(0, MOST_PARTS);
  if (short.length === 0) return { ways: [] };
  const wanted = new Set([...demands.map(({ item }) => item.id), ...parts.map(({ id }) => id)]);
  const holding = await holdingAny(
    ctx,
    short.map(({ id }) => id),
    wanted,
  );
  const at = await spotsOf(
    ctx,
    holding.map(({ product }) => product),
  );
  const wayOf = await wayFinder(ctx, holding);
  const holders = groupBy(holding, ({ part }) => part);
  const ways = short.flatMap(({ id, shortNow }) =>
    (holders.get(id) ?? [])
      .flatMap(({ product }) => {
        const spot = at.get(product);
        const way = spot && wayOf(product, id, decimal(shortNow));
        return way ? [{ ...way, at: spot }] : [];
      })
      .sort(
        (a, b) =>
          Number(a.lost === null) - Number(b.lost === null) ||
          decimal(a.lost ?? "0").cmp(decimal(b.lost ?? "0")),
      )
      .slice(0, MOST_EACH),
  );
  return { ways };
}

/** Products in stock whose list in force holds one of the parts. */
const holdingAny = (
  ctx: Reading,
  parts: readonly number[],
  without: ReadonlySet<number>,
): Promise<{ product: number; part: number }[]> =>
  ctx.sql.all(
    `SELECT product, part FROM (
       SELECT DISTINCT r.product_id AS product, t.item_id AS part, DENSE_RANK() OVER (PARTITION BY t.item_id ORDER BY r.product_id) AS nth
         FROM json_each($parts) ids JOIN list_part t ON t.item_id = ids.value AND t.instead_of IS NULL
         JOIN revision_head r ON r.id = t.revision_id AND r.main = 1 AND r.id = ${inForce("r.list_id")}
        WHERE r.product_id NOT IN (SELECT value FROM json_each($without))
          AND EXISTS (SELECT 1 FROM usable_stock u WHERE u.item_id = r.product_id AND u.quantity > 0))
      WHERE nth <= ${MOST_PRODUCTS}`,
    { parts: asJson(parts), without: asJson([...without]), today: ctx.today },
  );

/** Where most of each product is. */
async function spotsOf(ctx: Reading, products: readonly number[]): Promise<Map<number, ShortageWay["at"]>> {
  const names = await locationNames(ctx);
  const rows = await ctx.sql.all<{
    item: number;
    lot: string;
    serial: string;
    location: number;
    bin: string;
    quantity: number;
  }>(
    `SELECT u.item_id AS item, u.lot, u.serial, u.location_id AS location, u.bin, u.quantity
       FROM json_each($products) ids JOIN usable_stock u ON u.item_id = ids.value AND u.quantity > 0
      ORDER BY u.quantity, u.serial DESC`,
    { products: asJson(new Set(products)) },
  );
  return new Map(
    rows.map(({ item, location, quantity, ...own }) => [
      item,
      { ...own, store: names.get(location) ?? "", quantity: quantityFromScaled(quantity).toFixed() },
    ]),
  );
}

type Way = Omit<ShortageWay, "at">;

/** Finds what taking apart one product brings of one part; null where none of it is free. */
async function wayFinder(
  ctx: Reading,
  holding: readonly { product: number; part: number }[],
): Promise<(product: number, part: number, short: Decimal) => Way | null> {
  const products = [...new Set(holding.map(({ product }) => product))];
  const itemOf = await itemsById(ctx, products);
  const found = await listsFor(
    ctx,
    products.map((id) => ({
      product: itemOf(id),
      choice: { list: null, options: [], asBuilt: null, own: null },
      day: ctx.today,
    })),
  );
  const lists = new Map(products.map((id, i) => [id, found[i]?.taken]));
  const parts = [...lists.values()].flatMap((list) => list?.lines.map(({ item }) => item) ?? []);
  const figures = await stockFigures(ctx, products);
  const costOf = await currentCosts(ctx, [...products, ...parts]);
  const brief = await briefs(ctx, [...products, ...parts]);
  return (product, part, short) => {
    const list = lists.get(product);
    if (!list) return null;
    const there = free(figures(product));
    const wanted = { part, short, free: there };
    const { units, held } = unitsForShortage(list.lines, list.makes, brief(product), wanted);
    if (held.lte(0)) return null;
    const cost = costOf(product);
    const taken = expectedOfList(list.lines, list.makes, units).map(({ item, quantity }) => ({
      item,
      expected: quantity,
      good: quantity,
      damaged: ZERO,
      missing: ZERO,
    }));
    return {
      part: brief(part),
      short: short.toFixed(),
      product: brief(product),
      free: there.toFixed(),
      units: units.toFixed(),
      held: held.toFixed(),
      lost:
        cost && recoveryBy(valueAt(units, cost), taken, costOf, sharesIn(list.lines)).workPutIn.toFixed(4),
    };
  };
}
