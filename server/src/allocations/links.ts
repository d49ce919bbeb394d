import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  type BuildStage,
  type Day,
  isOpenOrder,
  type OrderStage,
  quantityFromScaled,
  quantityToScaled,
  unallocated,
} from "@yosegi/core";
import { asJson, groupBy, type Reading, type Writing } from "../db/index.ts";
import { itemById } from "../items/index.ts";
import { allocationsOf } from "./allocations.ts";
import { ALLOCATION } from "./tables.ts";

/** A build as far as order lines are linked to it; quantities in whole millionths. */
interface Linkable {
  id: number;
  number: string;
  product: number;
  good: number;
  toCome: number;
}

/** One line that a build is for, in the order in which they were linked. */
export interface Link {
  build: number;
  line: number;
  quantity: number;
}

async function linkable(ctx: Reading, id: number): Promise<Linkable> {
  const row = await ctx.sql.one<Linkable>(
    "SELECT build_id AS id, number, product_id AS product, good, to_come AS toCome FROM build_output WHERE build_id = $id",
    { id },
  );
  if (!row) throw new Refusal("not-found", { what: "build", id });
  return row;
}

const linksOf = (ctx: Reading, build: number): Promise<Link[]> =>
  ctx.sql.all<Link>(
    "SELECT build_id AS build, line_id AS line, quantity FROM allocation WHERE build_id = $build ORDER BY id",
    { build },
  );

interface Asking {
  line: number;
  order: number;
  number: string;
  stage: OrderStage;
  due: Day | null;
  firm: number;
  code: string;
  name: string;
  /** What neither was built for it nor is to be. */
  open: number;
  shipped: number;
}

/** Order lines that ask for a product, or one of them, with how many of it no build is for yet. */
async function asking(ctx: Reading, product: number, line: number | null): Promise<Asking[]> {
  const rows = await ctx.sql.all<Asking>(
    `SELECT line_id AS line, order_id AS "order", number, stage, due, customer_id AS firm, customer_code AS code,
            customer_name AS name, to_take AS open, taken AS shipped
       FROM order_demand WHERE item_id = $product AND ${line === null ? "to_take > 0" : "line_id = $line"}
      ORDER BY due IS NULL, due, order_id, position`,
    { product, ...(line !== null && { line }) },
  );
  const allocations = await allocationsOf(
    ctx,
    rows.map((row) => row.line),
  );
  const has = new Map<number, number>();
  for (const { line: of, product: made, ...own } of allocations)
    if (made === product) has.set(of, (has.get(of) ?? 0) + own.made + own.coming + own.planned);
  // What left went off what was made for the line first.
  return rows.map((row) => ({
    ...row,
    open: Math.max(0, row.open - Math.max(0, (has.get(row.line) ?? 0) - row.shipped)),
  }));
}

/** Lines of open orders that a build could still be for. */
export async function linkableOrders(ctx: Reading, id: number) {
  const { product } = await linkable(ctx, id);
  const linked = new Set((await linksOf(ctx, id)).map((link) => link.line));
  return (await asking(ctx, product, null))
    .filter((ask) => ask.open > 0 && !linked.has(ask.line))
    .map(({ line, order, number, due, firm, code, name, open }) => ({
      line,
      order,
      number,
      due,
      customer: { id: firm, code, name },
      open: quantityFromScaled(open).toFixed(),
    }));
}

/** Links a build to a line of an order, for so many units or as many as both have left. */
export async function linkOrder(
  ctx: Writing,
  id: number,
  { line, quantity }: ParsedBody<typeof routes.linkOrder>,
): Promise<void> {
  const build = await linkable(ctx, id);
  const product = await itemById(ctx, build.product);
  const [ask] = await asking(ctx, product.id, line);
  if (!ask) throw await lineRefused(ctx, line, product.code);
  if (!isOpenOrder(ask.stage))
    throw Refusal.at("line", "order-ended", { number: ask.number, stage: ask.stage });
  const left = await leftOf(ctx, build);
  const refuse = (number: string, why: string) => Refusal.at("line", "link-nothing", { number, why });
  if (left <= 0) throw refuse(build.number, "all of it is for orders already");
  if (ask.open <= 0) throw refuse(ask.number, "all it asks for is built already");
  const most = Math.min(left, ask.open);
  const wanted = quantity === null ? most : quantityToScaled(quantity);
  if (wanted > most)
    throw Refusal.at("quantity", "link-too-many", {
      most: quantityFromScaled(most).toFixed(),
      unit: product.unit,
    });
  await writeLinks(ctx, [{ build: id, line, quantity: wanted }]);
}

async function lineRefused(ctx: Reading, line: number, code: string): Promise<Refusal> {
  const order = await ctx.sql.one<{ number: string }>(
    "SELECT number FROM order_demand WHERE line_id = $line LIMIT 1",
    { line },
  );
  return order
    ? Refusal.at("line", "link-other", { number: order.number, code })
    : Refusal.at("line", "not-found", { what: "order line", id: line });
}

/** What of a build is for no line yet, made or still to come. */
async function leftOf(ctx: Reading, build: Linkable): Promise<number> {
  const links = await linksOf(ctx, build.id);
  const rest = unallocated(
    build,
    links.map((link) => link.quantity),
  );
  return rest.made + rest.coming;
}

/** Writes links; what a build had for a line already is added to. */
export async function writeLinks(ctx: Writing, links: readonly Link[]): Promise<void> {
  await ctx.sql.insert(
    ALLOCATION,
    links.map(linkColumns),
    "ON CONFLICT (build_id, line_id) DO UPDATE SET quantity = quantity + excluded.quantity",
  );
}

const linkColumns = ({ build, line, quantity }: Link) => ({ build_id: build, line_id: line, quantity });

export async function unlinkOrder(ctx: Writing, id: number, line: number): Promise<void> {
  const build = await linkable(ctx, id);
  const linked = (await linksOf(ctx, id)).some((link) => link.line === line);
  if (!linked) throw Refusal.at("line", "not-found", { what: `order line of ${build.number}`, id: line });
  await ctx.model(ALLOCATION).destroy({ where: { build_id: id, line_id: line } });
}

/** Leaves so much of each link, which keeps its place among the others of its build; nothing of those where that is zero. */
async function keepOfLinks(ctx: Writing, links: readonly Link[]): Promise<void> {
  await ctx.sql.run(
    `DELETE FROM allocation WHERE (build_id, line_id) IN
       (SELECT value ->> 'build', value ->> 'line' FROM json_each($gone))`,
    { gone: asJson(links.filter((link) => link.quantity === 0)) },
  );
  await ctx.sql.update(
    ALLOCATION,
    ["build_id", "line_id"],
    links.filter((link) => link.quantity > 0).map(linkColumns),
  );
}

/** After a split: what the first build's orders have of it beyond what it still makes goes with the second. */
export async function shareLinks(ctx: Writing, id: number, other: number): Promise<void> {
  const build = await linkable(ctx, id);
  let left = build.good + build.toCome;
  const stay: Link[] = [];
  const go: Link[] = [];
  for (const link of await linksOf(ctx, id)) {
    const stays = Math.min(left, link.quantity);
    left -= stays;
    if (stays === link.quantity) continue;
    stay.push({ ...link, quantity: stays });
    go.push({ ...link, build: other, quantity: link.quantity - stays });
  }
  await keepOfLinks(ctx, stay);
  await writeLinks(ctx, go);
}

/** After a join: what the other build was for is this one's. */
export async function takeLinks(ctx: Writing, id: number, other: number): Promise<void> {
  const links = await linksOf(ctx, other);
  await ctx.model(ALLOCATION).destroy({ where: { build_id: other } });
  await writeLinks(
    ctx,
    links.map((link) => ({ ...link, build: id })),
  );
}

/** Frees what is linked to order lines beyond what they still ask, the latest link first; all of it where a line takes none of the product. `most` says how much some lines are to have at most. */
export async function trimLinks(
  ctx: Writing,
  lines: Iterable<number>,
  most: ReadonlyMap<number, number> = new Map(),
): Promise<void> {
  const rows = await ctx.sql.all<Link & { product: number; wanted: number }>(
    `SELECT k.build_id AS build, k.line_id AS line, k.quantity, b.product_id AS product,
            COALESCE(d.to_take + d.taken, 0) AS wanted
       FROM allocation k JOIN build_output b ON b.build_id = k.build_id
       LEFT JOIN order_demand d ON d.line_id = k.line_id AND d.item_id = b.product_id
      WHERE k.line_id IN (SELECT value FROM json_each($lines)) ORDER BY k.id`,
    { lines: asJson(lines) },
  );
  const left = new Map<string, number>();
  const stay: Link[] = [];
  for (const { build, line, product, wanted, quantity } of rows) {
    const key = `${line} ${product}`;
    const has = left.get(key) ?? Math.min(wanted, most.get(line) ?? wanted);
    const stays = Math.min(has, quantity);
    left.set(key, has - stays);
    if (stays < quantity) stay.push({ build, line, quantity: stays });
  }
  await keepOfLinks(ctx, stay);
}

/** Links to one line what builds were linked to another for beyond what that still asks; `heirs` gives the one by the other. */
export async function passLinks(ctx: Writing, heirs: ReadonlyMap<number, number>): Promise<void> {
  if (heirs.size === 0) return;
  const links = (lines: Iterable<number>) =>
    ctx.sql.all<Link>(
      `SELECT build_id AS build, line_id AS line, quantity FROM allocation
        WHERE line_id IN (SELECT value FROM json_each($lines)) ORDER BY id`,
      { lines: asJson(lines) },
    );
  const before = await links(heirs.keys());
  await trimLinks(ctx, heirs.keys());
  const after = new Map(
    (await links(heirs.keys())).map(({ build, line, quantity }) => [`${build} ${line}`, quantity]),
  );
  await writeLinks(
    ctx,
    before.flatMap(({ build, line, quantity }) => {
      const freed = quantity - (after.get(`${build} ${line}`) ?? 0);
      const heir = heirs.get(line);
      return freed > 0 && heir !== undefined ? [{ build, line: heir, quantity: freed }] : [];
    }),
  );
}

/** What lines have of builds, of all their products. */
export interface LinkedToLine {
  /** Made, coming and planned, without what left. */
  left: number;
  /** What left of what was made for it, which went off that first. */
  shipped: number;
}

export const NOT_LINKED: LinkedToLine = { left: 0, shipped: 0 };

export async function linkedOf(ctx: Reading, lines: Iterable<number>): Promise<Map<number, LinkedToLine>> {
  const allocations = await allocationsOf(ctx, lines);
  const rows = await ctx.sql.all<{ line: number; item: number; shipped: number }>(
    "SELECT line_id AS line, item_id AS item, taken AS shipped FROM order_demand WHERE taken > 0 AND line_id IN (SELECT value FROM json_each($lines))",
    { lines: asJson(new Set(allocations.map((own) => own.line))) },
  );
  const left = new Map(rows.map(({ line, item, shipped }) => [`${line} ${item}`, shipped]));
  const found = new Map<number, LinkedToLine>();
  for (const { line, product, made, coming, planned } of allocations) {
    const key = `${line} ${product}`;
    const shipped = Math.min(made, left.get(key) ?? 0);
    left.set(key, (left.get(key) ?? 0) - shipped);
    const before = found.get(line) ?? NOT_LINKED;
    found.set(line, {
      left: before.left + made + coming + planned - shipped,
      shipped: before.shipped + shipped,
    });
  }
  return found;
}

/** Which builds are for lines, by line, in the order of linking; quantities in whole millionths. */
export const linkedBuilds = (ctx: Reading, lines: Iterable<number>) =>
  ctx.sql.all<{
    line: number;
    id: number;
    number: string;
    stage: BuildStage;
    due: Day | null;
    linked: number;
  }>(
    `SELECT k.line_id AS line, b.build_id AS id, b.number, b.stage, b.due, k.quantity AS linked FROM json_each($lines) ids JOIN allocation k ON k.line_id = ids.value
       JOIN build_output b ON b.build_id = k.build_id ORDER BY k.id`,
    { lines: asJson(lines) },
  );

/** Lets go of all builds that are for lines of an order that has ended. */
export const dropLinks = (ctx: Writing, lines: Iterable<number>) =>
  ctx.sql.run("DELETE FROM allocation WHERE line_id IN (SELECT value FROM json_each($lines))", {
    lines: asJson(lines),
  });

/** So many of an item that a line asks for, from builds that are drafts or from those that are not. */
export interface WantedLink {
  line: number;
  item: number;
  quantity: number;
  drafts: boolean;
}

/** Links builds that are for nobody to lines, up to so much each, those due first. Gives how many units were linked. */
export async function linkFree(ctx: Writing, wants: readonly WantedLink[]): Promise<number> {
  const builds = await ctx.sql.all<Linkable & { draft: number }>(
    `SELECT build_id AS id, number, product_id AS product, good, to_come AS toCome, stage = 'draft' AS draft
       FROM build_output WHERE product_id IN (SELECT value FROM json_each($items)) AND to_come > 0
      ORDER BY due IS NULL, due, build_id`,
    { items: asJson(new Set(wants.map((want) => want.item))) },
  );
  const found = await ctx.sql.all<Link>(
    `SELECT build_id AS build, line_id AS line, quantity FROM allocation
      WHERE build_id IN (SELECT value FROM json_each($builds)) ORDER BY id`,
    { builds: asJson(builds.map((build) => build.id)) },
  );
  const linked = groupBy(found, (link) => link.build);
  const made: Link[] = [];
  for (const { line, item, quantity, drafts } of wants) {
    let open = quantity;
    for (const build of builds) {
      if (open <= 0) break;
      if (build.product !== item || (build.draft === 1) !== drafts) continue;
      const links = linked.get(build.id) ?? [];
      // Only what is still to come: what was made lies in stock for all.
      const { coming } = unallocated(
        build,
        links.map((link) => link.quantity),
      );
      const now = Math.min(open, coming);
      if (now <= 0) continue;
      const link = { build: build.id, line, quantity: now };
      linked.set(build.id, [...links, link]);
      made.push(link);
      open -= now;
    }
  }
  await writeLinks(ctx, made);
  return made.reduce((n, link) => n + link.quantity, 0);
}
