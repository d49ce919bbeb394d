import { type BodyOf, Refusal, type routes } from "@yosegi/contract";
import {
  type Decimal,
  decimal,
  max,
  min,
  quantityFromWhole,
  quantityToWhole,
  sum,
  unlinked,
  ZERO,
} from "@yosegi/core";
import { itemById } from "../catalog/index.ts";
import type { Reading, Writing } from "../db/index.ts";
import { buildById } from "./rows.ts";
import { servings, yieldOf } from "./serving.ts";

/** One line of an order that a build works for, in the order in which they were linked. */
export interface KeptLink {
  build: number;
  line: number;
  quantity: Decimal;
}

async function linksOf(ctx: Reading, build: number): Promise<KeptLink[]> {
  const rows = await ctx.sql.all<{ line: number; quantity: number }>(
    "SELECT line_id AS line, quantity FROM build_order WHERE build_id = $build ORDER BY id",
    { build },
  );
  return rows.map(({ line, quantity }) => ({ build, line, quantity: quantityFromWhole(quantity) }));
}

interface Asking {
  line: number;
  order: number;
  number: string;
  stage: string;
  due: string | null;
  firm: number;
  code: string;
  name: string;
  open: Decimal;
}

/** Order lines that take a product, with how many of it neither is built for them yet nor was. */
async function asking(ctx: Reading, product: number, line: number | null): Promise<Asking[]> {
  const rows = await ctx.sql.all<Omit<Asking, "open"> & { open: number }>(
    `SELECT l.id AS line, o.id AS "order", o.number, o.stage, o.due, f.id AS firm, f.code, f.name, t.open
       FROM sales_take t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id
       JOIN firm f ON f.id = o.customer_id
      WHERE t.item_id = $product AND ${line === null ? "t.open > 0" : "l.id = $line"} ORDER BY o.due IS NULL, o.due, o.id, l.line`,
    { product, ...(line !== null && { line }) },
  );
  const served = await servings(
    ctx,
    rows.map((row) => row.line),
  );
  return rows.map((row) => {
    const own = served.filter((s) => s.line === row.line && s.product === product);
    const has = sum(own.map(({ made, coming }) => made.plus(coming)));
    return { ...row, open: max(ZERO, quantityFromWhole(row.open).minus(has)) };
  });
}

/** Lines of open orders that a build could still work for. */
export async function linkableOrders(ctx: Reading, id: number) {
  const build = await buildById(ctx, id);
  const linked = new Set((await linksOf(ctx, id)).map((link) => link.line));
  return (await asking(ctx, build.product_id, null))
    .filter((ask) => ask.open.gt(0) && !linked.has(ask.line))
    .map(({ line, order, number, due, firm, code, name, open }) => ({
      ...{ line, order, number, due, customer: { id: firm, code, name } },
      open: open.toFixed(),
    }));
}

/** Lets a build work for a line of an order, for so many units or as many as both have left. */
export async function linkOrder(
  ctx: Writing,
  id: number,
  { line, quantity }: BodyOf<typeof routes.linkOrder>,
): Promise<void> {
  const build = await buildById(ctx, id);
  const product = await itemById(ctx, build.product_id);
  const [ask] = await asking(ctx, product.id, line);
  if (!ask) {
    const order = await ctx.sql.one<{ number: string }>(
      "SELECT o.number FROM sales_line l JOIN sales_order o ON o.id = l.order_id WHERE l.id = $line",
      { line },
    );
    if (!order) throw Refusal.at("line", "not-found", { what: "order line", id: line });
    throw Refusal.at("line", "link-other", { number: order.number, code: product.code });
  }
  if (ask.stage !== "open") throw Refusal.at("line", "order-ended", { number: ask.number, stage: ask.stage });
  const others = await linksOf(ctx, id);
  const left = unlinked(
    yieldOf(build),
    others.map((link) => link.quantity),
  );
  if (left.lte(0))
    throw Refusal.at("line", "link-nothing", {
      number: build.number,
      why: "all of it is for orders already",
    });
  if (ask.open.lte(0))
    throw Refusal.at("line", "link-nothing", { number: ask.number, why: "all it asks for is built already" });
  const most = min(left, ask.open);
  if (quantity !== null && decimal(quantity).gt(most))
    throw Refusal.at("quantity", "link-too-many", { most: most.toFixed(), unit: product.unit });
  await writeLink(ctx, { build: id, line, quantity: quantity === null ? most : decimal(quantity) });
}

/** Writes a link; what the build had for the line already is added to. */
async function writeLink(ctx: Writing, { build, line, quantity }: KeptLink): Promise<void> {
  await ctx.sql.run(
    `INSERT INTO build_order (build_id, line_id, quantity) VALUES ($build, $line, $quantity)
         ON CONFLICT (build_id, line_id) DO UPDATE SET quantity = quantity + excluded.quantity`,
    { build, line, quantity: quantityToWhole(quantity) },
  );
}

export async function unlinkOrder(ctx: Writing, id: number, line: number): Promise<void> {
  const build = await buildById(ctx, id);
  const linked = (await linksOf(ctx, id)).some((link) => link.line === line);
  if (!linked) throw Refusal.at("line", "not-found", { what: `order line of ${build.number}`, id: line });
  await dropLink(ctx, id, line);
}

const dropLink = (ctx: Writing, build: number, line: number) =>
  ctx.sql.run("DELETE FROM build_order WHERE build_id = $build AND line_id = $line", { build, line });

/** After a split: what the first build's orders have of it beyond what it still makes goes with the second. */
export async function shareLinks(ctx: Writing, id: number, other: number): Promise<void> {
  const build = await buildById(ctx, id);
  let left = unlinked(yieldOf(build), []);
  for (const link of await linksOf(ctx, id)) {
    const stays = min(left, link.quantity);
    left = left.minus(stays);
    if (stays.eq(link.quantity)) continue;
    await dropLink(ctx, id, link.line);
    if (stays.gt(0)) await writeLink(ctx, { ...link, quantity: stays });
    await writeLink(ctx, { ...link, build: other, quantity: link.quantity.minus(stays) });
  }
}

/** After a join: what the other build worked for is this one's. */
export async function takeLinks(ctx: Writing, id: number, other: number): Promise<void> {
  for (const link of await linksOf(ctx, other)) {
    await dropLink(ctx, other, link.line);
    await writeLink(ctx, { ...link, build: id });
  }
}
