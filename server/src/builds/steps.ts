import { type BodyOf, Refusal, type routes } from "@yosegi/contract";
import {
  type BuildStep,
  checkDecimals,
  decimal,
  lineNeed,
  mayBuild,
  moneyToWhole,
  type Problem,
  quantityFromWhole,
  quantityToWhole,
  reporter,
  ZERO,
} from "@yosegi/core";
import { itemById, lineColumns, loadLists, loadUnits, refuseProblems, unitNamed } from "../catalog/index.ts";
import {
  asJson,
  type BuildTableRow,
  type ItemTableRow,
  nextNumber,
  type Reading,
  type Writing,
} from "../db/index.ts";
import { buildById } from "./rows.ts";

const DONE_WORDS: Record<BuildStep, string> = {
  change: "changed",
  queue: "queued",
  finish: "finished",
  cancel: "cancelled",
};

/** Refuses a step that the build's stage does not allow. */
export function refuseStage(build: BuildTableRow, step: BuildStep): void {
  if (!mayBuild(step, build.stage))
    throw new Refusal("stage-wrong", { number: build.number, stage: build.stage, step: DONE_WORDS[step] });
}

async function checkQuantity(ctx: Reading, product: ItemTableRow, quantity: string): Promise<void> {
  const problems: Problem[] = [];
  checkDecimals(
    "quantity",
    decimal(quantity),
    unitNamed(await loadUnits(ctx), product.unit),
    reporter(0, problems),
  );
  refuseProblems(problems, (p) => p.field);
}

/** Makes a draft. It follows the product's parts list until it is queued. Gives its id. */
export async function newBuild(ctx: Writing, body: BodyOf<typeof routes.newBuild>): Promise<number> {
  const product = await itemById(ctx, body.product);
  if (product.kind !== "built")
    throw Refusal.at("product", "not-built", { code: product.code, kind: product.kind });
  if (!(await loadLists(ctx, [product.id])).has(product.id))
    throw Refusal.at("product", "no-list", { code: product.code });
  await checkQuantity(ctx, product, body.quantity);
  const row = await ctx.models.build.create(
    {
      number: await nextNumber(ctx, "B"),
      product_id: product.id,
      quantity: quantityToWhole(decimal(body.quantity)),
      good: 0,
      rejected: 0,
      stage: "draft",
      due: body.due,
      note: body.note,
      makes: null,
      overhead: null,
      made_by: ctx.person.id,
      made_at: ctx.moment,
      queued_by: null,
      queued_at: null,
      finished_by: null,
      finished_at: null,
      cancelled_by: null,
      cancelled_at: null,
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
  refuseStage(build, "change");
  await checkQuantity(ctx, await itemById(ctx, build.product_id), body.quantity);
  await ctx.models.build.update(
    { quantity: quantityToWhole(decimal(body.quantity)), due: body.due, note: body.note },
    { where: { id }, transaction: ctx.transaction },
  );
}

/** Queues a draft: it takes a copy of the parts list that nothing changes any more, and reserves what it needs. */
export async function queueBuild(ctx: Writing, id: number): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "queue");
  const product = await itemById(ctx, build.product_id);
  const list = (await loadLists(ctx, [product.id])).get(product.id);
  if (!list) throw Refusal.at("product", "no-list", { code: product.code });
  const quantity = quantityFromWhole(build.quantity);
  const rows = list.lines.map((line) => {
    const need = lineNeed(line, list.makes, quantity);
    return [...lineColumns(line), quantityToWhole(need), quantityToWhole(line.service ? ZERO : need)];
  });
  await ctx.sql.run(
    `INSERT INTO build_line (build_id, line, item_id, quantity, unit, waste, once, need, used, open)
     SELECT $id, key + 1, value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, 0, value ->> 6
       FROM json_each($rows)`,
    { id, rows: asJson(rows) },
  );
  await ctx.models.build.update(
    {
      stage: "queued",
      makes: quantityToWhole(list.makes),
      overhead: moneyToWhole(list.overhead),
      queued_by: ctx.person.id,
      queued_at: ctx.moment,
    },
    { where: { id }, transaction: ctx.transaction },
  );
}

/** Cancels what is not finished; its reservations go back. */
export async function cancelBuild(ctx: Writing, id: number): Promise<void> {
  refuseStage(await buildById(ctx, id), "cancel");
  await ctx.sql.run("UPDATE build_line SET open = 0 WHERE build_id = $id", { id });
  await ctx.models.build.update(
    { stage: "cancelled", cancelled_by: ctx.person.id, cancelled_at: ctx.moment },
    { where: { id }, transaction: ctx.transaction },
  );
}
