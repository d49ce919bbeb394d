import { type OrderBody, PLAIN_BUILD, Refusal } from "@yosegi/contract";
import {
  checkDecimals,
  type Day,
  type Decimal,
  decimal,
  moneyToWhole,
  ONE,
  type Problem,
  quantityFromWhole,
  quantityToWhole,
  reporter,
  whyNot,
  ZERO,
} from "@yosegi/core";
import { linkOrder, newBuild } from "../builds/index.ts";
import { itemRows, loadKits, loadUnits, refuseProblems, unitNamed } from "../catalog/index.ts";
import { asJson, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { type Line, linesOf, type OrderTableRow, orderById } from "./rows.ts";

/** Takes a customer's order and reserves what it asks for. Gives its id. */
export async function newOrder(ctx: Writing, body: OrderBody): Promise<number> {
  await checkCustomer(ctx, body.customer);
  const lines = await checkLines(ctx, body.lines);
  const id = await ctx.sql.insert(
    `INSERT INTO sales_order (number, customer_id, stage, due, reference, note, made_by, made_at)
     VALUES ($number, $customer, 'open', $due, $reference, $note, $person, $moment)`,
    {
      ...{ number: await nextNumber(ctx, "O"), customer: body.customer, due: body.due },
      ...{ reference: body.reference, note: body.note, person: ctx.person.id, moment: ctx.moment },
    },
  );
  await writeLines(ctx, id, lines);
  return id;
}

/** Changes an open order. A line that stays keeps the builds that work for it. */
export async function changeOrder(ctx: Writing, id: number, body: OrderBody): Promise<void> {
  const order = await orderById(ctx, id);
  refuseEnded(order);
  await checkCustomer(ctx, body.customer);
  const lines = await checkLines(ctx, body.lines);
  const before = new Map((await linesOf(ctx, [id])).map((line) => [line.id, line]));
  for (const [i, line] of lines.entries())
    if (line.id !== null && !before.has(line.id))
      throw Refusal.at(`lines.${i}.item`, "not-found", { what: `line of ${order.number}`, id: line.id });
  // A line that asks for another item is another line.
  const kept = lines.map((line) =>
    line.id !== null && before.get(line.id)?.item === line.item ? line : { ...line, id: null },
  );
  const stay = new Set(kept.map((line) => line.id));
  const gone = [...before.keys()].filter((line) => !stay.has(line));
  await refuseLinked(ctx, gone, body.lines);
  await ctx.sql.run(
    "UPDATE sales_order SET customer_id = $customer, due = $due, reference = $reference, note = $note WHERE id = $id",
    { id, customer: body.customer, due: body.due, reference: body.reference, note: body.note },
  );
  await ctx.sql.run("DELETE FROM sales_line WHERE id IN (SELECT value FROM json_each($gone))", {
    gone: asJson(gone),
  });
  await writeLines(ctx, id, kept);
}

/** Cancels an order: what it reserved is free, and no build works for it any more. */
export async function cancelOrder(ctx: Writing, id: number): Promise<void> {
  refuseEnded(await orderById(ctx, id));
  const own = "SELECT id FROM sales_line WHERE order_id = $id";
  await ctx.sql.run(`UPDATE sales_take SET open = 0 WHERE line_id IN (${own})`, { id });
  await ctx.sql.run(`DELETE FROM build_order WHERE line_id IN (${own})`, { id });
  await ctx.sql.run(
    "UPDATE sales_order SET stage = 'cancelled', cancelled_by = $person, cancelled_at = $moment WHERE id = $id",
    { id, person: ctx.person.id, moment: ctx.moment },
  );
}

/** What open orders miss of products that have a list, the earliest due first. */
export async function missingProducts(ctx: Reading) {
  const orders = await ctx.sql.all<{ id: number; number: string; due: Day | null }>(
    "SELECT id, number, due FROM sales_order WHERE stage = 'open' ORDER BY due IS NULL, due, id",
  );
  const found = await toBuildOf(
    ctx,
    await linesOf(
      ctx,
      orders.map((order) => order.id),
    ),
  );
  return orders.flatMap(({ id, number, due }) =>
    found.filter((take) => take.order === id).map(({ item, missing }) => ({ item, missing, number, due })),
  );
}

/** What lines miss of products that can be built. */
async function toBuildOf(ctx: Reading, lines: readonly Line[]) {
  const missing = lines.flatMap(({ id, order, takes }) =>
    takes.filter((take) => take.missing.gt(0)).map((take) => ({ ...take, line: id, order })),
  );
  const rows = await itemRows(ctx, [...new Set(missing.map((take) => take.item))]);
  const items = new Map(rows.map((item) => [item.id, item]));
  return missing.flatMap(({ item: id, ...take }) => {
    const item = items.get(id);
    return item && whyNot("product", item) === null ? [{ ...take, item }] : [];
  });
}

/** Makes a draft build of each product that the order misses, due with it and linked to its line. Gives their ids. */
export async function buildForOrder(ctx: Writing, id: number, only: readonly number[]): Promise<number[]> {
  const order = await orderById(ctx, id);
  refuseEnded(order);
  const lines = (await linesOf(ctx, [id])).filter((line) => only.length === 0 || only.includes(line.id));
  const builds: number[] = [];
  for (const { item, line, missing } of await toBuildOf(ctx, lines)) {
    const quantity = missing.toFixed();
    const build = await newBuild(ctx, { ...PLAIN_BUILD, product: item.id, quantity, due: order.due });
    await linkOrder(ctx, build, { line, quantity });
    builds.push(build);
  }
  if (builds.length === 0) throw new Refusal("order-builds-none", { number: order.number });
  return builds;
}

function refuseEnded({ number, stage }: OrderTableRow): void {
  if (stage !== "open") throw new Refusal("order-ended", { number, stage });
}

async function checkCustomer(ctx: Reading, id: number): Promise<void> {
  const found = await ctx.sql.one("SELECT 1 FROM firm WHERE id = $id AND kind = 'customer'", { id });
  if (!found) throw Refusal.at("customer", "not-found", { what: "customer", id });
}

/** A line that is taken out must have nobody working for it. */
async function refuseLinked(ctx: Reading, gone: readonly number[], lines: OrderBody["lines"]): Promise<void> {
  const linked = await ctx.sql.all<{ line: number; number: string }>(
    `SELECT k.line_id AS line, b.number FROM json_each($gone) ids JOIN build_order k ON k.line_id = ids.value
       JOIN build b ON b.id = k.build_id ORDER BY k.id`,
    { gone: asJson(gone) },
  );
  const [first] = linked;
  if (!first) return;
  const at = lines.findIndex((line) => line.id === first.line);
  const builds = linked.filter((link) => link.line === first.line).map((link) => link.number);
  throw Refusal.at(at === -1 ? "lines" : `lines.${at}.item`, "line-linked", { builds: builds.join(", ") });
}

interface CheckedLine {
  id: number | null;
  item: number;
  quantity: Decimal;
  price: Decimal | null;
  /** What one takes from stock. */
  takes: Map<number, Decimal>;
}

/** Checks the lines of an order and says what each takes: itself, or what is in the kit now; work takes nothing. */
async function checkLines(ctx: Reading, lines: OrderBody["lines"]): Promise<CheckedLine[]> {
  const found = await ctx.sql.all<{ id: number }>(
    "SELECT DISTINCT i.id FROM json_each($ids) ids JOIN item i ON i.id = ids.value",
    { ids: asJson(lines.map((line) => line.item)) },
  );
  const wanted = found.map((item) => item.id);
  const items = new Map((await itemRows(ctx, wanted)).map((item) => [item.id, item]));
  const kits = await loadKits(ctx, wanted);
  const units = await loadUnits(ctx);
  const problems: Problem[] = [];
  const checked = lines.map((line, i): CheckedLine => {
    const item = items.get(line.item);
    if (!item) throw Refusal.at(`lines.${i}.item`, "not-found", { what: "item", id: line.item });
    const why = whyNot("selling", item);
    if (why) throw Refusal.at(`lines.${i}.item`, why, { code: item.code, kind: item.kind });
    const quantity = decimal(line.quantity);
    checkDecimals("quantity", quantity, unitNamed(units, item.unit), reporter(i, problems));
    const takes = new Map<number, Decimal>();
    const kit = kits.get(item.id);
    if (kit)
      for (const content of kit.contents.filter((c) => c.stocked))
        takes.set(content.item, (takes.get(content.item) ?? ZERO).plus(content.quantity));
    else if (item.kind !== "service" && !item.notCounted) takes.set(item.id, ONE);
    const price = line.price ?? item.price;
    return { id: line.id, item: item.id, quantity, price: price === null ? null : decimal(price), takes };
  });
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
  return checked;
}

/** Writes the lines of an order, and what they reserve. A kit that stays keeps the contents it was ordered with. */
async function writeLines(ctx: Writing, id: number, lines: readonly CheckedLine[]): Promise<void> {
  for (const [i, line] of lines.entries()) {
    const bind = {
      ...{ line: i + 1, quantity: quantityToWhole(line.quantity) },
      price: line.price === null ? null : moneyToWhole(line.price),
    };
    if (line.id === null) {
      const made = await ctx.sql.insert(
        "INSERT INTO sales_line (order_id, line, item_id, quantity, price) VALUES ($order, $line, $item, $quantity, $price)",
        { order: id, item: line.item, ...bind },
      );
      const takes = [...line.takes].map(([item, per]) => [
        ...[item, quantityToWhole(per), quantityToWhole(per.times(line.quantity))],
      ]);
      await ctx.sql.run(
        `INSERT INTO sales_take (line_id, item_id, per, open)
         SELECT $line, value ->> 0, value ->> 1, value ->> 2 FROM json_each($takes) ORDER BY key`,
        { line: made, takes: asJson(takes) },
      );
      continue;
    }
    await ctx.sql.run(
      "UPDATE sales_line SET line = $line, quantity = $quantity, price = $price WHERE id = $id",
      { id: line.id, ...bind },
    );
    await reserveAnew(ctx, line.id, line.quantity);
  }
}

async function reserveAnew(ctx: Writing, line: number, quantity: Decimal): Promise<void> {
  const takes = await ctx.sql.all<{ item: number; per: number }>(
    "SELECT item_id AS item, per FROM sales_take WHERE line_id = $line",
    { line },
  );
  const rows = takes.map(({ item, per }) => [item, quantityToWhole(quantity.times(quantityFromWhole(per)))]);
  await ctx.sql.run(
    `UPDATE sales_take SET open = r.value ->> 1 FROM json_each($rows) r WHERE line_id = $line AND item_id = r.value ->> 0`,
    { line, rows: asJson(rows) },
  );
}
