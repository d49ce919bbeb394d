import { Refusal } from "@yosegi/contract";
import {
  type Day,
  decimal,
  type FullLine,
  lineNeed,
  moneyFromScaled,
  moneyToScaled,
  needUnit,
  ONE,
  type PartsList,
  type Progress,
  quantityFromScaled,
  quantityToScaled,
  startDay,
  startFor,
  withOptions,
  ZERO,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import type { ItemTableRow } from "../items/index.ts";
import { itemById, itemsById, loadUnits, unitNamed } from "../items/index.ts";
import { type FullList, inForce, loadRevisions } from "../lists/index.ts";
import { buildsById, doneOf, linesOfBuilds, type StoredLine, storedLines } from "./rows.ts";
import type { BuildTableRow } from "./tables.ts";

// What a build is made of is asked here, by its sheet, by the step that queues it, and by the check alike.

/** Which list a build is made by: one of the product's, what another build really used, or parts of a build alone. */
export interface ListChoice {
  list: number | null;
  options: number[];
  asBuilt: number | null;
  /** The build whose own parts it takes. */
  own: number | null;
}

/** What a build says of the list it is made by. */
export const draftOf = (build: BuildTableRow): ListChoice => ({
  list: build.list_id,
  options: JSON.parse(build.options) as number[],
  asBuilt: build.as_built,
  own: build.own_parts === 1 ? build.id : null,
});

/** A line with its place on the revision it comes from; null where it came in at a finish. */
export interface ContentLine extends FullLine {
  listLine: number | null;
}

export interface ChosenList {
  id: number | null;
  /** Null for the parts of a build whose product has no list. */
  revision: number | null;
  /** With the optional parts that were chosen, and with all. */
  taken: PartsList<ContentLine>;
  withAllOptions: PartsList<ContentLine>;
}

/** The day on which the parts of a build are needed: the revision in force then is the one it is built by. */
export function startOf(product: Pick<ItemTableRow, "build_days">, due: Day | null, today: Day): Day {
  const start = startDay({ day: due, buildDays: product.build_days ?? 0 });
  return start === null || start < today ? today : start;
}

/**
 * The list that a build is made by, as it is in force on a day and with the optional parts it chooses. `at` gives the
 * fields of the body that a refusal names.
 */
export async function listFor(
  ctx: Reading,
  product: ItemTableRow,
  choice: ListChoice,
  day: Day = ctx.today,
  at = { list: "list", product: "product" },
): Promise<ChosenList> {
  const [found] = await listsFor(ctx, [{ product, choice, day }]);
  if (found) return found;
  const { list } = choice;
  const known = await ctx.sql.one("SELECT 1 FROM list_head WHERE id = $list AND product_id = $product", {
    list,
    product: product.id,
  });
  if (list !== null && !known) throw Refusal.at(at.list, "not-found", { what: "parts list", id: list });
  throw Refusal.at(at.product, "no-list", { code: product.code });
}

/** The lists that several builds are made by, in their order; null where a build has none that is in force. */
export async function listsFor(
  ctx: Reading,
  wanted: readonly { product: ItemTableRow; choice: ListChoice; day: Day }[],
): Promise<(ChosenList | null)[]> {
  const kept = await keptLists(ctx, wanted);
  const found = await ctx.sql.all<{ key: number; list: number; revision: number | null }>(
    `SELECT w.key, l.id AS list, ${inForce("l.id", "w.value ->> 'day'")} AS revision
       FROM json_each($wanted) w JOIN list_head l ON l.product_id = w.value ->> 'product'
        AND CASE WHEN w.value ->> 'list' IS NULL THEN l.main = 1 ELSE l.id = w.value ->> 'list' END`,
    {
      wanted: asJson(
        wanted.map(({ product, choice, day }) => ({ product: product.id, list: choice.list, day })),
      ),
      today: ctx.today,
    },
  );
  const revisions = await loadRevisions(
    ctx,
    found.flatMap(({ revision }) => revision ?? []),
  );
  const inUse = new Map(found.map((row) => [row.key, row]));
  return wanted.map(({ choice }, key) => {
    const ofBuild = kept[key];
    if (ofBuild) return ofBuild;
    const { list: id, revision } = inUse.get(key) ?? { list: null, revision: null };
    const found = revision === null ? undefined : revisions.get(revision);
    if (revision === null || !found) return null;
    const taken = listWithLines(found, new Set(choice.options));
    return { id, revision, withAllOptions: numbered(found), taken };
  });
}

/** A list whose lines know their place in it. */
const numbered = (list: FullList) => ({
  ...list,
  lines: list.lines.map((line, i) => ({ ...line, listLine: i + 1 })),
});

/** A list as a build takes it that chooses some optional parts; its lines know their place in it. */
export const listWithLines = (list: FullList, options: ReadonlySet<number>) =>
  withOptions(numbered(list), options);

/**
 * The lists that builds hold: the parts that are one build's own, or what another really used, as a list that makes as many as it worked. Null
 * where neither is asked for, or where all finishes of the other were undone since: then there is nothing to go by but its list.
 */
async function keptLists(
  ctx: Reading,
  wanted: readonly { product: ItemTableRow; choice: ListChoice }[],
): Promise<(ChosenList | null)[]> {
  const ids = wanted.flatMap(({ choice }) => choice.own ?? choice.asBuilt ?? []);
  if (ids.length === 0) return wanted.map(() => null);
  const sources = await buildsById(ctx, ids);
  const units = await loadUnits(ctx);
  const linesOf = await linesOfBuilds(ctx, [...sources.keys()], units);
  const revisions = await loadRevisions(
    ctx,
    [...sources.values()].flatMap((source) => source.revision_id ?? []),
  );
  return wanted.map(({ product, choice }) => {
    const id = choice.own ?? choice.asBuilt;
    if (id === null) return null;
    const source = sources.get(id);
    if (!source) throw new Refusal("not-found", { what: "build", id });
    const isOwn = choice.own !== null;
    const makes = isOwn ? quantityFromScaled(source.makes ?? 0) : doneOf(source);
    if (makes.eq(0)) return null;
    const revision = revisions.get(source.revision_id ?? 0);
    const lines = linesOf.get(source.id) ?? [];
    const taken: PartsList<ContentLine> = {
      makes,
      usual: makes,
      overhead: moneyFromScaled(source.overhead ?? 0),
      extra: moneyFromScaled(source.extra),
      // What was used made what was worked; parts of a build's own are for as many as its list would start.
      yield: isOwn && revision ? revision.yield : decimal(100),
      decimals: unitNamed(units, product.unit).decimals,
      lines: isOwn
        ? lines.map((line) => asContent(line, revision))
        : lines
            .filter((line) => line.used.gt(0))
            .map((line) => ({
              ...asContent(line, revision),
              quantity: line.used,
              unit: needUnit(line),
              waste: ZERO,
            })),
    };
    return { id: source.list_id, revision: source.revision_id, taken, withAllOptions: taken };
  });
}

/** A line that a build holds as a line of a list. */
const asContent = (line: StoredLine, revision: FullList | undefined): ContentLine => ({
  ...line,
  optional: false,
  share: null,
  person: null,
  substitutes: line.listLine === null ? [] : (revision?.lines[line.listLine - 1]?.substitutes ?? []),
});

/**
 * The lines of builds: what a build keeps from the moment it was queued, or what a draft would take by its list as it is
 * today. With the list of a draft; null where it has none in force any more.
 */
export async function contentsOf(
  ctx: Reading,
  builds: readonly BuildTableRow[],
): Promise<Map<number, { list: ChosenList | null; lines: StoredLine[] }>> {
  const products = await itemsById(
    ctx,
    builds.map((build) => build.product_id),
  );
  const drafts = builds.filter((build) => build.stage === "draft");
  const lists = await listsFor(
    ctx,
    drafts.map((build) => {
      const product = products(build.product_id);
      return { product, choice: draftOf(build), day: startOf(product, build.due, ctx.today) };
    }),
  );
  const listOf = new Map(drafts.map((build, i) => [build.id, lists[i] ?? null]));
  const kept = await linesOfBuilds(
    ctx,
    builds.map((build) => build.id),
    await loadUnits(ctx),
  );
  return new Map(
    builds.map((build) => {
      const list = listOf.get(build.id) ?? null;
      const lines = list ? draftLines(build, list.taken) : (kept.get(build.id) ?? []);
      return [build.id, { list, lines }];
    }),
  );
}

/** A draft as it would be once queued: its own copy of the list, and what it starts. */
export async function asQueued(
  ctx: Reading,
  draft: BuildTableRow,
): Promise<{ build: BuildTableRow; revision: number | null; lines: StoredLine[] }> {
  const product = await itemById(ctx, draft.product_id);
  const { taken: list, revision } = await listFor(
    ctx,
    product,
    draftOf(draft),
    startOf(product, draft.due, ctx.today),
  );
  const lines = draftLines(draft, list);
  const build: BuildTableRow = {
    ...draft,
    stage: "queued",
    quantity: quantityToScaled(startFor(list, quantityFromScaled(draft.wanted))),
    revision_id: revision,
    extra: moneyToScaled(list.extra),
    makes: quantityToScaled(list.makes),
    overhead: moneyToScaled(list.overhead),
  };
  return {
    build,
    revision,
    lines: lines.map((line) => (line.stocked ? { ...line, open: line.need } : line)),
  };
}

/** What a draft would take by a list. */
function draftLines(build: BuildTableRow, list: ChosenList["taken"]): StoredLine[] {
  const quantity = startFor(list, quantityFromScaled(build.wanted));
  return list.lines.map((line, i) => ({
    ...line,
    line: i + 1,
    need: lineNeed(line, list.makes, quantity),
    used: ZERO,
    scrapped: ZERO,
    open: ZERO,
    bench: ZERO,
    added: false,
    insteadOf: null,
    replaces: ZERO,
  }));
}

/** What a build that is queued or on the bench still takes: its own copy of the list, and how far it has come. */
export async function keptContent(
  ctx: Reading,
  build: BuildTableRow,
): Promise<{ list: PartsList<StoredLine>; progress: Progress }> {
  const { makes, revision_id } = build;
  if (makes === null) throw new Error(`${build.number} keeps no list of its own`);
  const units = await loadUnits(ctx);
  const product = await itemById(ctx, build.product_id);
  const revision =
    revision_id === null ? undefined : (await loadRevisions(ctx, [revision_id])).get(revision_id);
  const lines = await storedLines(ctx, build.id, units);
  const bench = new Map(lines.map((line) => [line.line, line.bench]));
  const begun = doneOf(build).gt(0);
  // What is taken in full, and what came in at a finish, asks for nothing more.
  const left = lines.filter((line) => (line.stocked ? line.open.gt(0) : !(begun && line.oncePerBuild)));
  return {
    list: {
      makes: quantityFromScaled(makes),
      usual: ONE,
      overhead: moneyFromScaled(build.overhead ?? 0),
      extra: moneyFromScaled(build.extra),
      yield: revision?.yield ?? decimal(100),
      decimals: unitNamed(units, product.unit).decimals,
      lines: left,
    },
    progress: {
      units: quantityFromScaled(build.quantity),
      done: doneOf(build),
      benchOf: (line) => bench.get((line as StoredLine).line) ?? ZERO,
    },
  };
}
