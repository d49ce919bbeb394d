import { Refusal } from "@yosegi/contract";
import {
  checkDecimals,
  type Decimal,
  lineNeed,
  type OwnLine,
  ownParts,
  type Problem,
  quantityFromScaled,
  quantityToScaled,
  reporter,
  substituteFor,
  ZERO,
} from "@yosegi/core";
import type { Writing } from "../db/index.ts";
import { briefs, loadUnits } from "../items/index.ts";
import { refuseProblems } from "../problems.ts";
import { partLines, storedColumns } from "./lines.ts";
import { buildById, doneOf, openOf, refuseStage, type StoredLine, storedLines } from "./rows.ts";
import { substitutesOf } from "./sheetparts.ts";
import { BUILD, BUILD_LINE, type BuildTableRow } from "./tables.ts";

/**
 * Lets a substitute that the list allows take the place of so much of a line that is still to be handed out, in the part's stock unit. What was
 * handed out stays; the substitute gets a line of its own, which is planned, reserved and picked like any other.
 */
export async function takeSubstitute(
  ctx: Writing,
  id: number,
  { line: of, item, quantity }: { line: number; item: number; quantity: Decimal },
): Promise<void> {
  const { build, lines, units } = await unfinished(ctx, id);
  const part = lineOf(lines, of);
  const brief = await briefs(ctx, [part.item, item]);
  const { code, unit, decimals } = brief(part.item);
  const allowed = (await substitutesOf(ctx, [build]))(build, part).find((spare) => spare.item === item);
  if (!allowed) throw Refusal.at("item", "not-substitute", { by: brief(item).code, part: code });
  const problems: Problem[] = [];
  checkDecimals("quantity", quantity, { code: unit, decimals }, reporter(0, problems));
  refuseProblems(problems, (p) => p.field);
  if (quantity.gt(part.open))
    throw Refusal.at("quantity", "substitute-too-many", { code, open: part.open.toFixed(), unit });
  const taken = lines.find((line) => line.insteadOf === of && line.item === item && line.replaces.gt(0));
  const substitute: StoredLine = taken ?? {
    ...(await partLines(ctx, [item], units))(item, "item"),
    line: Math.max(...lines.map((own) => own.line)) + 1,
    listLine: part.listLine,
    drawnAt: part.drawnAt,
    oncePerBuild: part.oncePerBuild,
    store: part.store,
    need: ZERO,
    used: ZERO,
    scrapped: ZERO,
    open: ZERO,
    bench: ZERO,
    added: false,
    insteadOf: of,
    replaces: ZERO,
  };
  const need = substitute.need.plus(substituteFor(quantity, allowed.quantity, brief(item).decimals));
  const line = { ...substitute, replaces: substitute.replaces.plus(quantity) };
  await rewriteLines(ctx, build, [
    ...lines
      .filter((own) => own !== taken)
      .map((own) => ({ line: own, need: own === part ? own.need.minus(quantity) : null })),
    { line, need },
  ]);
  if (taken === undefined) await ctx.model(BUILD).update({ own_parts: 1, as_built: null }, { where: { id } });
}

/** Takes the part again instead of a substitute that a picker took; refused where some of the substitute is handed out. */
export async function undoSubstitute(ctx: Writing, id: number, of: number): Promise<void> {
  const { build, lines } = await unfinished(ctx, id);
  const line = lineOf(lines, of);
  const { code, unit } = (await briefs(ctx, [line.item]))(line.item);
  if (line.insteadOf === null || line.replaces.eq(0))
    throw Refusal.at("line", "substitute-unknown", { code, number: build.number });
  if (line.bench.gt(0))
    throw Refusal.at("line", "substitute-handed-out", { code, quantity: line.bench.toFixed(), unit });
  const part = lineOf(lines, line.insteadOf);
  await rewriteLines(
    ctx,
    build,
    lines
      .filter((own) => own !== line)
      .map((own) => ({ line: own, need: own === part ? own.need.plus(line.replaces) : null })),
  );
}

/** A build of which nothing is finished: from then on its plan is measured against, and a finish takes substitutes itself. */
async function unfinished(ctx: Writing, id: number) {
  const build = await buildById(ctx, id);
  refuseStage(build, "handOut");
  if (doneOf(build).gt(0)) throw new Refusal("substitute-at-finish", { number: build.number });
  const units = await loadUnits(ctx);
  return { build, units, lines: await storedLines(ctx, id, units) };
}

function lineOf(lines: readonly StoredLine[], line: number): StoredLine {
  const found = lines.find((own) => own.line === line);
  if (!found) throw Refusal.at("line", "line-unknown", { line });
  return found;
}

/** Writes lines whose needs have changed, and those that are new; what each still reserves follows from what is on the bench. */
async function rewriteLines(
  ctx: Writing,
  { id, ...build }: BuildTableRow,
  said: readonly OwnLine<StoredLine>[],
): Promise<void> {
  const units = quantityFromScaled(build.quantity);
  const own = ownParts(quantityFromScaled(build.makes ?? 0), units, said);
  const makes = quantityToScaled(own.makes);
  const rows = own.lines.map((line) => ({
    build_id: id,
    ...storedColumns(line, {
      line: line.line,
      need: lineNeed(line, own.makes, units),
      open: openOf({ ...build, makes }, line, line.bench),
      bench: line.bench,
    }),
    // A line whose part is replaced whole is planned for nothing, like one that a finish added.
    added: line.quantity.eq(0) ? 1 : 0,
    instead_of: line.insteadOf,
    replaces: quantityToScaled(line.replaces),
  }));
  await ctx.model(BUILD_LINE).destroy({ where: { build_id: id } });
  await ctx.sql.insert(BUILD_LINE, rows);
  await ctx.model(BUILD).update({ makes }, { where: { id } });
}
