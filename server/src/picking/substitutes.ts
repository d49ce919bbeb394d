import { type ParsedBody, type PickRound, Refusal, type routes } from "@yosegi/contract";
import { free } from "@yosegi/core";
import {
  buildsById,
  doneOf,
  linesOfBuilds,
  substitutesOf,
  takeSubstitute,
  undoSubstitute,
} from "../builds/index.ts";
import type { Reading, Writing } from "../db/index.ts";
import { briefs, loadUnits } from "../items/index.ts";
import { stockFigures } from "../ledger/index.ts";
import { type RoundPlan, refsOf, roundById, writeHolds } from "./plan.ts";
import { refuseEndedRound } from "./rounds.ts";

/** Which substitutes could be taken for the builds of a round, and which were. */
export async function substitutesIn(
  ctx: Reading,
  { documents }: RoundPlan,
): Promise<Pick<PickRound, "substitutable" | "substituted">> {
  const ids = documents.filter(({ kind }) => kind === "build").map(({ id }) => id);
  // A finish takes substitutes itself, and what it measures against stays as it is.
  const builds = [...(await buildsById(ctx, ids)).values()].filter((build) => doneOf(build).eq(0));
  const allowed = await substitutesOf(ctx, builds);
  const linesOf = await linesOfBuilds(ctx, ids, await loadUnits(ctx));
  const lines = builds.flatMap((build) => {
    const own = linesOf.get(build.id) ?? [];
    return own.map((line) => ({ build, line, own, spares: line.open.gt(0) ? allowed(build, line) : [] }));
  });
  const spares = new Set(lines.flatMap((own) => own.spares.map((spare) => spare.item)));
  const brief = await briefs(ctx, [...spares, ...lines.map(({ line }) => line.item)]);
  const stock = await stockFigures(ctx, [...spares]);
  const named = ({ build, line }: (typeof lines)[number]) => ({
    build: build.id,
    number: build.number,
    line: line.line,
    item: brief(line.item),
  });
  return {
    substitutable: lines
      .filter(
        ({ line, spares: some }) => some.length > 0 && line.insteadOf === null && line.drawnAt === "pick",
      )
      .map((own) => ({
        ...named(own),
        open: own.line.open.toFixed(),
        substitutes: own.spares.map(({ item, quantity }) => ({
          item: brief(item),
          factor: quantity.toFixed(),
          free: free(stock(item)).toFixed(),
        })),
      })),
    substituted: lines.flatMap((one) => {
      const { line, own } = one;
      const part = own.find((other) => other.line === line.insteadOf);
      if (!part || line.replaces.eq(0) || line.bench.gt(0)) return [];
      return [{ ...named(one), insteadOf: brief(part.item), replaces: line.replaces.toFixed() }];
    }),
  };
}

/** Takes a substitute for a line of a build in a round; from then on the round goes for it. */
export async function substituteInRound(
  ctx: Writing,
  id: number,
  { build, ...taken }: ParsedBody<typeof routes.takeSubstitute>,
): Promise<void> {
  await changeBuildOf(ctx, id, build, () => takeSubstitute(ctx, build, taken));
}

export async function undoSubstituteInRound(
  ctx: Writing,
  id: number,
  { build, line }: ParsedBody<typeof routes.undoSubstitute>,
): Promise<void> {
  await changeBuildOf(ctx, id, build, () => undoSubstitute(ctx, build, line));
}

async function changeBuildOf(
  ctx: Writing,
  id: number,
  build: number,
  change: () => Promise<void>,
): Promise<void> {
  const round = await roundById(ctx, id);
  refuseEndedRound(round);
  const refs = await refsOf(ctx, id);
  if (!refs.some((own) => own.kind === "build" && own.id === build))
    throw Refusal.at("build", "not-found", { what: `build of ${round.number}`, id: build });
  await change();
  await writeHolds(ctx, round);
}
