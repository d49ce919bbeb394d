import { type ParsedBody, PLAIN_BUILD, type RecurringBuild, Refusal, type routes } from "@yosegi/contract";
import { nextRecurring, quantityFromScaled, quantityToScaled, recurringDay } from "@yosegi/core";
import { checkQuantity, newBuild } from "../builds/index.ts";
import { change, type Reading, read, type Store, type Writing } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { loadLists } from "../lists/index.ts";
import { checkPerson } from "../people/index.ts";
import { buildable } from "./buildable.ts";
import { RECURRING_BUILD } from "./tables.ts";

interface Row {
  id: number;
  version: number;
  product: number;
  quantity: number;
  weekdays: string;
  starts: string;
  assigned: number | null;
  person: string | null;
  note: string;
  last_day: string | null;
  created_by: number;
}

async function rowsOf(ctx: Reading): Promise<Row[]> {
  return ctx.sql.all<Row>(
    `SELECT s.id, s.version, s.product_id AS product, s.quantity, s.weekdays, s.starts, s.assigned_to AS assigned, n.name AS person,
            s.note, s.last_day, s.created_by
       FROM recurring_build s LEFT JOIN person_name n ON n.id = s.assigned_to ORDER BY s.id`,
  );
}

const ruleOf = (row: Row) => ({ weekdays: JSON.parse(row.weekdays) as number[], from: row.starts });

export async function recurringBuilds(ctx: Reading): Promise<RecurringBuild[]> {
  const rows = await rowsOf(ctx);
  const products = rows.map((row) => row.product);
  const brief = await briefs(ctx, products);
  const problems = await problemsOf(ctx, products);
  return rows.map((row) => ({
    id: row.id,
    version: row.version,
    product: brief(row.product),
    quantity: quantityFromScaled(row.quantity).toFixed(),
    weekdays: ruleOf(row).weekdays,
    starts: row.starts,
    assigned: row.assigned === null ? null : { id: row.assigned, name: row.person ?? "" },
    note: row.note,
    lastDay: row.last_day,
    next: nextRecurring(ruleOf(row), ctx.today),
    problem: problems.get(row.product) ?? null,
  }));
}

/** Why no drafts can be made of products, such as a parts list that is gone; what can be built is not in it. */
async function problemsOf(ctx: Reading, products: readonly number[]): Promise<Map<number, string>> {
  const brief = await briefs(ctx, products);
  const lists = await loadLists(ctx, products);
  const problems = new Map<number, string>();
  // What has a list and is in use can be built; only of the few others it is asked why not.
  for (const product of new Set(products)) {
    if (lists.has(product) && brief(product).state === "active") continue;
    const problem = await problemOf(ctx, product);
    if (problem !== null) problems.set(product, problem);
  }
  return problems;
}

/** Why no draft can be made of a product; null where it can. */
async function problemOf(ctx: Reading, product: number): Promise<string | null> {
  try {
    await buildable(ctx, product);
    return null;
  } catch (error) {
    if (error instanceof Refusal) return error.message;
    throw error;
  }
}

/** Makes a standing build, or changes one. */
export async function writeRecurring(
  ctx: Writing,
  id: number | null,
  body: ParsedBody<typeof routes.newRecurring>,
): Promise<void> {
  const { assigned } = body;
  const product = await buildable(ctx, body.product);
  await checkQuantity(ctx, product, body.quantity);
  if (assigned !== null) await checkPerson(ctx, "assigned", assigned);
  const columns = {
    product_id: body.product,
    quantity: quantityToScaled(body.quantity),
    starts: body.starts,
    assigned_to: assigned,
    note: body.note,
    weekdays: JSON.stringify([...new Set(body.weekdays)].sort()),
  };
  if (id === null) {
    await ctx
      .model(RECURRING_BUILD)
      .create({ ...columns, created_by: ctx.person.id, created_at: ctx.moment });
    return;
  }
  const [changed] = await ctx.model(RECURRING_BUILD).update(columns, { where: { id } });
  if (changed === 0) throw new Refusal("not-found", { what: "standing build", id });
}

export async function removeRecurring(ctx: Writing, id: number): Promise<void> {
  await ctx.model(RECURRING_BUILD).destroy({ where: { id } });
}

/**
 * Makes the drafts that standing builds owe today, each in the name of who set it up; gives how many. Each day makes
 * one draft only, however often this runs.
 */
export async function makeRecurring(store: Store): Promise<number> {
  const due = await read(store, async (ctx) => {
    const rows = (await rowsOf(ctx)).flatMap((row) => {
      const day = recurringDay(ruleOf(row), row.last_day, ctx.today);
      return day === null ? [] : [{ row, day }];
    });
    const problems = await problemsOf(
      ctx,
      rows.map(({ row }) => row.product),
    );
    // What cannot be made is told on its page; the others are made all the same.
    return rows.filter(({ row }) => !problems.has(row.product));
  });
  // Each draft is a change of its own, in the name of who set it up.
  for (const { row, day } of due)
    await change(store, row.created_by, async (ctx) => {
      await newBuild(
        ctx,
        {
          ...PLAIN_BUILD,
          product: row.product,
          quantity: quantityFromScaled(row.quantity),
          due: day,
          assigned: row.assigned,
          note: row.note,
        },
        { recurring: { id: row.id, day } },
      );
      await ctx.model(RECURRING_BUILD).update({ last_day: day }, { where: { id: row.id } });
    });
  return due.length;
}
