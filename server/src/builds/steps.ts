import { type BuildInput, type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  checkDecimals,
  type Day,
  type Decimal,
  type Problem,
  quantityFromScaled,
  quantityToScaled,
  reporter,
  startFor,
} from "@yosegi/core";
import { type NewRow, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import type { ItemTableRow } from "../items/index.ts";
import { itemById, loadUnits, productById, unitNamed } from "../items/index.ts";
import { refuseTooMuch, storeId } from "../ledger/index.ts";
import { lockForBuild } from "../lists/index.ts";
import { checkPerson } from "../people/index.ts";
import { refuseProblems } from "../problems.ts";
import { putAllBack } from "./bench.ts";
import {
  asQueued,
  type ChosenList,
  draftOf,
  type ListChoice,
  listFor,
  listsFor,
  startOf,
} from "./content.ts";
import { insertStored, storedColumns } from "./lines.ts";
import { keepOwnParts, partsOfList, writeOwnParts } from "./ownparts.ts";
import { buildById, refuseStage } from "./rows.ts";
import type { BuildTableRow } from "./tables.ts";
import { BUILD, BUILD_LINE } from "./tables.ts";

/** Refuses a quantity of a product that its unit does not allow, at the field that it was typed in. */
export async function checkQuantity(
  ctx: Reading,
  product: ItemTableRow,
  quantity: Decimal,
  field = "quantity",
): Promise<void> {
  const problems: Problem[] = [];
  const unit = unitNamed(await loadUnits(ctx), product.unit);
  checkDecimals(field, quantity, unit, reporter(0, problems));
  refuseProblems(problems, (p) => p.field);
}

/** What a draft keeps of what was asked: as many are started as the list's yield wants for the good units. */
export async function draftColumns(
  ctx: Reading,
  product: ItemTableRow,
  { quantity, due }: { quantity: Decimal; due: Day | null },
  choice: ListChoice,
) {
  await checkQuantity(ctx, product, quantity);
  const list = await listFor(ctx, product, choice, startOf(product, due, ctx.today));
  return columnsBy(list, quantity, choice);
}

/** The same where the list is read already; none of a product that is built by parts of the build's own. */
function columnsBy(list: ChosenList | null, quantity: Decimal, choice: ListChoice) {
  const optional = new Set(
    list?.withAllOptions.lines.filter((line) => line.optional).map((line) => line.item),
  );
  const unknown =
    choice.asBuilt === null && choice.own === null
      ? choice.options.find((item) => !optional.has(item))
      : undefined;
  if (unknown !== undefined) throw Refusal.at("options", "not-found", { what: "optional part", id: unknown });
  return {
    wanted: quantityToScaled(quantity),
    quantity: quantityToScaled(list ? startFor(list.taken, quantity) : quantity),
    list_id: list?.id ?? null,
    options: JSON.stringify([...new Set(choice.options)]),
    as_built: choice.asBuilt,
  };
}

/** What is asked of a build, the store that its goods go to by its id. */
type Located<Body> = Omit<Body, "store"> & { location: number | null };
type NewPlan = Located<BuildInput>;
type ChangedPlan = Located<ParsedBody<typeof routes.changeBuild>>;
type PlanBody = Omit<NewPlan, "product" | "quantity" | "list" | "options" | "parts">;

const located = async <Body extends { store: string }>(
  ctx: Reading,
  { store, ...body }: Body,
): Promise<Located<Body>> => ({
  ...body,
  location: store === "" ? null : await storeId(ctx, "store", store),
});

const FIRM_COLUMNS = { customer: "customer_id", subcontractor: "subcontractor_id" } as const;

/** What may be changed of a build as long as it is open: when, by whom, for whom, where to. */
async function planColumns(ctx: Reading, body: PlanBody, build: BuildTableRow | null) {
  const { assigned, customer, subcontractor } = body;
  if (assigned !== null) await checkPerson(ctx, "assigned", assigned);
  for (const [field, kind, id] of [
    ["customer", "customer", customer],
    ["subcontractor", "supplier", subcontractor],
  ] as const)
    if (id !== null) await refuseFirm(ctx, field, kind, { id, before: build?.[FIRM_COLUMNS[field]] ?? null });
  return {
    due: body.due,
    note: body.note,
    priority: body.priority,
    cost_tag: body.costTag,
    bin: body.bin,
    assigned_to: assigned,
    customer_id: customer,
    subcontractor_id: subcontractor,
    location_id: body.location,
  };
}

/** Of whom and from what a draft was made, beside what was asked. */
export interface Origin {
  asBuilt?: number;
  /** The build whose own parts it takes too. */
  own?: number;
  splitFrom?: number;
  recurring?: { id: number; day: string };
}

/** Makes a draft. It follows the product's parts list until it is queued. Gives its id. */
export const newBuild = async (ctx: Writing, body: BuildInput, origin: Origin = {}): Promise<number> =>
  makeDraft(ctx, await located(ctx, body), origin);

/** The same, of a store that is known. */
export async function makeDraft(ctx: Writing, body: NewPlan, origin: Origin): Promise<number> {
  const product = await productById(ctx, body.product);
  const { list: named, options, parts } = body;
  const choice = { list: named, options, asBuilt: origin.asBuilt ?? null, own: origin.own ?? null };
  await checkQuantity(ctx, product, body.quantity);
  const list = await listOf(ctx, product, choice, body);
  const id = await insertBuild(ctx, {
    product_id: product.id,
    stage: "draft" as const,
    makes: null,
    overhead: null,
    revision_id: null,
    extra: 0,
    ...columnsBy(list, body.quantity, choice),
    ...(await planColumns(ctx, body, null)),
    split_from: origin.splitFrom ?? null,
    recurring_id: origin.recurring?.id ?? null,
    recurring_day: origin.recurring?.day ?? null,
  });
  const build = await buildById(ctx, id);
  const before = partsOfList(list, quantityFromScaled(build.quantity));
  if (parts !== null) await writeOwnParts(ctx, build, product, before, parts);
  else if (choice.own !== null) await keepOwnParts(ctx, build, before);
  await refuseTooMuch(ctx, [product.id, ...(parts ?? []).map((part) => part.item)]);
  return id;
}

/** The list that a new build is made by; none only where it brings parts of its own. */
async function listOf(
  ctx: Reading,
  product: ItemTableRow,
  choice: ListChoice,
  { due, parts }: NewPlan,
): Promise<ChosenList | null> {
  const day = startOf(product, due, ctx.today);
  if (parts === null || choice.list !== null) return listFor(ctx, product, choice, day);
  const [found] = await listsFor(ctx, [{ product, choice, day }]);
  return found ?? null;
}

/** Who did what of a build, and when, where nothing is done yet. */
const UNDONE = {
  queued_by: null,
  queued_at: null,
  bench_by: null,
  bench_at: null,
  finished_by: null,
  finished_at: null,
  cancelled_by: null,
  cancelled_at: null,
};

type InsertedBuild = Omit<
  NewRow<typeof BUILD>,
  "id" | "number" | "good" | "rejected" | "created_by" | "created_at" | "joined_into" | keyof typeof UNDONE
>;

/** Writes a new build under the next number. Gives its id. */
export async function insertBuild(
  ctx: Writing,
  columns: InsertedBuild & Partial<Pick<BuildTableRow, keyof typeof UNDONE>>,
): Promise<number> {
  const row = await ctx.model(BUILD).create({
    ...UNDONE,
    ...columns,
    number: await nextNumber(ctx, "B"),
    good: 0,
    rejected: 0,
    joined_into: null,
    created_by: ctx.person.id,
    created_at: ctx.moment,
  });
  return row.get({ plain: true }).id;
}

/** Changes what is planned of an open build; once it is queued, not what it makes and what it takes. */
export const changeBuild = async (
  ctx: Writing,
  id: number,
  body: ParsedBody<typeof routes.changeBuild>,
): Promise<void> => changePlan(ctx, id, await located(ctx, body));

/** The same, of a store that is known. */
export async function changePlan(ctx: Writing, id: number, body: ChangedPlan): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "plan");
  if (build.stage !== "draft") refuseOtherWork(build, body);
  if (body.subcontractor !== build.subcontractor_id && build.stage === "on the bench")
    throw Refusal.at("subcontractor", "build-as-it-is", {
      number: build.number,
      stage: build.stage,
      field: "workshop",
    });
  const product = await itemById(ctx, build.product_id);
  const { own } = draftOf(build);
  if (own !== null) refuseOtherList(build, body, "parts-own");
  // Another list is asked for by name; the actual quantities of an earlier build stay as long as none is.
  const asBuilt = body.list === build.list_id ? build.as_built : null;
  const columns = {
    ...(await planColumns(ctx, body, build)),
    ...(build.stage === "draft" && (await draftColumns(ctx, product, body, { ...body, asBuilt, own }))),
  };
  await ctx.model(BUILD).update(columns, { where: { id } });
  await refuseTooMuch(ctx, [product.id]);
}

/** A build that is queued keeps what it makes and what it takes. */
function refuseOtherWork(build: BuildTableRow, body: ChangedPlan): void {
  if (!quantityFromScaled(build.wanted).eq(body.quantity))
    throw Refusal.at("quantity", "build-as-it-is", {
      number: build.number,
      stage: build.stage,
      field: "quantity",
    });
  refuseOtherList(build, body, "build-as-it-is");
}

/** A build that took its parts over does not follow another list, nor other optional parts of it. */
function refuseOtherList(
  build: BuildTableRow,
  body: ChangedPlan,
  code: "build-as-it-is" | "parts-own",
): void {
  const refuse = (field: string, name: string) =>
    Refusal.at(field, code, { number: build.number, stage: build.stage, field: name });
  if (body.list !== build.list_id) throw refuse("list", "parts list");
  const options = new Set(draftOf(build).options);
  if (body.options.length !== options.size || body.options.some((item) => !options.has(item)))
    throw refuse("options", "optional parts");
}

/** Queues a draft: it takes a copy of the parts list that nothing changes any more, and reserves what it needs. */
export async function queueBuild(ctx: Writing, id: number): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "queue");
  const { build: queued, revision, lines } = await asQueued(ctx, build);
  if (revision !== null) await lockForBuild(ctx, revision, build.number);
  await ctx.model(BUILD_LINE).destroy({ where: { build_id: id } });
  await insertStored(
    ctx,
    id,
    lines.map((line) => storedColumns(line, line)),
  );
  const { stage, quantity, revision_id, extra, makes, overhead } = queued;
  await ctx.model(BUILD).update(
    {
      stage,
      quantity,
      revision_id,
      extra,
      makes,
      overhead,
      queued_by: ctx.person.id,
      queued_at: ctx.moment,
    },
    { where: { id } },
  );
  await refuseTooMuch(ctx, [build.product_id, ...lines.map((line) => line.item)]);
}

/** Refuses what may only be done before anything of a build was recorded. */
export async function refuseBegun(ctx: Reading, { id, number }: BuildTableRow): Promise<void> {
  const recorded = await ctx.sql.one("SELECT 1 FROM finish WHERE build_id = $id LIMIT 1", { id });
  if (recorded) throw new Refusal("build-begun", { number, why: "finish it, or cancel what is left" });
}

/** Moves a queued build back to draft; it follows its parts list again, unless its parts are its own. */
export async function unqueueBuild(ctx: Writing, id: number): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "unqueue");
  await refuseBegun(ctx, build);
  await ctx.model(BUILD).update({ stage: "draft", queued_by: null, queued_at: null }, { where: { id } });
  if (build.own_parts === 1) await ctx.model(BUILD_LINE).update({ open: 0 }, { where: { build_id: id } });
  else await forgetContent(ctx, id);
}

/** Forgets what a build took over of its list. */
export async function forgetContent(ctx: Writing, id: number): Promise<void> {
  await ctx.model(BUILD_LINE).destroy({ where: { build_id: id } });
  await ctx
    .model(BUILD)
    .update({ own_parts: 0, makes: null, overhead: null, revision_id: null, extra: 0 }, { where: { id } });
}

/** Cancels what is not finished: its reservations go back, and what was handed out to the bins it came from. */
export async function cancelBuild(ctx: Writing, id: number): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "cancel");
  await putAllBack(ctx, build, ctx.today);
  await ctx.model(BUILD_LINE).update({ open: 0 }, { where: { build_id: id } });
  await ctx
    .model(BUILD)
    .update({ stage: "cancelled", cancelled_by: ctx.person.id, cancelled_at: ctx.moment }, { where: { id } });
}
