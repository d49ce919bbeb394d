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
import { coverOf } from "../cover/index.ts";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { locationNames, stockFigures } from "../ledger/index.ts";
import { currentCosts, inForce } from "../lists/index.ts";
import { recoveryOf } from "./plan.ts";
import { mainList } from "./proposal.ts";

/** So many ways are offered, and so many products looked at for them. */
const MOST_WAYS = 50;

/**
 * What taking finished products apart would bring of the parts that a check is short of, and what of their value is lost by it
 * (docs/rules.md § 17). Products that the check wants or needs itself are left alone.
 */
export async function takeApartWays(
  ctx: Reading,
  question: QuestionInput,
): Promise<AnswerOf<typeof routes.takeApartWays>> {
  const { parts, demands } = await coverOf(ctx, question);
  const short = parts.filter(({ stocked, shortNow }) => stocked && decimal(shortNow).gt(0));
  if (short.length === 0) return { ways: [] };
  const wanted = new Set([...demands.map(({ item }) => item.id), ...parts.map(({ id }) => id)]);
  const holding = await holdingAny(
    ctx,
    short.map(({ id }) => id),
    wanted,
  );
  const products = [...new Set(holding.map(({ product }) => product))];
  const at = await spotsOf(ctx, products);
  const ways: ShortageWay[] = [];
  const holders = groupBy(holding, ({ part }) => part);
  const wayOf = await wayFinder(ctx, products);
  for (const { id, shortNow } of short) {
    const own: ShortageWay[] = [];
    for (const { product } of holders.get(id) ?? []) {
      const spot = at.get(product);
      const way = spot && (await wayOf(product, id, decimal(shortNow)));
      if (way) own.push({ ...way, at: spot });
    }
    ways.push(...own.sort((a, b) => decimal(a.lost ?? "0").cmp(decimal(b.lost ?? "0"))));
  }
  return { ways: ways.slice(0, MOST_WAYS) };
}

/** Products in stock whose list in force holds one of the parts. */
const holdingAny = (
  ctx: Reading,
  parts: readonly number[],
  without: ReadonlySet<number>,
): Promise<{ product: number; part: number }[]> =>
  ctx.sql.all(
    `SELECT DISTINCT r.product_id AS product, t.item_id AS part
       FROM json_each($parts) ids JOIN list_part t ON t.item_id = ids.value AND t.instead_of IS NULL
       JOIN revision_head r ON r.id = t.revision_id AND r.main = 1 AND r.id = ${inForce("r.list_id")}
      WHERE r.product_id NOT IN (SELECT value FROM json_each($without))
        AND EXISTS (SELECT 1 FROM usable_stock u WHERE u.item_id = r.product_id AND u.quantity > 0)
      ORDER BY r.product_id LIMIT ${MOST_WAYS}`,
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
    { products: asJson(products) },
  );
  return new Map(
    rows.map(({ item, location, quantity, ...own }) => [
      item,
      { ...own, store: names.get(location) ?? "", quantity: quantityFromScaled(quantity).toFixed() },
    ]),
  );
}

type WayOf = (product: number, part: number, short: Decimal) => Promise<Omit<ShortageWay, "at"> | null>;

/** Finds what taking apart one product brings of one part; null where none of it is free. */
async function wayFinder(ctx: Reading, products: readonly number[]): Promise<WayOf> {
  const figures = await stockFigures(ctx, products);
  const costs = await currentCosts(ctx, products);
  return async (product, part, short) => {
    const brief = await briefs(ctx, [product, part]);
    const { taken: list } = await mainList(ctx, product);
    const there = free(figures(product));
    const { units, held } = unitsForShortage(list.lines, list.makes, brief(product), {
      part,
      short,
      free: there,
    });
    if (held.lte(0)) return null;
    const cost = costs(product);
    const parts = expectedOfList(list.lines, list.makes, units).map(({ item, quantity }) => ({
      item,
      expected: quantity,
      good: quantity,
      damaged: ZERO,
      missing: ZERO,
    }));
    const landing =
      cost && (await recoveryOf(ctx, { item: product, build: null, parts }, valueAt(units, cost)));
    return {
      part: brief(part),
      short: short.toFixed(),
      product: brief(product),
      free: there.toFixed(),
      units: units.toFixed(),
      held: held.toFixed(),
      lost: landing?.workPutIn.toFixed(4) ?? null,
    };
  };
}
