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

/** What a build says of the list it is made by. */
export const draftOf = (build: BuildTableRow): Pick<BuildBody, "list" | "options"> => ({
  list: build.list_id,
  options: JSON.parse(build.options) as number[],
});

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

type BuildBody = Omit<BodyOf<typeof routes.newBuild>, "product">;

/** The list that a build is made by, as it is in force today and with the optional parts it chooses. */
export async function listFor(
  ctx: Reading,
  product: ItemTableRow,
  { list, options }: Pick<BuildBody, "list" | "options">,
): Promise<{ id: number; revision: number; taken: FullList; whole: FullList }> {
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

/** What a draft keeps of what was asked: as many are started as the list's yield wants for the good units. */
async function draftColumns(ctx: Reading, product: ItemTableRow, body: BuildBody) {
  await checkQuantity(ctx, product, body.quantity);
  const list = await listFor(ctx, product, body);
  const optional = new Set(list.whole.lines.filter((line) => line.optional).map((line) => line.item));
  const stranger = body.options.find((item) => !optional.has(item));
  if (stranger !== undefined)
    throw Refusal.at("options", "not-found", { what: "optional part", id: stranger });
  const wanted = decimal(body.quantity);
  return {
    wanted: quantityToWhole(wanted),
    quantity: quantityToWhole(startFor(list.taken, wanted)),
    list_id: list.id,
    options: JSON.stringify(body.options),
    due: body.due,
    note: body.note,
  };
}

/** Makes a draft. It follows the product's parts list until it is queued. Gives its id. */
export async function newBuild(ctx: Writing, body: BodyOf<typeof routes.newBuild>): Promise<number> {
  const product = await productById(ctx, body.product);
  const row = await ctx.models.build.create(
    {
      number: await nextNumber(ctx, "B"),
      product_id: product.id,
      ...(await draftColumns(ctx, product, body)),
      good: 0,
      rejected: 0,
      stage: "draft",
      makes: null,
      overhead: null,
      revision_id: null,
      extra: 0,
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
  const columns = await draftColumns(ctx, await itemById(ctx, build.product_id), body);
  await ctx.models.build.update(columns, { where: { id }, transaction: ctx.transaction });
}

/** Queues a draft: it takes a copy of the parts list that nothing changes any more, and reserves what it needs. */
export async function queueBuild(ctx: Writing, id: number): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "queue");
  const product = await itemById(ctx, build.product_id);
  const { taken: list, revision } = await listFor(ctx, product, draftOf(build));
  await lockForBuild(ctx, revision, build.number);
  const quantity = startFor(list, quantityFromWhole(build.wanted));
  const rows = list.lines.map((line) => {
    const need = lineNeed(line, list.makes, quantity);
    return [
      ...[...lineColumns(line), quantityToWhole(need), quantityToWhole(line.stocked ? need : ZERO)],
      ...[line.drawnAt, line.store, line.note],
    ];
  });
  await ctx.sql.run(
    `INSERT INTO build_line (build_id, line, item_id, quantity, unit, waste, once, need, used, open, drawn_at, place_id, note)
     SELECT $id, key + 1, value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, 0, value ->> 6,
            value ->> 7, value ->> 8, value ->> 9 FROM json_each($rows)`,
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

/** Cancels what is not finished; its reservations go back. */
export async function cancelBuild(ctx: Writing, id: number): Promise<void> {
  refuseStage(await buildById(ctx, id), "cancel");
  await ctx.sql.run("UPDATE build_line SET open = 0 WHERE build_id = $id", { id });
  await ctx.models.build.update(
    { stage: "cancelled", cancelled_by: ctx.person.id, cancelled_at: ctx.moment },
    { where: { id }, transaction: ctx.transaction },
  );
}
