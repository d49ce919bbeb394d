import type { AnswerOf, BuildRow, OrderRow, PurchaseRow, routes, TodayTask } from "@yosegi/contract";
import {
  addDays,
  buildNext,
  byNeed,
  type Day,
  isOpenOrder,
  orderNext,
  purchaseNext,
  reworkNext,
} from "@yosegi/core";
import { findBuilds } from "../builds/index.ts";
import { findPurchases } from "../buying/index.ts";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { findOrders } from "../orders/index.ts";

/** So many are listed; what comes after them is found on the pages of its kind. */
const LISTED = 100;
const DAYS = 10;

/** What to do next across everything. Each kind comes by its own day already, so that the first of each are enough. */
export async function today(ctx: Reading): Promise<AnswerOf<typeof routes.today>> {
  const page = { search: "", limit: LISTED };
  const builds = await findBuilds(ctx, { ...page, open: true });
  const orders = await findOrders(ctx, page);
  const purchases = await findPurchases(ctx, page);
  const openOrders = orders.orders.filter(({ stage }) => isOpenOrder(stage));
  const openPurchases = purchases.purchases.filter(
    ({ stage }) => stage !== "received" && stage !== "cancelled",
  );
  const rounds = await roundsOf(ctx);
  const byHand = [...(await countTasks(ctx)), ...(await returnTasks(ctx)), ...(await reworkTasks(ctx))];
  const tasks = [
    ...(await buildTasks(ctx, builds.builds)),
    ...(await orderTasks(ctx, openOrders)),
    ...openPurchases.map((purchase) => purchaseTask(ctx, purchase)),
    ...byHand,
  ]
    .sort(byNeed)
    .slice(0, LISTED)
    .map((task) => ({ ...task, round: rounds.get(`${task.kind} ${task.id}`) ?? null }));
  return { tasks, total: (await countOpen(ctx)) + byHand.length, days: await daysAhead(ctx) };
}

type Task = Omit<TodayTask, "round">;

/** The rounds that are walked, by their documents. */
async function roundsOf(ctx: Reading): Promise<Map<string, number>> {
  const rows = await ctx.sql.all<{ kind: string; id: number; round: number }>(
    "SELECT kind, document_id AS id, round_id AS round FROM open_pick",
  );
  return new Map(rows.map(({ kind, id, round }) => [`${kind} ${id}`, round]));
}

async function buildTasks(ctx: Reading, builds: readonly BuildRow[]): Promise<Task[]> {
  const rows = await ctx.sql.all<{ build: number }>(
    "SELECT DISTINCT build_id AS build FROM to_hand_out WHERE build_id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(builds.map((build) => build.id)) },
  );
  const toHandOut = new Set(rows.map((row) => row.build));
  return builds.map((build) => ({
    ...buildNext({ ...build, toHandOut: toHandOut.has(build.id) }),
    kind: "build",
    id: build.id,
    number: build.number,
    name: build.product.name,
    late: build.overdue || build.late,
    why: build.blocked ? `waits for ${build.waitsFor.join(", ")}` : "",
    mine: build.assigned !== null && build.assigned.id === ctx.person?.id,
    assigned: build.assigned?.name ?? "",
  }));
}

async function orderTasks(ctx: Reading, orders: readonly OrderRow[]): Promise<Task[]> {
  const rows = await ctx.sql.all<{ order: number }>(
    `SELECT DISTINCT order_id AS "order" FROM order_demand WHERE to_take > 0 AND order_id IN (SELECT value FROM json_each($ids))`,
    { ids: asJson(orders.map((order) => order.id)) },
  );
  const toPack = new Set(rows.map((row) => row.order));
  return orders.map((order) => ({
    ...orderNext({ ...order, toPack: toPack.has(order.id) }),
    kind: "order",
    id: order.id,
    number: order.number,
    name: order.customer.name,
    late: order.overdue,
    why: whyOf(order),
    mine: false,
    assigned: "",
  }));
}

function whyOf({ lines, linesReady, linesMissing }: OrderRow): string {
  if (linesReady === lines) return "";
  return linesMissing === 0
    ? "the rest is on its way"
    : `${linesMissing} ${linesMissing === 1 ? "line" : "lines"} short`;
}

const purchaseTask = (ctx: Reading, { id, number, supplier, stage, expected }: PurchaseRow): Task => ({
  ...purchaseNext(stage === "draft", expected, ctx.today),
  kind: "purchase",
  id,
  number,
  name: supplier.name,
  late: stage !== "draft" && expected !== null && expected < ctx.today,
  why: "",
  mine: false,
  assigned: "",
});

/** Counts under way. */
async function countTasks(ctx: Reading): Promise<Task[]> {
  const rows = await ctx.sql.all<{ id: number; number: string; note: string; person: number; name: string }>(
    `SELECT c.id, c.number, c.note, c.person_id AS person, n.name FROM count_sheet_head c JOIN person_name n ON n.id = c.person_id
      WHERE c.state = 'open' ORDER BY c.id`,
  );
  return rows.map(({ id, number, note, person, name }) => ({
    kind: "count",
    id,
    number,
    name: note || "Count sheet",
    step: "count",
    day: ctx.today,
    late: false,
    why: "",
    mine: person === ctx.person?.id,
    assigned: name,
  }));
}

/** Returns that wait to be inspected, since the day they came. */
async function returnTasks(ctx: Reading): Promise<Task[]> {
  const rows = await ctx.sql.all<{ id: number; number: string; day: string; name: string }>(
    `SELECT r.id, r.number, r.day, f.name FROM return_to_inspect r JOIN firm_head f ON f.id = r.customer_id ORDER BY r.id LIMIT $listed`,
    { listed: LISTED },
  );
  return rows.map((row) => ({
    ...row,
    kind: "return",
    step: "inspect",
    late: false,
    why: "",
    mine: false,
    assigned: "",
  }));
}

/** Reworks under way: the next step of each, or its finish. */
async function reworkTasks(ctx: Reading): Promise<Task[]> {
  const rows = await ctx.sql.all<{
    id: number;
    number: string;
    name: string;
    due: Day | null;
    assigned: number | null;
    assignee: string | null;
  }>(
    `SELECT r.id, r.number, i.name, r.due, r.assigned_id AS assigned, n.name AS assignee
       FROM rework_head r JOIN item_head i ON i.id = r.item_id LEFT JOIN person_name n ON n.id = r.assigned_id
      WHERE r.out_at IS NULL AND r.undone_at IS NULL ORDER BY r.due IS NULL, r.due, r.id LIMIT $listed`,
    { listed: LISTED },
  );
  const steps = await ctx.sql.all<{
    rework: number;
    what: string;
    due: Day | null;
    person: number | null;
    who: string | null;
  }>(
    `SELECT s.rework_id AS rework, s.what, s.due, s.person_id AS person, COALESCE(n.name, f.name) AS who FROM json_each($ids) k
       JOIN open_rework_step s ON s.rework_id = k.value LEFT JOIN person_name n ON n.id = s.person_id LEFT JOIN firm_head f ON f.id = s.supplier_id
      ORDER BY s.due IS NULL, s.due, CASE WHEN s.hour = '' THEN '24' ELSE s.hour END, s.id`,
    { ids: asJson(rows.map(({ id }) => id)) },
  );
  const stepsOf = groupBy(steps, (step) => step.rework);
  return rows.map(({ id, number, name, due, assigned, assignee }) => {
    const own = stepsOf.get(id) ?? [];
    const next = reworkNext({ due, steps: own });
    const [step] = own;
    return {
      ...next,
      kind: "rework",
      id,
      number,
      name,
      late: next.day !== null && next.day < ctx.today,
      why: step?.what ?? "",
      mine: (step?.person ?? assigned) !== null && (step?.person ?? assigned) === ctx.person?.id,
      assigned: step?.who ?? assignee ?? "",
    };
  });
}

async function countOpen(ctx: Reading): Promise<number> {
  const row = await ctx.sql.one<{ open: number }>(
    `SELECT (SELECT COUNT(*) FROM build_head WHERE stage IN ('draft', 'queued', 'on the bench'))
          + (SELECT COUNT(*) FROM order_head WHERE stage IN ('open', 'part shipped'))
          + (SELECT COUNT(*) FROM purchase_head WHERE stage IN ('draft', 'sent', 'part received')) AS open`,
  );
  return row?.open ?? 0;
}

/** What is due on each of the coming days, today first. */
async function daysAhead(ctx: Reading): Promise<AnswerOf<typeof routes.today>["days"]> {
  const last = addDays(ctx.today, DAYS - 1);
  const rows = await ctx.sql.all<{ day: string; kind: "builds" | "receipts" | "shipments"; n: number }>(
    `SELECT due AS day, 'builds' AS kind, COUNT(*) AS n FROM build_head
      WHERE stage IN ('draft', 'queued', 'on the bench') AND due BETWEEN $today AND $last GROUP BY due
      UNION ALL
     SELECT next, 'receipts', COUNT(*) FROM purchase_head WHERE stage IN ('sent', 'part received') AND next BETWEEN $today AND $last GROUP BY next
      UNION ALL
     SELECT due, 'shipments', COUNT(*) FROM order_head WHERE stage IN ('open', 'part shipped') AND due BETWEEN $today AND $last GROUP BY due`,
    { today: ctx.today, last },
  );
  return Array.from({ length: DAYS }, (_, i) => {
    const day = addDays(ctx.today, i);
    const of = (kind: (typeof rows)[number]["kind"]) =>
      rows.find((row) => row.day === day && row.kind === kind)?.n ?? 0;
    return { day, builds: of("builds"), receipts: of("receipts"), shipments: of("shipments") };
  });
}
