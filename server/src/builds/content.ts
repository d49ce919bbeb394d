import { Refusal } from "@yosegi/contract";
import {
  type Day,
  decimal,
  type FullLine,
  moneyFromWhole,
  needUnit,
  ONE,
  type PartsList,
  type Progress,
  quantityFromWhole,
  startDay,
  withOptions,
  ZERO,
} from "@yosegi/core";
import { itemById, loadRevisions, loadUnits, revisionInForce, unitNamed } from "../catalog/index.ts";
import type { BuildTableRow, ItemTableRow, Reading } from "../db/index.ts";
import { buildById, doneOf, type KeptLine, keptLines } from "./rows.ts";

// What a build is made of is asked here, by its sheet, by the step that queues it, and by the check alike.

/** Which list a build is made by: one of the product's, or what another build really used. */
export interface ListChoice {
  list: number | null;
  options: number[];
  asBuilt: number | null;
}

/** What a build says of the list it is made by. */
export const draftOf = (build: BuildTableRow): ListChoice => ({
  list: build.list_id,
  options: JSON.parse(build.options) as number[],
  asBuilt: build.as_built,
});

/** A line with its place on the revision it comes from; null where it came in at a finish. */
export interface ContentLine extends FullLine {
  listLine: number | null;
}

export interface ChosenList {
  id: number | null;
  revision: number;
  /** With the optional parts that were chosen, and with all. */
  taken: PartsList<ContentLine>;
  whole: PartsList<ContentLine>;
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
  { list, options, asBuilt }: ListChoice,
  day: Day = ctx.today,
  at = { list: "list", product: "product" },
): Promise<ChosenList> {
  const used = asBuilt === null ? null : await asBuiltList(ctx, product, asBuilt);
  if (used) return used;
  const found = await ctx.sql.one<{ id: number }>(
    `SELECT id FROM parts_list WHERE product_id = $product AND ${list === null ? "main = 1" : "id = $list"}`,
    { product: product.id, ...(list !== null && { list }) },
  );
  if (!found && list !== null) throw Refusal.at(at.list, "not-found", { what: "parts list", id: list });
  const revision = found && (await revisionInForce(ctx, found.id, day));
  const kept = revision ? (await loadRevisions(ctx, [revision])).get(revision) : undefined;
  if (!found || !revision || !kept) throw Refusal.at(at.product, "no-list", { code: product.code });
  const whole = { ...kept, lines: kept.lines.map((line, i) => ({ ...line, listLine: i + 1 })) };
  return { id: found.id, revision, whole, taken: withOptions(whole, new Set(options)) };
}

/**
 * What a build really used, as a list that makes as many as it worked. Null where its finishes were taken back since: then
 * there is nothing to go by but its list.
 */
async function asBuiltList(ctx: Reading, product: ItemTableRow, source: number): Promise<ChosenList | null> {
  const build = await buildById(ctx, source);
  const units = await loadUnits(ctx);
  const makes = doneOf(build);
  const revision = build.revision_id;
  if (makes.eq(0) || revision === null) return null;
  const kept = (await loadRevisions(ctx, [revision])).get(revision);
  const lines = (await keptLines(ctx, source, units)).filter((line) => line.used.gt(0));
  const taken: PartsList<ContentLine> = {
    makes,
    usual: makes,
    overhead: moneyFromWhole(build.overhead ?? 0),
    extra: moneyFromWhole(build.extra),
    yield: decimal(100),
    decimals: unitNamed(units, product.unit).decimals,
    lines: lines.map((line) => ({
      ...line,
      quantity: line.used,
      unit: needUnit(line),
      waste: ZERO,
      optional: false,
      share: null,
      person: null,
      substitutes: line.listLine === null ? [] : (kept?.lines[line.listLine - 1]?.substitutes ?? []),
    })),
  };
  return { id: build.list_id, revision, taken, whole: taken };
}

/** What a build that is queued or on the bench still takes: its own copy of the list, and how far it has come. */
export async function keptContent(
  ctx: Reading,
  build: BuildTableRow,
): Promise<{ list: PartsList<KeptLine>; progress: Progress }> {
  const { makes, revision_id } = build;
  if (makes === null) throw new Error(`${build.number} keeps no list of its own`);
  const units = await loadUnits(ctx);
  const product = await itemById(ctx, build.product_id);
  const revision =
    revision_id === null ? undefined : (await loadRevisions(ctx, [revision_id])).get(revision_id);
  const lines = await keptLines(ctx, build.id, units);
  const bench = new Map(lines.map((line) => [line.line, line.bench]));
  const begun = doneOf(build).gt(0);
  // What is taken in full, and what came in at a finish, asks for nothing more.
  const left = lines.filter((line) => (line.stocked ? line.open.gt(0) : !(begun && line.oncePerBuild)));
  return {
    list: {
      makes: quantityFromWhole(makes),
      usual: ONE,
      overhead: moneyFromWhole(build.overhead ?? 0),
      extra: moneyFromWhole(build.extra),
      yield: revision?.yield ?? decimal(100),
      decimals: unitNamed(units, product.unit).decimals,
      lines: left,
    },
    progress: {
      units: quantityFromWhole(build.quantity),
      done: doneOf(build),
      benchOf: (line) => bench.get((line as KeptLine).line) ?? ZERO,
    },
  };
}
