import {
  type BodyOf,
  type ComparisonAnswer,
  type ListDraftBody,
  type PartsListAnswer,
  type ProductList,
  Refusal,
  type routes,
} from "@yosegi/contract";
import {
  checkHead,
  checkLines,
  codeKey,
  compareRevisions,
  type Day,
  decimal,
  type FullLine,
  type ListDraft,
  moneyToWhole,
  type Problem,
  reporter,
} from "@yosegi/core";
import type { Reading, RevisionRow, Writing } from "../db/index.ts";
import { removeFilesOf } from "../files/index.ts";
import { currentCosts } from "./costs.ts";
import { codesIn, factsFor, listOf } from "./facts.ts";
import { briefs, itemById, productById } from "./items.ts";
import { lineAnswers, listAnswer, productLists } from "./listanswer.ts";
import { inForce, loadRevisions } from "./lists.ts";
import { addRevision, MAIN, namedList, writeDraft } from "./listwriting.ts";
import { checkCurrency } from "./pricing.ts";
import { refuseProblems } from "./refuse.ts";

/** Writes a parts list typed in a form: its draft, or the next revision of one that is locked. */
export async function saveList(ctx: Writing, id: number, body: ListDraftBody): Promise<PartsListAnswer> {
  const product = await itemById(ctx, id);
  const draft = typedDraft(product.code, body);
  const facts = await factsFor(ctx, codesIn(draft));
  const problems: Problem[] = [];
  checkHead(draft, facts, reporter(-1, problems));
  problems.push(...checkLines(draft, facts));
  refuseProblems(problems, (p) => (p.row < 0 ? p.field : `lines.${p.row}.${p.field}`));
  if (body.price) checkCurrency(ctx, "price", decimal(body.price));
  if (body.price !== undefined)
    await ctx.models.item.update(
      { price: body.price === null ? null : moneyToWhole(decimal(body.price)) },
      { where: { id }, transaction: ctx.transaction },
    );
  const list = body.list === null ? await mainList(ctx, id) : await listById(ctx, body.list, id);
  return listAnswer(ctx, await writeDraft(ctx, list, listOf(draft, facts)));
}

function typedDraft(product: string, body: ListDraftBody): ListDraft {
  return {
    product,
    makes: decimal(body.makes),
    usual: decimal(body.usual),
    overhead: decimal(body.overhead),
    extra: decimal(body.extra),
    yield: decimal(body.yield),
    lines: body.lines.map((line, row) => ({
      ...line,
      row,
      quantity: decimal(line.quantity),
      waste: decimal(line.waste),
      share: line.share === null ? null : decimal(line.share),
      substitutes: line.substitutes.map((s) => ({ item: s.item, quantity: decimal(s.quantity) })),
    })),
  };
}

async function listById(ctx: Reading, id: number, product: number): Promise<number> {
  const row = await ctx.models.partsList.findByPk(id, { transaction: ctx.sql.transaction });
  if (row?.get({ plain: true }).product_id !== product)
    throw new Refusal("not-found", { what: "parts list", id });
  return id;
}

/** The main list of a product; made where it has none yet. */
export async function mainList(ctx: Writing, product: number): Promise<number> {
  return namedList(ctx, { product, name: MAIN, main: true });
}

export async function revisionInForce(
  ctx: Reading,
  list: number,
  day: Day = ctx.today,
): Promise<number | null> {
  const row = await ctx.sql.one<{ id: number | null }>(`SELECT ${inForce("$list", "$day")} AS id`, {
    list,
    today: ctx.today,
    day,
  });
  return row?.id ?? null;
}

async function nextRevision(ctx: Reading, list: number): Promise<number> {
  const row = await ctx.sql.one<{ next: number }>(
    "SELECT COALESCE(MAX(number), 0) + 1 AS next FROM revision WHERE list_id = $list",
    { list },
  );
  return row?.next ?? 1;
}

/** Copies a revision as the draft of a list of that name. */
export async function copyList(
  ctx: Writing,
  revision: number,
  product: number,
  name: string,
): Promise<number> {
  const content = (await loadRevisions(ctx, [revision])).get(revision);
  if (!content) throw new Refusal("not-found", { what: "revision", id: revision });
  const list = await namedList(ctx, { product, name, main: false });
  return addRevision(ctx, list, content, { state: "draft", note: "" });
}

/** Makes another list for a product, to be built by where a build chooses it. */
export async function newList(
  ctx: Writing,
  id: number,
  body: BodyOf<typeof routes.newList>,
): Promise<PartsListAnswer> {
  await productById(ctx, id);
  const lists = await productLists(ctx, id);
  refuseName(lists, body.name, null);
  if (!lists.some((list) => list.revisions.some((r) => r.id === body.copyOf)))
    throw new Refusal("not-found", { what: "revision", id: body.copyOf });
  return listAnswer(ctx, await copyList(ctx, body.copyOf, id, body.name));
}

function refuseName(lists: readonly ProductList[], name: string, id: number | null): void {
  const taken = lists.find((list) => list.id !== id && codeKey(list.name) === codeKey(name));
  if (taken) throw Refusal.at("name", "name-taken", { name: taken.name });
}

/** Names a list, or makes it the main one in the place of the one that was. */
export async function changeList(
  ctx: Writing,
  id: number,
  body: BodyOf<typeof routes.changeList>,
): Promise<ProductList[]> {
  const row = await ctx.models.partsList.findByPk(id, { transaction: ctx.transaction });
  const list = row?.get({ plain: true });
  if (!list) throw new Refusal("not-found", { what: "parts list", id });
  refuseName(await productLists(ctx, list.product_id), body.name, id);
  if (body.main)
    await ctx.models.partsList.update(
      { main: 0 },
      { where: { product_id: list.product_id }, transaction: ctx.transaction },
    );
  await ctx.models.partsList.update(
    { name: body.name, name_key: codeKey(body.name), ...(body.main && { main: 1 }) },
    { where: { id }, transaction: ctx.transaction },
  );
  return productLists(ctx, list.product_id);
}

interface OwnedRevision extends RevisionRow {
  product: number;
  code: string;
}

async function revisionById(ctx: Reading, id: number): Promise<OwnedRevision> {
  const row = await ctx.sql.one<OwnedRevision>(
    `SELECT r.*, p.product_id AS product, i.code FROM revision r JOIN parts_list p ON p.id = r.list_id
       JOIN item i ON i.id = p.product_id WHERE r.id = $id`,
    { id },
  );
  if (!row) throw new Refusal("not-found", { what: "revision", id });
  return row;
}

function refuseState(revision: RevisionRow, state: RevisionRow["state"], step: string): void {
  if (revision.state !== state)
    throw new Refusal("revision-state", { number: revision.number, state: revision.state, step });
}

/** Locks a draft. One that was overtaken by a later revision becomes the newest. */
export async function lockRevision(
  ctx: Writing,
  id: number,
  body: BodyOf<typeof routes.lockRevision>,
): Promise<PartsListAnswer> {
  const revision = await revisionById(ctx, id);
  refuseState(revision, "draft", "locked");
  const starts = {
    starts: body.starts,
    starts_on: body.starts === "day" ? body.startsOn : null,
    starts_after: body.starts === "run out" ? body.startsAfter : null,
  };
  if (body.starts === "day" && body.startsOn === null) throw Refusal.at("startsOn", "start-day");
  if (body.starts === "run out" && body.startsAfter === null) throw Refusal.at("startsAfter", "start-part");
  if (starts.starts_after !== null) await itemById(ctx, starts.starts_after);
  await lockNow(ctx, revision, body.note, starts);
  return listAnswer(ctx, id);
}

/** Locks the revision that a build is queued with, where it is a draft still. */
export async function lockForBuild(ctx: Writing, id: number, build: string): Promise<void> {
  const revision = await revisionById(ctx, id);
  if (revision.state === "draft") await lockNow(ctx, revision, `Used by ${build}`);
}

async function lockNow(
  ctx: Writing,
  revision: RevisionRow,
  note: string,
  starts: Partial<RevisionRow> = {},
): Promise<void> {
  const next = await nextRevision(ctx, revision.list_id);
  await ctx.models.revision.update(
    {
      ...starts,
      state: "locked",
      ...(revision.number < next - 1 && { number: next }),
      locked_by: ctx.person.id,
      locked_at: ctx.moment,
      lock_note: note,
    },
    { where: { id: revision.id }, transaction: ctx.transaction },
  );
}

/** Retires a locked revision; the product must still have something to be built from. */
export async function retireRevision(ctx: Writing, id: number): Promise<ProductList[]> {
  const revision = await revisionById(ctx, id);
  refuseState(revision, "locked", "retired");
  await ctx.models.revision.update({ state: "retired" }, { where: { id }, transaction: ctx.transaction });
  if ((await revisionInForce(ctx, revision.list_id)) === null)
    throw new Refusal("revision-only", { code: revision.code });
  return productLists(ctx, revision.product);
}

/** Throws a draft away; a list whose only revision it was goes with it. */
export async function removeRevision(ctx: Writing, id: number): Promise<ProductList[]> {
  const revision = await revisionById(ctx, id);
  refuseState(revision, "draft", "thrown away");
  await ctx.sql.run("DELETE FROM revision WHERE id = $id", { id });
  const rest = await ctx.sql.one<{ rest: number; built: number }>(
    `SELECT EXISTS (SELECT 1 FROM revision WHERE list_id = $list) AS rest, EXISTS (SELECT 1 FROM build WHERE list_id = $list) AS built`,
    { list: revision.list_id },
  );
  if (rest?.built && !rest.rest) throw new Refusal("revision-only", { code: revision.code });
  if (!rest?.rest) {
    await removeFilesOf(ctx, "list", revision.list_id);
    await ctx.sql.run("DELETE FROM parts_list WHERE id = $list", { list: revision.list_id });
  }
  return productLists(ctx, revision.product);
}

/** What changed from `other` to a revision of the same product, with the effect on cost as it is today. */
export async function compare(ctx: Reading, id: number, other: number): Promise<ComparisonAnswer> {
  const [to, from] = [await revisionById(ctx, id), await revisionById(ctx, other)];
  if (to.product !== from.product) throw new Refusal("not-found", { what: "revision", id: other });
  const lists = await loadRevisions(ctx, [id, other]);
  const [before, after] = [lists.get(other), lists.get(id)];
  if (!before || !after) throw new Refusal("not-found", { what: "revision", id });
  const items = [...before.lines, ...after.lines].map((line) => line.item);
  const unitCost = await currentCosts(ctx, items);
  const brief = await briefs(ctx, items);
  const found = compareRevisions(before, after, unitCost);
  const told = async (lines: (FullLine | null)[]) => {
    const answers = await lineAnswers(
      ctx,
      lines.filter((line) => line !== null),
      unitCost,
    );
    return lines.map((line) => (line === null ? null : (answers.shift() ?? null)));
  };
  const [olds, news] = [
    await told(found.lines.map((line) => line.before)),
    await told(found.lines.map((line) => line.after)),
  ];
  return {
    before: await listAnswer(ctx, other),
    after: await listAnswer(ctx, id),
    head: found.head,
    lines: found.lines.map((line, i) => ({
      part: brief(line.item),
      before: olds[i] ?? null,
      after: news[i] ?? null,
      fields: line.fields,
      costBefore: line.costBefore?.toFixed(4) ?? null,
      costAfter: line.costAfter?.toFixed(4) ?? null,
    })),
  };
}
