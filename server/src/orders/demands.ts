import { type Day, quantityFromScaled } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { missingProducts } from "./building.ts";

/** Open builds and orders as demands: builds stand for what they have reserved, orders for what nobody builds for them yet. */
export async function openDemands(ctx: Reading) {
  return [...(await openBuilds(ctx)), ...(await missingOfOrders(ctx))];
}

async function missingOfOrders(ctx: Reading) {
  return (await missingProducts(ctx)).map(({ item, order, missing }) => ({
    item: item.id,
    code: item.code,
    name: item.name,
    number: order.number,
    stage: "order",
    quantity: missing.toFixed(),
    day: order.due,
    priority: 1,
    list: null,
    options: [],
    build: null,
    instead: [],
  }));
}

async function openBuilds(ctx: Reading) {
  const rows = await ctx.sql.all<{
    id: number;
    number: string;
    stage: string;
    item: number;
    code: string;
    name: string;
    rest: number;
    due: Day | null;
    priority: number;
    list: number | null;
    options: string;
  }>(
    `SELECT r.build_id AS id, b.number, r.stage, r.product_id AS item, i.code, i.name, r.to_come AS rest, b.due, b.priority,
            b.list_id AS list, b.options
       FROM build_rest r JOIN build_head b ON b.id = r.build_id JOIN item_head i ON i.id = r.product_id
      WHERE r.to_come > 0 ORDER BY b.due IS NULL, b.due, b.priority, b.id`,
  );
  return rows.map(({ id, rest, due, options, ...row }) => ({
    ...row,
    quantity: quantityFromScaled(rest).toFixed(),
    day: due,
    options: JSON.parse(options) as number[],
    build: id,
    instead: [],
  }));
}
