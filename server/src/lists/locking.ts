import {
  type ParsedBody,
  type PartsListAnswer,
  type ProductList,
  Refusal,
  type routes,
} from "@yosegi/contract";
import type { Reading, Writing } from "../db/index.ts";
import { removeFilesOf } from "../files/index.ts";
import { itemById } from "../items/index.ts";
import { listAnswer, productLists } from "./answer.ts";
import { revisionInForce } from "./inforce.ts";
import type { RevisionRow } from "./tables.ts";
import { PARTS_LIST, REVISION } from "./tables.ts";

async function nextRevision(ctx: Reading, list: number): Promise<number> {
  const row = await ctx.sql.one<{ next: number }>(
    "SELECT COALESCE(MAX(number), 0) + 1 AS next FROM revision WHERE list_id = $list",
    { list },
  );
  return row?.next ?? 1;
}

interface OwnedRevision extends RevisionRow {
  product: number;
  code: string;
}

export async function revisionById(ctx: Reading, id: number): Promise<OwnedRevision> {
  const row = await ctx.sql.one<OwnedRevision>(
    `SELECT r.*, p.product_id AS product, i.code FROM revision r JOIN parts_list p ON p.id = r.list_id
       JOIN item_head i ON i.id = p.product_id WHERE r.id = $id`,
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
  body: ParsedBody<typeof routes.lockRevision>,
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
  await ctx.model(REVISION).update(
    {
      ...starts,
      state: "locked",
      ...(revision.number < next - 1 && { number: next }),
      locked_by: ctx.person.id,
      locked_at: ctx.moment,
      lock_note: note,
    },
    { where: { id: revision.id } },
  );
}

/** Retires a locked revision; the product must still have something to be built from. */
export async function retireRevision(ctx: Writing, id: number): Promise<ProductList[]> {
  const revision = await revisionById(ctx, id);
  refuseState(revision, "locked", "retired");
  await ctx.model(REVISION).update({ state: "retired" }, { where: { id } });
  if ((await revisionInForce(ctx, revision.list_id)) === null)
    throw new Refusal("revision-only", { code: revision.code });
  return productLists(ctx, revision.product);
}

/** Throws a draft away; a list whose only revision it was goes with it. */
export async function removeRevision(ctx: Writing, id: number): Promise<ProductList[]> {
  const revision = await revisionById(ctx, id);
  refuseState(revision, "draft", "removed");
  await ctx.model(REVISION).destroy({ where: { id } });
  const rest = await ctx.sql.one<{ rest: number; built: number }>(
    `SELECT EXISTS (SELECT 1 FROM revision WHERE list_id = $list) AS rest, EXISTS (SELECT 1 FROM build_head WHERE list_id = $list) AS built`,
    { list: revision.list_id },
  );
  if (rest?.built && !rest.rest) throw new Refusal("revision-only", { code: revision.code });
  if (!rest?.rest) {
    await removeFilesOf(ctx, "list", revision.list_id);
    await ctx.model(PARTS_LIST).destroy({ where: { id: revision.list_id } });
  }
  return productLists(ctx, revision.product);
}
