import { type AnswerOf, PLAIN_BUILD, Refusal, type routes } from "@yosegi/contract";
import { compareDays, type Day, quantityFromScaled, reasonNotSelectable } from "@yosegi/core";
import { linkFree, writeLinks } from "../allocations/index.ts";
import { enlargeDraft, newBuild, plainDraft } from "../builds/index.ts";
import { asJson, groupBy, type Reading, type Writing } from "../db/index.ts";
import { itemRows } from "../itemsheets/index.ts";
import { type Line, linesOf, openOrders, orderById, ordersById, refuseNotOpen } from "./rows.ts";

/** What lines of open orders miss of products that have a list, and no draft is to give, the earliest wanted first. */
export async function missingProducts(ctx: Reading) {
  const orders = await openOrders(ctx);
  const found = groupBy(
    await quantityToBuild(
      ctx,
      await linesOf(
        ctx,
        orders.map((order) => order.id),
      ),
    ),
    (component) => component.order,
  );
  return orders.flatMap((order) =>
    (found.get(order.id) ?? [])
      .filter((component) => component.missing > component.planned)
      .map(({ item, line, missing, planned }) => ({
        item,
        line,
        missing: quantityFromScaled(missing - planned),
        order,
      })),
  );
}

/** The same as the page asks for it. */
export async function linesToBuild(ctx: Reading): Promise<AnswerOf<typeof routes.linesToBuild>> {
  const found = await missingProducts(ctx);
  return {
    lines: found.map(({ item, line, missing, order }) => ({
      order: order.id,
      number: order.number,
      customer: { id: order.customer_id, code: order.code, name: order.name },
      due: order.due,
      overdue: order.due !== null && order.due < ctx.today,
      line,
      item,
      missing: missing.toFixed(),
    })),
  };
}

/** What lines lack or have dealt out to them of products that can be built. */
async function quantityToBuild(ctx: Reading, lines: readonly Line[]) {
  const lacking = lines.flatMap(({ id, order, components }) =>
    components
      .filter((c) => c.missing > 0 || c.dealtOut > 0)
      .map((component) => ({ ...component, line: id, order })),
  );
  const rows = await itemRows(ctx, [...new Set(lacking.map((c) => c.item))]);
  const items = new Map(rows.map((item) => [item.id, item]));
  return lacking.flatMap(({ item: id, ...component }) => {
    const item = items.get(id);
    return item && reasonNotSelectable("product", item) === null ? [{ ...component, item }] : [];
  });
}

/** Makes what an order misses, or only some of its lines; see `buildFor`. */
export async function buildForOrder(ctx: Writing, id: number, only: readonly number[]): Promise<number[]> {
  const order = await orderById(ctx, id);
  refuseNotOpen(order);
  const lines = (await linesOf(ctx, [id])).filter((line) => only.length === 0 || only.includes(line.id));
  return orRefuse(await buildFor(ctx, lines, new Map([[id, order.due]])), order.number);
}

/** Makes what lines of any open orders miss; see `buildFor`. */
export async function buildForLines(ctx: Writing, ids: readonly number[]): Promise<number[]> {
  const rows = await ctx.sql.all<{ line: number; order: number }>(
    `SELECT id AS line, order_id AS "order" FROM sales_line WHERE id IN (SELECT value FROM json_each($ids))`,
    { ids: asJson(ids) },
  );
  const known = new Set(rows.map((row) => row.line));
  const missing = ids.findIndex((id) => !known.has(id));
  if (missing !== -1)
    throw Refusal.at(`lines.${missing}`, "not-found", { what: "order line", id: ids[missing] ?? 0 });
  const orders = await ordersById(
    ctx,
    rows.map((row) => row.order),
  );
  for (const order of orders) refuseNotOpen(order);
  const lines = await linesOf(
    ctx,
    orders.map((order) => order.id),
  );
  const made = await buildFor(
    ctx,
    lines.filter((line) => ids.includes(line.id)),
    new Map(orders.map((order) => [order.id, order.due])),
  );
  return orRefuse(made, orders.map((order) => order.number).join(", "));
}

/** Refuses a press that found nothing to do. */
function orRefuse({ builds, linked }: { builds: number[]; linked: number }, number: string): number[] {
  if (builds.length === 0 && linked === 0) throw new Refusal("order-builds-none", { number });
  return builds;
}

/**
 * Makes what lines miss of each product beyond what is planned, on an open draft of it or a new one, due with the earliest of them and
 * linked to all, and links the builds to stock that were dealt out to them (docs/rules.md § 11). Pressed twice, nothing is doubled. Gives
 * the ids of these builds, and how many units were linked.
 */
export async function buildFor(
  ctx: Writing,
  lines: readonly Line[],
  dueOf: ReadonlyMap<number, Day | null>,
): Promise<{ builds: number[]; linked: number }> {
  const found = await quantityToBuild(ctx, lines);
  const linked = await linkFree(
    ctx,
    found.flatMap(({ item, line, dealtOut, plannedDealtOut }) => [
      { line, item: item.id, quantity: dealtOut, drafts: false },
      { line, item: item.id, quantity: plannedDealtOut, drafts: true },
    ]),
  );
  const lacking = groupBy(
    found.filter(({ missing, planned }) => missing > planned),
    ({ item }) => item.id,
  );
  const builds: number[] = [];
  for (const [product, wanted] of lacking) {
    const links = wanted.map(({ line, missing, planned }) => ({ line, quantity: missing - planned }));
    const dues = wanted.map(({ order }) => dueOf.get(order) ?? null);
    builds.push(await buildForLinks(ctx, product, links, dues));
  }
  return { builds, linked };
}

/** Adds what lines need of a product to an open draft of it, else to a new one, due on the earliest of the days. Gives the build. */
export async function buildForLinks(
  ctx: Writing,
  product: number,
  links: readonly { line: number; quantity: number }[],
  dues: readonly (Day | null)[],
): Promise<number> {
  const more = quantityFromScaled(links.reduce((n, link) => n + link.quantity, 0));
  const due = [...dues].sort(compareDays)[0] ?? null;
  const draft = await plainDraft(ctx, product);
  const build = draft ?? (await newBuild(ctx, { ...PLAIN_BUILD, product, quantity: more, due }));
  if (draft !== null) await enlargeDraft(ctx, draft, { more, due });
  await writeLinks(
    ctx,
    links.map((own) => ({ ...own, build })),
  );
  return build;
}
