import { type BodyOf, type NewBuild, Refusal, type routes } from "@yosegi/contract";
import {
  checkDecimals,
  type Decimal,
  decimal,
  lineNeed,
  moneyFromWhole,
  moneyToWhole,
  needUnit,
  type Problem,
  quantityFromWhole,
  quantityToWhole,
  reporter,
  startFor,
  withOptions,
  ZERO,
} from "@yosegi/core";
import {
  type FullList,
  itemById,
  lineColumns,
  loadRevisions,
  loadUnits,
  lockForBuild,
  productById,
  refuseProblems,
  revisionInForce,
  storeId,
  unitNamed,
} from "../catalog/index.ts";
import {
  asJson,
  type BuildTableRow,
  type ItemTableRow,
  nextNumber,
  type Reading,
  type Writing,
} from "../db/index.ts";
import { putAllBack } from "./bench.ts";
import { buildById, doneOf, keptLines, refuseStage } from "./rows.ts";

/** What a build says of the list it is made by. */
export const draftOf = (build: BuildTableRow): ListChoice => ({
  list: build.list_id,
  options: JSON.parse(build.options) as number[],
  asBuilt: build.as_built,
});

/** Which list a build is made by: one of the product's, or what another build really used. */
export interface ListChoice {
  list: number | null;
  options: number[];
  asBuilt: number | null;
}

export async function checkQuantity(ctx: Reading, product: ItemTableRow, quantity: string): Promise<Decimal> {
  const problems: Problem[] = [];
  const unit = unitNamed(await loadUnits(ctx), product.unit);
  checkDecimals("quantity", decimal(quantity), unit, reporter(0, problems));
  refuseProblems(problems, (p) => p.field);
  return decimal(quantity);
}

export interface ChosenList {
  id: number | null;
  revision: number;
  /** With the optional parts that were chosen, and with all. */
  taken: FullList;
  whole: FullList;
}

/** The list that a build is made by, as it is in force today and with the optional parts it chooses. */
export async function listFor(
  ctx: Reading,
  product: ItemTableRow,
  { list, options, asBuilt }: ListChoice,
): Promise<ChosenList> {
  if (asBuilt !== null) return asBuiltList(ctx, product, asBuilt);
  const found = await ctx.sql.one<{ id: number }>(
    `SELECT id FROM parts_list WHERE product_id = $product AND ${list === null ? "main = 1" : "id = $list"}`,
    { product: product.id, ...(list !== null && { list }) },
  );
  if (!found && list !== null) throw Refusal.at("list", "not-found", { what: "parts list", id: list });
  const revision = found && (await revisionInForce(ctx, found.id));
  const whole = revision ? (await loadRevisions(ctx, [revision])).get(revision) : undefined;
  if (!found || !revision || !whole) throw Refusal.at("product", "no-list", { code: product.code });
  return { id: found.id, revision, whole, taken: withOptions(whole, new Set(options)) };
}

/** What a build really used, as a list that makes as many as it worked. */
async function asBuiltList(ctx: Reading, product: ItemTableRow, source: number): Promise<ChosenList> {
  const build = await buildById(ctx, source);
  const units = await loadUnits(ctx);
  const makes = doneOf(build);
  if (makes.eq(0) || build.revision_id === null)
    throw Refusal.at("actual", "nothing-used", { number: build.number });
  const lines = (await keptLines(ctx, source, units)).filter((line) => line.used.gt(0));
  const taken: FullList = {
    ...{
      makes,
      usual: makes,
      overhead: moneyFromWhole(build.overhead ?? 0),
      extra: moneyFromWhole(build.extra),
    },
    ...{ yield: decimal(100), decimals: unitNamed(units, product.unit).decimals },
    lines: lines.map((line) => ({
      ...line,
      ...{ quantity: line.used, unit: needUnit(line), waste: ZERO },
      ...{ optional: false, share: null, person: null, substitutes: [] },
    })),
  };
  return { id: build.list_id, revision: build.revision_id, taken, whole: taken };
}

/** What a draft keeps of what was asked: as many are started as the list's yield wants for the good units. */
async function draftColumns(ctx: Reading, product: ItemTableRow, quantity: string, choice: ListChoice) {
  const wanted = await checkQuantity(ctx, product, quantity);
  const list = await listFor(ctx, product, choice);
  const optional = new Set(list.whole.lines.filter((line) => line.optional).map((line) => line.item));
  const stranger = choice.asBuilt === null ? choice.options.find((item) => !optional.has(item)) : undefined;
  if (stranger !== undefined)
    throw Refusal.at("options", "not-found", { what: "optional part", id: stranger });
  return {
    wanted: quantityToWhole(wanted),
    quantity: quantityToWhole(startFor(list.taken, wanted)),
    list_id: list.id,
    options: JSON.stringify(choice.options),
    as_built: choice.asBuilt,
  };
}

type PlanBody = Omit<NewBuild, "product" | "quantity" | "list" | "options">;

/** What may be changed of a build as long as it is open: when, by whom, for whom, where to. */
async function planColumns(ctx: Reading, body: PlanBody) {
  const { assigned, customer, outside } = body;
  if (assigned !== null && !(await ctx.sql.one("SELECT 1 FROM person WHERE id = $assigned", { assigned })))
    throw Refusal.at("assigned", "not-found", { what: "person", id: assigned });
  for (const [field, kind, id] of [
    ["customer", "customer", customer],
    ["outside", "supplier", outside],
  ] as const)
    if (
      id !== null &&
      !(await ctx.sql.one("SELECT 1 FROM firm WHERE id = $id AND kind = $kind", { id, kind }))
    )
      throw Refusal.at(field, "not-found", { what: kind, id });
  return {
    ...{ due: body.due, note: body.note, priority: body.priority, cost_tag: body.costTag, bin: body.bin },
    ...{ assigned_to: assigned, customer_id: customer, outside_id: outside },
    place_id: body.store === "" ? null : await storeId(ctx, "store", body.store),
  };
}

/** Of whom and from what a draft was made, beside what was asked. */
export interface Origin {
  asBuilt?: number;
  splitFrom?: number;
  standing?: { id: number; day: string };
}

/** Makes a draft. It follows the product's parts list until it is queued. Gives its id. */
export async function newBuild(ctx: Writing, body: NewBuild, origin: Origin = {}): Promise<number> {
  const product = await productById(ctx, body.product);
  const choice = { list: body.list, options: body.options, asBuilt: origin.asBuilt ?? null };
  return insertBuild(ctx, {
    ...{
      product_id: product.id,
      stage: "draft" as const,
      makes: null,
      overhead: null,
      revision_id: null,
      extra: 0,
    },
    ...(await draftColumns(ctx, product, body.quantity, choice)),
    ...(await planColumns(ctx, body)),
    ...{ split_from: origin.splitFrom ?? null, standing_id: origin.standing?.id ?? null },
    standing_day: origin.standing?.day ?? null,
  });
}

/** Who did what of a build, and when, where nothing is done yet. */
const UNDONE = {
  ...{ queued_by: null, queued_at: null, bench_by: null, bench_at: null },
  ...{ finished_by: null, finished_at: null, cancelled_by: null, cancelled_at: null },
};

type InsertedBuild = Omit<
  BuildTableRow,
  "id" | "number" | "good" | "rejected" | "made_by" | "made_at" | "joined_into" | keyof typeof UNDONE
>;

/** Writes a new build under the next number. Gives its id. */
export async function insertBuild(
  ctx: Writing,
  columns: InsertedBuild & Partial<Pick<BuildTableRow, keyof typeof UNDONE>>,
): Promise<number> {
  const row = await ctx.models.build.create(
    {
      ...UNDONE,
      ...columns,
      ...{ number: await nextNumber(ctx, "B"), good: 0, rejected: 0, joined_into: null },
      ...{ made_by: ctx.person.id, made_at: ctx.moment },
    },
    { transaction: ctx.transaction },
  );
  return row.get({ plain: true }).id;
}

export async function changeBuild(
  ctx: Writing,
  id: number,
  body: BodyOf<typeof routes.changeBuild>,
): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "plan");
  if (build.stage !== "draft") refuseOtherWork(build, body);
  if (body.outside !== build.outside_id && build.stage === "on the bench")
    throw Refusal.at("outside", "build-as-it-is", {
      ...{ number: build.number, stage: build.stage, field: "workshop" },
    });
  const product = await itemById(ctx, build.product_id);
  // Another list is asked for by name; the actual quantities of an earlier build stay as long as none is.
  const asBuilt = body.list === build.list_id ? build.as_built : null;
  const columns = {
    ...(await planColumns(ctx, body)),
    ...(build.stage === "draft" && (await draftColumns(ctx, product, body.quantity, { ...body, asBuilt }))),
  };
  await ctx.models.build.update(columns, { where: { id }, transaction: ctx.transaction });
}

/** A build that is queued keeps what it makes and what it takes. */
function refuseOtherWork(build: BuildTableRow, body: BodyOf<typeof routes.changeBuild>): void {
  const refuse = (field: string, name: string) =>
    Refusal.at(field, "build-as-it-is", { number: build.number, stage: build.stage, field: name });
  if (!quantityFromWhole(build.wanted).eq(body.quantity)) throw refuse("quantity", "quantity");
  if (body.list !== build.list_id) throw refuse("list", "parts list");
  const options = new Set(draftOf(build).options);
  if (body.options.length !== options.size || body.options.some((item) => !options.has(item)))
    throw refuse("options", "optional parts");
}

/** Queues a draft: it takes a copy of the parts list that nothing changes any more, and reserves what it needs. */
export async function queueBuild(ctx: Writing, id: number): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "queue");
  const product = await itemById(ctx, build.product_id);
  const { taken: list, whole, revision } = await listFor(ctx, product, draftOf(build));
  await lockForBuild(ctx, revision, build.number);
  const quantity = startFor(list, quantityFromWhole(build.wanted));
  const rows = list.lines.map((line) => {
    const need = lineNeed(line, list.makes, quantity);
    return [
      ...[...lineColumns(line), quantityToWhole(need), quantityToWhole(line.stocked ? need : ZERO)],
      ...[line.drawnAt, line.store, line.note, whole.lines.indexOf(line) + 1],
    ];
  });
  await ctx.sql.run(
    `INSERT INTO build_line (build_id, line, item_id, quantity, unit, waste, once, need, used, open, drawn_at, place_id, note, list_line)
     SELECT $id, key + 1, value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, 0, value ->> 6,
            value ->> 7, value ->> 8, value ->> 9, value ->> 10 FROM json_each($rows)`,
    { id, rows: asJson(rows) },
  );
  await ctx.models.build.update(
    {
      stage: "queued",
      quantity: quantityToWhole(quantity),
      revision_id: revision,
      extra: moneyToWhole(list.extra),
      makes: quantityToWhole(list.makes),
      overhead: moneyToWhole(list.overhead),
      queued_by: ctx.person.id,
      queued_at: ctx.moment,
    },
    { where: { id }, transaction: ctx.transaction },
  );
}

/** Takes a queued build back to a draft; it follows its parts list again. */
export async function unqueueBuild(ctx: Writing, id: number): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "unqueue");
  const recorded = await ctx.sql.one("SELECT 1 FROM finish WHERE build_id = $id LIMIT 1", { id });
  if (recorded)
    throw new Refusal("build-begun", { number: build.number, why: "finish it, or cancel what is left" });
  await ctx.sql.run("DELETE FROM build_line WHERE build_id = $id", { id });
  await ctx.models.build.update(
    {
      stage: "draft",
      makes: null,
      overhead: null,
      revision_id: null,
      extra: 0,
      queued_by: null,
      queued_at: null,
    },
    { where: { id }, transaction: ctx.transaction },
  );
}

/** Cancels what is not finished: its reservations go back, and what was handed out to the bins it came from. */
export async function cancelBuild(ctx: Writing, id: number): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "cancel");
  await putAllBack(ctx, build, ctx.today);
  await ctx.sql.run("UPDATE build_line SET open = 0 WHERE build_id = $id", { id });
  await ctx.models.build.update(
    { stage: "cancelled", cancelled_by: ctx.person.id, cancelled_at: ctx.moment },
    { where: { id }, transaction: ctx.transaction },
  );
}
