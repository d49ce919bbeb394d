import {
  codeKey,
  type FullLine,
  moneyToScaled,
  type PartsList,
  quantityToScaled,
  sameList,
} from "@yosegi/core";
import { asJson, firstOf, groupBy, type Reading, type Writing } from "../db/index.ts";
import { inForce } from "./inforce.ts";
import { lineColumns } from "./lines.ts";
import { type FullList, loadRevisions } from "./lists.ts";
import { LINE_SUBSTITUTE, PARTS_LIST, REVISION, REVISION_LINE } from "./tables.ts";

// Parts lists are written many at once, for a file may bring hundreds; one that is typed is a set of one.

export const MAIN = "Main";

/** Which list of a product is meant: its main one, or the one of a name. */
export interface ListName {
  product: number;
  name: string;
  main: boolean;
}

/** Ids of parts lists in the order asked for; created where they are missing. The first list of a product is its main one. */
export async function namedLists(ctx: Writing, wanted: readonly ListName[]): Promise<number[]> {
  const known = await listsOf(ctx, wanted);
  const found = ({ product, name, main }: ListName) =>
    known.get(product)?.find((list) => (main ? list.main === 1 : list.name_key === codeKey(name)));
  // Main ones first: whatever else a file brings for a new product is then an alternate.
  const missing = [...wanted].sort((a, b) => Number(b.main) - Number(a.main)).filter((list) => !found(list));
  if (missing.length > 0) {
    const first = new Set([...known.keys()]);
    await ctx.sql.insert(
      PARTS_LIST,
      missing.map(({ product, name }) => {
        const main = first.has(product) ? 0 : 1;
        first.add(product);
        return { product_id: product, name, name_key: codeKey(name), main };
      }),
      "ON CONFLICT (product_id, name_key) DO NOTHING",
    );
    for (const [product, lists] of await listsOf(ctx, missing)) known.set(product, lists);
  }
  return wanted.map((list) => {
    const id = found(list)?.id;
    if (id === undefined) throw new Error(`The list ${list.name} was written and is missing`);
    return id;
  });
}

async function listsOf(ctx: Reading, wanted: readonly ListName[]) {
  const rows = await ctx.sql.all<{ id: number; product: number; name_key: string; main: number }>(
    `SELECT id, product_id AS product, name_key, main FROM parts_list
      WHERE product_id IN (SELECT value FROM json_each($products)) ORDER BY id`,
    { products: asJson(new Set(wanted.map((list) => list.product))) },
  );
  return groupBy(rows, (row) => row.product);
}

/** Whether a name is that of a product's main list, existing or to be created. */
export async function mainListNames(ctx: Reading): Promise<(product: string, list: string) => boolean> {
  const rows = await ctx.sql.all<{ product: string; list: string }>(
    `SELECT i.code_key AS product, l.name_key AS list FROM parts_list l JOIN item_head i ON i.id = l.product_id WHERE l.main = 1`,
  );
  const names = new Map(rows.map((row) => [row.product, row.list]));
  return (product, list) => (names.get(codeKey(product)) ?? codeKey(MAIN)) === codeKey(list);
}

export const namedList = async (ctx: Writing, list: ListName): Promise<number> =>
  firstOf(await namedLists(ctx, [list]));

/** What a list is to contain; each list is named once. */
export interface ListContent {
  list: number;
  content: FullList;
}

/** What lists have: what is in force, the open draft, and the number of the next revision. */
async function statesOf(ctx: Reading, lists: readonly Pick<ListContent, "list">[]) {
  const rows = await ctx.sql.all<{
    list: number;
    now: number | null;
    locked: number;
    draft: number | null;
    next: number;
  }>(
    `SELECT s.list, s.now, s.draft, s.next, EXISTS (SELECT 1 FROM revision WHERE id = s.now AND state = 'locked') AS locked
       FROM (SELECT ids.value AS list, ${inForce("ids.value")} AS now,
                    (SELECT id FROM revision WHERE list_id = ids.value AND state = 'draft' ORDER BY number DESC LIMIT 1) AS draft,
                    (SELECT COALESCE(MAX(number), 0) + 1 FROM revision WHERE list_id = ids.value) AS next
               FROM json_each($lists) ids) s`,
    { lists: asJson(lists.map(({ list }) => list)), today: ctx.today },
  );
  const byList = new Map(rows.map((row) => [row.list, row]));
  return (list: number) => {
    const state = byList.get(list);
    if (!state) throw new Error(`List ${list} was asked for and has no answer`);
    return { ...state, locked: state.locked === 1 };
  };
}

/**
 * Brings lists in: one in force that is locked gets its next revision, locked and in force at once; else its draft is written.
 * A file says nothing of instructions: those that a list has stay.
 */
export async function writeImported(
  ctx: Writing,
  read: readonly { list: number; content: PartsList<FullLine> }[],
  note: string,
): Promise<void> {
  const stateOf = await statesOf(ctx, read);
  const revisionOf = (list: number) => stateOf(list).draft ?? stateOf(list).now ?? 0;
  const before = await loadRevisions(
    ctx,
    read.map(({ list }) => revisionOf(list)),
  );
  const lists = read.map(({ list, content }) => {
    const { instructions = "" } = before.get(revisionOf(list)) ?? {};
    return { list, content: { ...content, instructions } };
  });
  const locked = lists.filter(({ list }) => stateOf(list).locked);
  await addRevisions(ctx, locked, { state: "locked", note });
  await writeDrafts(
    ctx,
    lists.filter(({ list }) => !stateOf(list).locked),
  );
}

/**
 * Writes the open drafts of lists, or adds their next revisions; the same as what is in force adds none. Gives the ids of
 * the revisions in the order of the lists.
 */
async function writeDrafts(ctx: Writing, lists: readonly ListContent[]): Promise<number[]> {
  const stateOf = await statesOf(ctx, lists);
  const drafts = lists.flatMap(({ list, content }) => {
    const { draft } = stateOf(list);
    return draft === null ? [] : [{ revision: draft, content }];
  });
  await updateHeads(ctx, drafts);
  await writeLines(ctx, drafts);
  const rest = lists.filter(({ list }) => stateOf(list).draft === null);
  const inUse = await loadRevisions(
    ctx,
    rest.flatMap(({ list }) => stateOf(list).now ?? []),
  );
  const isNew = ({ list, content }: ListContent) => {
    const before = inUse.get(stateOf(list).now ?? 0);
    return before?.instructions !== content.instructions || !sameList(before, content);
  };
  const added = rest.filter(isNew);
  const ids = await addRevisions(ctx, added, { state: "draft", note: "" });
  const idOf = new Map(added.map(({ list }, i) => [list, ids[i]]));
  return lists.map(({ list }) => {
    const id = stateOf(list).draft ?? idOf.get(list) ?? stateOf(list).now;
    if (id === null) throw new Error(`List ${list} was written and has no revision`);
    return id;
  });
}

export const writeDraft = async (ctx: Writing, list: number, content: FullList): Promise<number> =>
  firstOf(await writeDrafts(ctx, [{ list, content }]));

/** Adds a revision after all that each list has, and gives their ids. A locked one starts at once. */
export async function addRevisions(
  ctx: Writing,
  lists: readonly ListContent[],
  { state, note }: { state: "draft" | "locked"; note: string },
): Promise<number[]> {
  const stateOf = await statesOf(ctx, lists);
  const locked = state === "locked";
  const ids = await ctx.sql.insert(
    REVISION,
    lists.map(({ list, content }) => ({
      list_id: list,
      number: stateOf(list).next,
      state,
      ...headColumns(content),
      starts: "at once" as const,
      created_by: ctx.person.id,
      created_at: ctx.moment,
      locked_by: locked ? ctx.person.id : null,
      locked_at: locked ? ctx.moment : null,
      lock_note: note,
    })),
  );
  await writeLines(
    ctx,
    lists.map(({ content }, i) => ({ revision: ids[i] ?? 0, content })),
  );
  return ids;
}

export const addRevision = async (
  ctx: Writing,
  list: number,
  content: FullList,
  how: { state: "draft" | "locked"; note: string },
): Promise<number> => firstOf(await addRevisions(ctx, [{ list, content }], how));

interface RevisionContent {
  revision: number;
  content: FullList;
}

async function updateHeads(ctx: Writing, revisions: readonly RevisionContent[]): Promise<void> {
  await ctx.sql.update(
    REVISION,
    ["id"],
    revisions.map(({ revision, content }) => ({ id: revision, ...headColumns(content) })),
  );
}

/** Columns of a revision's head, as the database keeps them. */
function headColumns(list: FullList) {
  return {
    makes: quantityToScaled(list.makes),
    usual: quantityToScaled(list.usual),
    overhead: moneyToScaled(list.overhead),
    extra: moneyToScaled(list.extra),
    yield: quantityToScaled(list.yield),
    instructions: list.instructions,
  };
}

/** Writes the lines of revisions in the place of those they have. */
async function writeLines(ctx: Writing, revisions: readonly RevisionContent[]): Promise<void> {
  await ctx.sql.run("DELETE FROM revision_line WHERE revision_id IN (SELECT value FROM json_each($ids))", {
    ids: asJson(revisions.map(({ revision }) => revision)),
  });
  const lines = revisions.flatMap(({ revision, content }) =>
    content.lines.map((line, i) => ({ revision, line, number: i + 1 })),
  );
  await ctx.sql.insert(
    REVISION_LINE,
    lines.map(({ revision, number, line }) => ({
      revision_id: revision,
      line: number,
      ...lineColumns(line),
      optional: line.optional ? 1 : 0,
      drawn_at: line.drawnAt,
      location_id: line.store,
      note: line.note,
      share: line.share === null ? null : quantityToScaled(line.share),
      person_id: line.person,
    })),
  );
  await ctx.sql.insert(
    LINE_SUBSTITUTE,
    lines.flatMap(({ revision, number, line }) =>
      line.substitutes.map((substitute, position) => ({
        revision_id: revision,
        line: number,
        position,
        item_id: substitute.item,
        quantity: quantityToScaled(substitute.quantity),
      })),
    ),
  );
}

/** Removes all lists of a product that is removed itself. */
export async function removeLists(ctx: Writing, product: number): Promise<void> {
  await ctx.model(PARTS_LIST).destroy({ where: { product_id: product } });
}

/** Removes one list of a product, its main one where it has no name. */
export async function removeList(ctx: Writing, product: number, name: string): Promise<void> {
  const which = name === "" ? { main: 1 } : { name_key: codeKey(name) };
  await ctx.model(PARTS_LIST).destroy({ where: { product_id: product, ...which } });
}

/** Removes the locked revisions that an import added, by the note that it gave them. */
export async function removeImported(ctx: Writing, note: string): Promise<void> {
  await ctx.model(REVISION).destroy({ where: { state: "locked", lock_note: note } });
}
