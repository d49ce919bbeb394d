import type { BuildForLine, ComponentAsk, LineAsk, OrderTurn } from "@yosegi/core";
import { type Allocation, allocationsOf } from "../allocations/index.ts";
import { groupBy, type Reading } from "../db/index.ts";

/** A line of an open order, with whose it is. */
export interface OpenLine extends LineAsk {
  order: OrderTurn & { number: string; customer: string };
}

interface DemandRow extends OrderTurn {
  line: number;
  number: string;
  customer: string;
  item: number;
  open: number;
  shipped: number;
}

/** All that open orders still have to take from stock, line by line, with the builds that are for each. */
export async function openLines(ctx: Reading): Promise<OpenLine[]> {
  const rows = await ctx.sql.all<DemandRow>(
    `SELECT line_id AS line, order_id AS "order", number, due, precedence, customer_name AS customer, item_id AS item, to_take AS open, taken AS shipped
       FROM order_demand WHERE to_take > 0 ORDER BY order_id, position, component_id`,
  );
  const builds = groupBy(
    await allocationsOf(
      ctx,
      rows.map((row) => row.line),
    ),
    ({ line, product }) => `${line} ${product}`,
  );
  return [...groupBy(rows, (row) => row.line)].flatMap(([line, components]) => {
    const [first] = components;
    if (!first) return [];
    const { order, number, due, precedence, customer } = first;
    return {
      line,
      due,
      order: { order, number, due, precedence, customer },
      components: components.map(({ item, open, shipped }) =>
        askOf({ item, open, shipped }, builds.get(`${line} ${item}`) ?? []),
      ),
    };
  });
}

/** What a component asks, with what its builds give it of what they are linked for, the earliest link first. */
export function askOf(
  { item, open, shipped }: { item: number; open: number; shipped: number },
  allocations: readonly Allocation[],
): ComponentAsk {
  let wanted = open + shipped;
  let made = 0;
  const builds: BuildForLine[] = [];
  for (const { build, ...own } of allocations) {
    const has = Math.min(own.made, wanted);
    made += has;
    wanted -= has;
    const coming = Math.min(own.coming, wanted);
    wanted -= coming;
    if (coming > 0) builds.push({ key: `build ${build.id}`, coming, day: build.due });
    wanted -= Math.min(own.planned, wanted);
  }
  return { item, open, shipped, made, builds, coming: builds.reduce((n, build) => n + build.coming, 0) };
}
