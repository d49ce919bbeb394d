import {
  type ListInput,
  type ParsedBody,
  type PartsListAnswer,
  type ProductList,
  Refusal,
  type routes,
} from "@yosegi/contract";
import {
  checkHead,
  checkLines,
  codeKey,
  decimal,
  type ListDraft,
  type Problem,
  reporter,
} from "@yosegi/core";
import { type Reading, staleBy, type Writing } from "../db/index.ts";
import { checkCurrency, itemById, productById, setPrice } from "../items/index.ts";
import { refuseProblems } from "../problems.ts";
import { listAnswer, productLists } from "./answer.ts";
import { codesIn, factsFor, listOf, type NamedFacts } from "./facts.ts";
import { inForce } from "./inforce.ts";
import { loadRevisions } from "./lists.ts";
import { PARTS_LIST } from "./tables.ts";
import { addRevision, MAIN, namedList, writeDraft } from "./writing.ts";

/** Writes a parts list typed in a form: its draft, or the next revision of one that is locked. */
export async function saveList(ctx: Writing, id: number, body: ListInput): Promise<PartsListAnswer> {
  const product = await itemById(ctx, id);
  const draft = typedDraft(product.code, body);
  const facts = await checked(ctx, draft, (p) => (p.row < 0 ? p.field : `lines.${p.row}.${p.field}`));
  if (body.price) checkCurrency(ctx, "price", body.price);
  if (body.price !== undefined) await setPrice(ctx, id, body.price);
  const list = body.list === null ? await mainList(ctx, id) : await listById(ctx, body.list, id);
  const content = { ...listOf(draft, facts), instructions: body.instructions };
  return listAnswer(ctx, await writeDraft(ctx, list, content));
}

/**
 * Refuses to write a list that somebody wrote since it was opened: `from` is the revision that was opened, null where there
 * was none. Where no version is said, nothing is compared.
 */
export async function refuseStaleList(
  ctx: Reading,
  product: number,
  { list, from }: Pick<ListInput, "list" | "from">,
  version: number | null,
): Promise<void> {
  if (version === null) return;
  const row = await ctx.sql.one<{
    id: number;
    version: number;
    moment: string | null;
    person: string | null;
  }>(
    `SELECT r.id, r.version, COALESCE(r.changed_at, r.created_at) AS moment,
            (SELECT name FROM person_name WHERE id = COALESCE(r.changed_by, r.created_by)) AS person
       FROM parts_list p JOIN revision r ON r.list_id = p.id
      WHERE p.product_id = $product AND (p.id = $list OR ($list IS NULL AND p.main = 1))
      ORDER BY r.state = 'draft' DESC, r.id = ${inForce("p.id")} DESC, r.number DESC LIMIT 1`,
    { product, list, today: ctx.today },
  );
  if (row && (row.id !== from || row.version !== version)) throw staleBy(ctx, row);
}

function typedDraft(product: string, body: ListInput): ListDraft {
  const { makes, usual, overhead, extra, lines } = body;
  return {
    product,
    makes,
    usual,
    overhead,
    extra,
    yield: body.yield,
    lines: lines.map((line, row) => ({ ...line, row })),
  };
}

/** The facts that a list was checked against. Refuses one that is not right, at the field that `fieldOf` names. */
async function checked(
  ctx: Reading,
  draft: ListDraft,
  fieldOf: (problem: Problem) => string,
): Promise<NamedFacts> {
  const facts = await factsFor(ctx, codesIn(draft));
  const problems: Problem[] = [];
  checkHead(draft, facts, reporter(-1, problems));
  problems.push(...checkLines(draft, facts));
  refuseProblems(problems, fieldOf);
  return facts;
}

async function listById(ctx: Reading, id: number, product: number): Promise<number> {
  const row = await ctx.model(PARTS_LIST).findByPk(id);
  if (row?.get({ plain: true }).product_id !== product)
    throw new Refusal("not-found", { what: "parts list", id });
  return id;
}

/** The main list of a product; made where it has none yet. */
export async function mainList(ctx: Writing, product: number): Promise<number> {
  return namedList(ctx, { product, name: MAIN, main: true });
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

/** Makes another list for a product, as a copy of one of its own or of another product's. */
export async function newList(
  ctx: Writing,
  body: ParsedBody<typeof routes.newList>,
): Promise<PartsListAnswer> {
  const id = body.product;
  const product = await productById(ctx, id);
  const lists = await productLists(ctx, id);
  refuseName(lists, body.name, null);
  if (!lists.some((list) => list.revisions.some((r) => r.id === body.copyOf)))
    await checkCopy(ctx, product.code, body.copyOf);
  return listAnswer(ctx, await copyList(ctx, body.copyOf, id, body.name));
}

/** Refuses to copy a list to a product that it can't be one of, such as one that is among its parts. */
async function checkCopy(ctx: Reading, product: string, revision: number): Promise<void> {
  const { makes, usual, overhead, extra, yield: good, lines } = await listAnswer(ctx, revision);
  const amount = {
    makes: decimal(makes),
    usual: decimal(usual),
    overhead: decimal(overhead),
    extra: decimal(extra),
  };
  const draft: ListDraft = {
    ...amount,
    product,
    yield: decimal(good),
    lines: lines.map((line, row) => ({
      ...line,
      row,
      part: line.part.code,
      quantity: decimal(line.quantity),
      waste: decimal(line.waste),
      share: line.share === null ? null : decimal(line.share),
      substitutes: line.substitutes.map((s) => ({ item: s.item, quantity: decimal(s.quantity) })),
    })),
  };
  await checked(ctx, draft, () => "product");
}

function refuseName(lists: readonly ProductList[], name: string, id: number | null): void {
  const taken = lists.find((list) => list.id !== id && codeKey(list.name) === codeKey(name));
  if (taken) throw Refusal.at("name", "name-taken", { name: taken.name });
}

/** Names a list, or makes it the main one in the place of the one that was. */
export async function changeList(
  ctx: Writing,
  id: number,
  body: ParsedBody<typeof routes.changeList>,
): Promise<ProductList[]> {
  const row = await ctx.model(PARTS_LIST).findByPk(id);
  const list = row?.get({ plain: true });
  if (!list) throw new Refusal("not-found", { what: "parts list", id });
  refuseName(await productLists(ctx, list.product_id), body.name, id);
  if (body.main) await ctx.model(PARTS_LIST).update({ main: 0 }, { where: { product_id: list.product_id } });
  await ctx
    .model(PARTS_LIST)
    .update(
      { name: body.name, name_key: codeKey(body.name), ...(body.main && { main: 1 }) },
      { where: { id } },
    );
  return productLists(ctx, list.product_id);
}
