import type { OrderLink } from "@yosegi/contract";
import {
  type Ask,
  allocateBuildOutput,
  allocateStock,
  type BuildStage,
  compareTurns,
  type Day,
  type OrderTurn,
  quantityFromScaled,
  type Standing,
} from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { IDS, stockRows, usableOf } from "../ledger/index.ts";

/** What one order line has of one build that is linked to it, in whole millionths. */
export interface Allocation {
  line: number;
  product: number;
  build: { id: number; number: string; stage: BuildStage; due: Day | null };
  made: number;
  /** What can still come good; of a draft it is only planned. */
  coming: number;
  planned: number;
}

interface LinkRow {
  line: number;
  linked: number;
  id: number;
  number: string;
  stage: BuildStage;
  due: Day | null;
  product: number;
  good: number;
  to_come: number;
}

/** What builds give the order lines named: each build is shared out among all of its lines, in the order of linking. */
export async function allocationsOf(ctx: Reading, lines: Iterable<number>): Promise<Allocation[]> {
  const rows = await ctx.sql.all<LinkRow>(
    `SELECT k.line_id AS line, k.quantity AS linked, b.build_id AS id, b.number, b.stage, b.due, b.product_id AS product,
            b.good, b.to_come
       FROM allocation k JOIN build_output b ON b.build_id = k.build_id
      WHERE k.build_id IN (SELECT o.build_id FROM json_each($lines) ids JOIN allocation o ON o.line_id = ids.value)
      ORDER BY k.id`,
    { lines: asJson(new Set(lines)) },
  );
  return [...groupBy(rows, (row) => row.id).values()].flatMap(sharesOf);
}

function sharesOf(links: readonly LinkRow[]): Allocation[] {
  const [build] = links;
  if (!build) return [];
  const shares = allocateBuildOutput(
    { good: build.good, toCome: build.to_come },
    links.map((link) => link.linked),
  );
  return links.map(({ line, product, id, number, stage, due }, i) => {
    const { made = 0, coming = 0 } = shares[i] ?? {};
    const draft = stage === "draft";
    return {
      line,
      product,
      build: { id, number, stage, due },
      made,
      coming: draft ? 0 : coming,
      planned: draft ? coming : 0,
    };
  });
}

interface DemandRow extends OrderTurn {
  line: number;
  item: number;
  open: number;
  shipped: number;
}

/** How one component of an open order line stands, and what its own builds give it. */
export interface ComponentStanding extends Standing {
  line: number;
  order: number;
  item: number;
  open: number;
}

/** How all that open orders ask of the items named stands, in their turn (docs/rules.md § 11). */
export async function standingsOf(ctx: Reading, items: Iterable<number>): Promise<ComponentStanding[]> {
  const ids = asJson(new Set(items));
  const rows = await ctx.sql.all<DemandRow>(
    `SELECT line_id AS line, order_id AS "order", due, precedence, item_id AS item, to_take AS open, taken AS shipped FROM order_demand
      WHERE item_id IN (${IDS}) AND to_take > 0 ORDER BY order_id, position, component_id`,
    { ids },
  );
  // Sorting is stable, so the lines of an order stay in their places.
  const demanded = groupBy(rows.sort(compareTurns), (row) => row.item);
  const allocations = groupBy(
    await allocationsOf(
      ctx,
      rows.map((row) => row.line),
    ),
    ({ line, product }) => `${line} ${product}`,
  );
  const supplyOf = await suppliesOf(ctx, demanded.keys());
  return [...demanded].flatMap(([item, own]) => {
    const asks = own.map(({ line, open, shipped }): Ask => {
      const ask = { open, shipped, made: 0, coming: 0, planned: 0 };
      for (const { made, coming, planned } of allocations.get(`${line} ${item}`) ?? []) {
        ask.made += made;
        ask.coming += coming;
        ask.planned += planned;
      }
      return ask;
    });
    const standings = allocateStock(supplyOf(item), asks);
    return own.map(({ line, order, open }, i) => {
      const standing = standings[i];
      if (!standing) throw new Error("Each ask has its standing");
      return { line, order, item, open, ...standing };
    });
  });
}

/** What there is of items for orders, in whole millionths. */
async function suppliesOf(ctx: Reading, items: Iterable<number>) {
  const ids = asJson(new Set(items));
  const stock = await stockRows(ctx, JSON.parse(ids) as number[]);
  const sums = async (sql: string) => {
    const rows = await ctx.sql.all<{ item: number; quantity: number }>(sql, { ids });
    return new Map(rows.map((row) => [row.item, row.quantity]));
  };
  const reserved = await sums(
    `SELECT item_id AS item, SUM(quantity) AS quantity FROM reserved
      WHERE item_id IN (${IDS}) AND build_id IS NOT NULL GROUP BY 1`,
  );
  const incoming = await sums(
    `SELECT item_id AS item, SUM(quantity) AS quantity FROM incoming WHERE item_id IN (${IDS}) GROUP BY 1`,
  );
  const planned = await sums(
    `SELECT item_id AS item, SUM(quantity) AS quantity FROM on_draft
      WHERE item_id IN (${IDS}) AND build_id IS NOT NULL GROUP BY 1`,
  );
  const allocated = await allocatedOf(ctx, ids);
  return (item: number) => {
    const own = allocated.get(item) ?? { coming: 0, planned: 0 };
    return {
      usable: usableOf(stock(item)),
      reservedByBuilds: reserved.get(item) ?? 0,
      incoming: (incoming.get(item) ?? 0) - own.coming,
      planned: (planned.get(item) ?? 0) - own.planned,
    };
  };
}

/** What of the builds of products some order line has, whichever. */
async function allocatedOf(ctx: Reading, ids: string) {
  const rows = await ctx.sql.all<{ line: number }>(
    // From the builds of these products on: of the lines that builds are for there are thousands.
    `SELECT DISTINCT k.line_id AS line FROM build_output b CROSS JOIN allocation k ON k.build_id = b.build_id
      WHERE b.product_id IN (${IDS}) AND b.to_come > 0`,
    { ids },
  );
  const found = new Map<number, { coming: number; planned: number }>();
  for (const { product, coming, planned } of await allocationsOf(
    ctx,
    rows.map((row) => row.line),
  )) {
    const own = found.get(product) ?? { coming: 0, planned: 0 };
    own.coming += coming;
    own.planned += planned;
    found.set(product, own);
  }
  return found;
}

/** The customers' orders that builds are for, by build. */
export async function ordersOf(
  ctx: Reading,
  builds: Iterable<number>,
): Promise<(build: number) => OrderLink[]> {
  const rows = await ctx.sql.all<
    Omit<OrderLink, "customer" | "quantity"> &
      Record<"build" | "quantity" | "firm", number> &
      Record<"code" | "name", string>
  >(
    `SELECT k.build_id AS build, d.order_id AS "order", d.number, d.line_id AS line, d.due, k.quantity,
            d.customer_id AS firm, d.customer_code AS code, d.customer_name AS name
       FROM json_each($ids) ids JOIN allocation k ON k.build_id = ids.value JOIN build_output b ON b.build_id = k.build_id
       JOIN order_demand d ON d.line_id = k.line_id AND d.item_id = b.product_id ORDER BY k.id`,
    { ids: asJson(builds) },
  );
  const found = groupBy(rows, (row) => row.build);
  return (build) =>
    (found.get(build) ?? []).map(({ order, number, line, due, quantity, firm, code, name }) => ({
      order,
      number,
      line,
      due,
      customer: { id: firm, code, name },
      quantity: quantityFromScaled(quantity).toFixed(),
    }));
}
