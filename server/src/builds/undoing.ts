import { Refusal } from "@yosegi/contract";
import { quantityFromScaled, quantityToScaled } from "@yosegi/core";
import type { Writing } from "../db/index.ts";
import { loadUnits } from "../items/index.ts";
import { undo } from "../ledger/index.ts";
import { buildById, openOf, refuseStage, storedLines } from "./rows.ts";
import type { BuildTableRow, FinishRow } from "./tables.ts";
import { BUILD, BUILD_LINE, FINISH, SERIAL_PART } from "./tables.ts";

/** Takes the last finish of a build back, or all of them, the last first; exactly mirrored. */
export async function undoFinish(ctx: Writing, id: number, all: boolean): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "undo");
  const rows = await ctx.model(FINISH).findAll({
    where: { build_id: id, undone_at: null },
    order: [["id", "DESC"]],
  });
  const finishes = rows.map((row) => row.get({ plain: true }));
  if (finishes.length === 0) throw new Refusal("nothing-made", { number: build.number });
  for (const finish of all ? finishes : finishes.slice(0, 1)) await takeBack(ctx, id, finish);
}

async function takeBack(ctx: Writing, id: number, finish: FinishRow): Promise<void> {
  const build = await buildById(ctx, id);
  await undo(ctx, {
    kind: "finish",
    document: build.number,
    reason: "",
    undoes: finish.posting_id,
  });
  await ctx.model(SERIAL_PART).destroy({ where: { finish_id: finish.id } });
  await ctx
    .model(FINISH)
    .update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id: finish.id } });
  const before: BuildTableRow = {
    ...build,
    good: build.good - finish.good,
    rejected: build.rejected - finish.rejected,
  };
  // More may have been handed out since: then it is on the bench, wherever it was before.
  const benched = await writeBefore(ctx, before, finish.id);
  await ctx.model(BUILD).update(
    {
      good: before.good,
      rejected: before.rejected,
      finished_by: null,
      finished_at: null,
      stage: benched ? "on the bench" : finish.stage_before,
    },
    { where: { id } },
  );
}

/**
 * The lines as they were before a finish: used and scrapped less, on the bench and reserved again. Tells whether anything
 * lies on the bench.
 */
async function writeBefore(ctx: Writing, build: BuildTableRow, finish: number): Promise<boolean> {
  const booked = await ctx.sql.all<{
    line: number;
    used: number;
    scrapped: number;
    from_bench: number;
    back: number;
  }>(
    "SELECT line, used, scrapped AS scrapped, from_bench, returned AS back FROM finish_line WHERE finish_id = $finish",
    { finish },
  );
  const byLine = new Map(booked.map((line) => [line.line, line]));
  const rows = (await storedLines(ctx, build.id, await loadUnits(ctx))).map((line) => {
    const of = byLine.get(line.line) ?? { used: 0, scrapped: 0, from_bench: 0, back: 0 };
    const bench = line.bench.plus(quantityFromScaled(of.from_bench + of.back));
    return {
      build_id: build.id,
      line: line.line,
      used: quantityToScaled(line.used) - of.used,
      scrapped: quantityToScaled(line.scrapped) - of.scrapped,
      bench: quantityToScaled(bench),
      open: quantityToScaled(openOf(build, line, bench)),
    };
  });
  await ctx.sql.update(BUILD_LINE, ["build_id", "line"], rows);
  return rows.some(({ bench }) => bench > 0);
}
