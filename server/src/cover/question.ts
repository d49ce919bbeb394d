import { type DemandInput, type QuestionInput, Refusal } from "@yosegi/contract";
import {
  checkDecimals,
  cover,
  type Day,
  type Decimal,
  type Demand,
  decimal,
  type FullLine,
  isOpen,
  isStocked,
  ONE,
  type PartsList,
  type Problem,
  quantityFromScaled,
  reporter,
  type Supply,
  type TakenInstead,
  takeForShort,
  takeInstead,
  unitsFor,
  ZERO,
} from "@yosegi/core";
import type { BuildTableRow } from "../builds/index.ts";
import { buildById, draftOf, keptContent, listFor, startOf } from "../builds/index.ts";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { itemById, loadUnits, unitNamed } from "../items/index.ts";
import { loadKits } from "../kits/index.ts";
import { storeId } from "../ledger/index.ts";
import { type FullList, loadLists } from "../lists/index.ts";
import { refuseProblems } from "../problems.ts";
import { type ItemFacts, loadFactsBelow, type Scope } from "./facts.ts";

/** A demand as it was asked for. */
export interface AskedDemand extends Demand {
  /** How many lines its list has; what substitutes take beside them comes after. */
  listed: number;
}

/** A question, read and checked: what is wanted, and what is known of everything that it leads to. */
export interface LoadedQuestion {
  demands: AskedDemand[];
  scope: Scope;
  factsOf: (item: number) => ItemFacts;
}

interface ProductRow {
  id: number;
  code: string;
  kind: string;
  unit: string;
  build_days: number | null;
}

/** Reads what a question names, and `more` items beside. Parts that are built themselves are followed down, level by level. */
export async function readQuestion(
  ctx: Reading,
  question: QuestionInput,
  more: readonly number[] = [],
): Promise<LoadedQuestion> {
  const scope: Scope = {
    store: question.store === "" ? null : await storeId(ctx, "store", question.store),
    own: question.demands.flatMap((d) => d.build ?? []),
    onHand: new Map(question.stock.map((s) => [s.item, s.onHand])),
    days: new Map(question.incoming.map((i): [string, Day] => [i.key, i.day])),
  };
  const demands = await demandsOf(ctx, question.demands);
  const spares = question.demands.flatMap((d) => d.instead.map((instead) => instead.by));
  const facts = await loadFactsBelow(
    ctx,
    [...more, ...spares, ...demands.flatMap((d) => d.list.lines.map((line) => line.item))],
    scope,
    demands.map((d) => d.item),
  );
  const factsOf = (item: number) => {
    const known = facts.get(item);
    if (!known) throw new Refusal("not-found", { what: "item", id: item });
    return known;
  };
  const loaded = { demands, scope, factsOf };
  return { ...loaded, demands: await withSubstitutesForShort(ctx, question, loaded) };
}

/** Demands in which substitutes take the place of parts only for what is short of them, as all demands are served in turn. */
async function withSubstitutesForShort(
  ctx: Reading,
  question: QuestionInput,
  loaded: LoadedQuestion,
): Promise<AskedDemand[]> {
  const { demands } = loaded;
  const picked = (i: number) => question.demands[i]?.instead.filter((instead) => instead.shortOnly) ?? [];
  if (!demands.some((_, i) => picked(i).length > 0)) return demands;
  const answer = cover(demands, supplyOf(loaded), ctx.today);
  const changed: AskedDemand[] = [];
  for (const [i, demand] of demands.entries()) {
    const parts = answer.demands[i]?.parts ?? [];
    let { list } = demand;
    for (const { part, by } of demand.progress ? [] : picked(i)) {
      const spare = await substituteFor(ctx, list, part, by, i);
      const given = parts.find((p) => p.item === part);
      const short = given?.stocked ? given.need.minus(given.fromFree) : ZERO;
      list = takeForShort(list as PartsList<FullLine>, unitsFor(demand), part, spare, short);
    }
    changed.push({ ...demand, list });
  }
  return changed;
}

async function demandsOf(ctx: Reading, inputs: readonly DemandInput[]): Promise<AskedDemand[]> {
  const products = await productsOf(ctx, new Set(inputs.map((d) => d.item)));
  const mains = await mainLists(ctx, inputs, products);
  const units = await loadUnits(ctx);
  const problems: Problem[] = [];
  const demands: AskedDemand[] = [];
  for (const [i, wanted] of inputs.entries()) {
    const product = products.get(wanted.item);
    if (!product) throw Refusal.at(`demands.${i}.item`, "not-found", { what: "item", id: wanted.item });
    const quantity = wanted.quantity;
    checkDecimals("quantity", quantity, unitNamed(units, product.unit), reporter(i, problems));
    const { list, progress } = await contentOf(ctx, wanted, product, mains, i);
    demands.push({
      key: i,
      item: wanted.item,
      quantity,
      day: wanted.day,
      priority: wanted.priority,
      list,
      listed: list.lines.length,
      progress,
      buildDays: product.kind === "built" ? (product.build_days ?? 0) : 0,
    });
  }
  refuseProblems(problems, (p) => `demands.${p.row}.${p.field}`);
  return demands;
}

type MainLists = (product: number, start: Day) => FullList | undefined;

/** The main lists of what is wanted, each as it is in force on the day its parts are needed. */
async function mainLists(
  ctx: Reading,
  inputs: readonly DemandInput[],
  products: ReadonlyMap<number, ProductRow>,
): Promise<MainLists> {
  const wanted = inputs.flatMap((d) => {
    const product = products.get(d.item);
    return product?.kind === "built" ? [{ item: d.item, start: startOf(product, d.day, ctx.today) }] : [];
  });
  const byDay = new Map<Day, Map<number, FullList>>();
  for (const [start, rows] of groupBy(wanted, (row) => row.start))
    byDay.set(
      start,
      await loadLists(
        ctx,
        rows.map((row) => row.item),
        start,
      ),
    );
  return (product, start) => byDay.get(start)?.get(product);
}

/** What is told of products and kits beside their stock: kept until the next change, for a check is asked again with every key. */
async function productsOf(
  ctx: Reading,
  items: ReadonlySet<number>,
): Promise<ReadonlyMap<number, ProductRow>> {
  const kept = await ctx.memoOfCatalog("products", async () => new Map<number, ProductRow>());
  const unread = [...items].filter((item) => !kept.has(item));
  if (unread.length === 0) return kept;
  const rows = await ctx.sql.all<ProductRow>(
    "SELECT i.id, i.code, i.kind, i.unit, i.build_days FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value",
    { ids: asJson(unread) },
  );
  for (const row of rows) kept.set(row.id, row);
  return kept;
}

type Content = Required<Pick<Demand, "list" | "progress">>;

/** What goes into what is wanted: a product's list, what a build that it stands for still takes, or the contents of a kit. */
async function contentOf(
  ctx: Reading,
  wanted: DemandInput,
  product: ProductRow,
  mains: MainLists,
  at: number,
): Promise<Content> {
  const refuse = (code: "no-list" | "not-wanted") =>
    Refusal.at(`demands.${at}.item`, code, { code: product.code, kind: product.kind });
  if (product.kind === "kit") {
    const contents = await kitList(ctx, product.id);
    if (contents === null) throw refuse("no-list");
    // The contents of a kit are swapped on an order, not here.
    for (const { part, by } of wanted.instead) await substituteFor(ctx, contents, part, by, at);
    return { list: contents, progress: null };
  }
  if (product.kind !== "built") throw refuse("not-wanted");
  const build = wanted.build === null ? null : await buildById(ctx, wanted.build);
  if (build && build.product_id !== product.id)
    throw Refusal.at(`demands.${at}.build`, "not-found", { what: `build of ${product.code}`, id: build.id });
  // Once it is queued it is built by its own copy of the list, whatever became of that.
  if (build && isOpen(build.stage) && build.stage !== "draft") return keptContent(ctx, build);
  let list = await chosenList(ctx, wanted, product, build, mains, at);
  if (list === undefined) throw refuse("no-list");
  for (const { part, by, shortOnly } of wanted.instead)
    if (!shortOnly) list = takeInstead(list, part, await substituteFor(ctx, list, part, by, at));
  return { list, progress: null };
}

async function chosenList(
  ctx: Reading,
  { item, list, options, day }: DemandInput,
  product: ProductRow,
  build: BuildTableRow | null,
  mains: MainLists,
  at: number,
): Promise<PartsList<FullLine> | undefined> {
  const start = startOf(product, day, ctx.today);
  const { asBuilt, own } =
    build && (list === null || list === build.list_id) ? draftOf(build) : { asBuilt: null, own: null };
  if (own === null && asBuilt === null && list === null && options.length === 0)
    return mains(product.id, start);
  const fields = { list: `demands.${at}.list`, product: `demands.${at}.item` };
  const chosen = await listFor(
    ctx,
    await itemById(ctx, item),
    { list, options, asBuilt, own },
    start,
    fields,
  );
  return chosen.taken;
}

/** What may be taken instead of a part of a list; refused where the list does not allow it. */
async function substituteFor(
  ctx: Reading,
  list: PartsList,
  part: number,
  by: number,
  at: number,
): Promise<TakenInstead> {
  const row = await ctx.sql.one<{
    code: string;
    unit: string;
    kind: "bought" | "built";
    not_stock_tracked: number;
  }>("SELECT code, unit, kind, not_stock_tracked FROM item_head WHERE id = $by", { by });
  const allowed = list.lines.some((line) => {
    // What a kit takes allows none.
    const { substitutes = [] } = line as Partial<FullLine>;
    return line.item === part && substitutes.some((s) => s.item === by);
  });
  if (!row || !allowed)
    throw Refusal.at(`demands.${at}.instead`, "not-substitute", { by: row?.code ?? by, part });
  return {
    item: by,
    unit: unitNamed(await loadUnits(ctx), row.unit),
    stocked: isStocked({ kind: row.kind, notStockTracked: row.not_stock_tracked === 1 }),
  };
}

/** A kit as a list: so many of each content for one set, whole sets only. */
async function kitList(ctx: Reading, kit: number): Promise<PartsList | null> {
  const kept = (await loadKits(ctx, [kit])).get(kit);
  if (!kept || kept.contents.length === 0) return null;
  const rows = await ctx.sql.all<{ id: number; unit: string }>(
    "SELECT i.id, i.unit FROM kit_part c JOIN item_head i ON i.id = c.item_id WHERE c.kit_id = $kit AND c.instead_of IS NULL",
    { kit },
  );
  const units = await loadUnits(ctx);
  const unitOf = new Map(rows.map((row) => [row.id, unitNamed(units, row.unit)]));
  const zero = quantityFromScaled(0);
  return {
    makes: ONE,
    usual: ONE,
    overhead: zero,
    extra: zero,
    yield: decimal(100),
    decimals: 0,
    lines: kept.contents.flatMap((content) => {
      const unit = unitOf.get(content.item);
      if (!unit) return [];
      return [
        {
          item: content.item,
          quantity: content.quantity,
          unit,
          stockUnit: unit,
          waste: zero,
          oncePerBuild: false,
          service: false,
          stocked: content.stocked,
        },
      ];
    }),
  };
}

/** The same question with another quantity of its first demand. */
export const withQuantity = ({ demands, ...inputs }: LoadedQuestion, quantity: Decimal): LoadedQuestion => ({
  ...inputs,
  demands: demands.map((d, i) => (i === 0 ? { ...d, quantity } : d)),
});

export const supplyOf =
  ({ factsOf }: LoadedQuestion) =>
  (item: number): Supply =>
    factsOf(item);
