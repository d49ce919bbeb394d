import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  buildOwner,
  checkDecimals,
  type Day,
  type Decimal,
  heldByBuild,
  lineNeed,
  lineOfItem,
  type Movement,
  max,
  min,
  type Problem,
  planHandOut,
  quantityFromScaled,
  quantityOf,
  quantityToScaled,
  reporter,
  returnToStock,
  type Source,
  sameOwner,
  ZERO,
} from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { firmById } from "../firms/index.ts";
import { briefs, homeOf, loadUnits, unitNamed } from "../items/index.ts";
import { loadBooks, record, sourcesBy, workLocation } from "../ledger/index.ts";
import { refuseProblems } from "../problems.ts";
import { numberHandOut, unitsHandedOut } from "./handouts.ts";
import { buildById, doneOf, openOf, refuseStage, type StoredLine, storedLines } from "./rows.ts";
import { notEnough } from "./short.ts";
import type { BuildTableRow } from "./tables.ts";
import { BUILD, BUILD_LINE } from "./tables.ts";

/** Where the parts of a build lie once they are handed out: our bench, or the subcontractor that does it. */
export async function benchName(ctx: Reading, build: BuildTableRow): Promise<string> {
  return build.subcontractor_id === null ? "Bench" : (await firmById(ctx, build.subcontractor_id)).name;
}

/** Hands out what is drawn at pick, or all that is stocked where a workshop does the build. */
export async function handOut(
  ctx: Writing,
  id: number,
  { day, some, units, note }: ParsedBody<typeof routes.handOut>,
): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "handOut");
  if (day > ctx.today) throw Refusal.at("day", "day-future");
  const known = await loadUnits(ctx);
  const lines = await storedLines(ctx, id, known);
  if (units !== null) {
    const problems: Problem[] = [];
    const { unit } = (await briefs(ctx, [build.product_id]))(build.product_id);
    checkDecimals("units", units, unitNamed(known, unit), reporter(0, problems));
    refuseProblems(problems, (p) => p.field);
  }
  const total = units === null ? null : (await unitsHandedOut(ctx, build)).plus(units);
  if (total?.gt(quantityFromScaled(build.quantity)))
    throw Refusal.at("units", "hand-out-too-many", { number: build.number });
  const drawn = lines
    .filter(
      (line) =>
        line.stocked && line.open.gt(0) && (line.drawnAt === "pick" || build.subcontractor_id !== null),
    )
    .map((line) => ({ ...line, quantity: total === null ? line.open : handOutFor(line, build, total) }))
    .filter((line) => line.quantity.gt(0));
  if (drawn.length === 0) throw new Refusal("nothing-to-hand-out", { number: build.number });
  const { ready } = await loadBooks(
    ctx,
    drawn.map((line) => line.item),
  );
  const to = {
    location: await workLocation(ctx, build.subcontractor_id, await benchName(ctx, build)),
    bin: "",
    owner: buildOwner(id),
  };
  const plan = planHandOut(
    drawn.map(({ line, item, quantity, store }) => ({ line, item, quantity, store })),
    ready,
    to,
    day,
  );
  if (plan.shorts.length > 0 && (!some || plan.moves.length === 0))
    throw await notEnough(ctx, plan.shorts, lines, null);
  const posted = await record(ctx, {
    kind: "hand out",
    document: build.number,
    day,
    reason: note,
    costTag: build.cost_tag,
    lots: [],
    movements: plan.moves,
  });
  await numberHandOut(ctx, id, { posting: posted.id, units, done: doneOf(build), note });
  await bookHandedOut(ctx, id, new Map(plan.lines.map(({ line, taken }) => [line, quantityOf(taken)])));
}

/** What a line still lacks so that so many units in all have their parts, of what it still reserves. */
const handOutFor = (line: StoredLine, build: BuildTableRow, units: Decimal): Decimal =>
  max(
    ZERO,
    min(
      line.open,
      lineNeed(line, quantityFromScaled(build.makes ?? 0), units)
        .minus(line.bench)
        .minus(line.used),
    ),
  );

/** Writes down what was handed out of lines of a build, or came back: its stage follows from whether anything lies on its bench. */
export async function bookHandedOut(
  ctx: Writing,
  id: number,
  handed: ReadonlyMap<number, Decimal>,
): Promise<void> {
  const build = await buildById(ctx, id);
  const lines = await storedLines(ctx, id, await loadUnits(ctx));
  const benchOf = ({ line, bench }: StoredLine) => bench.plus(handed.get(line) ?? ZERO);
  await writeBench(ctx, build, lines, benchOf);
  const isThere = lines.some((line) => benchOf(line).gt(0));
  await ctx.model(BUILD).update(
    isThere
      ? {
          stage: "on the bench",
          ...(build.bench_at === null && { bench_by: ctx.person.id, bench_at: ctx.moment }),
        }
      : { stage: "queued", bench_by: null, bench_at: null },
    { where: { id } },
  );
}

/** Puts everything that lies with a build back to where it came from; it is reserved again. */
export async function putBackBuild(ctx: Writing, id: number, day: Day): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "returnToStock");
  if (day > ctx.today) throw Refusal.at("day", "day-future");
  await putAllBack(ctx, build, day);
  await ctx.model(BUILD).update({ stage: "queued", bench_by: null, bench_at: null }, { where: { id } });
}

/** The movements and figures of putting back; nothing where nothing lies there. */
export async function putAllBack(ctx: Writing, build: BuildTableRow, day: Day): Promise<void> {
  const lines = await storedLines(ctx, build.id, await loadUnits(ctx));
  const { stock } = await loadBooks(
    ctx,
    lines.map((line) => line.item),
  );
  const held = heldByBuild(build.id, stock);
  if (held.length === 0) return;
  const lineOf = lineOfItem(build.id, lines);
  const movements = returnToStock(
    held,
    await sourcesOf(ctx, build),
    await homeOf(
      ctx,
      lines.map((line) => line.item),
    ),
    lineOf,
  );
  await record(ctx, {
    kind: "return to stock",
    document: build.number,
    day,
    reason: "",
    lots: [],
    movements,
  });
  await writeBench(ctx, build, lines, () => ZERO);
}

/** Writes what of each line lies on the bench now, and what it therefore still reserves. */
export async function writeBench(
  ctx: Writing,
  build: BuildTableRow,
  lines: readonly StoredLine[],
  benchOf: (line: StoredLine) => StoredLine["bench"],
): Promise<void> {
  const rows = lines.map((line) => {
    const bench = benchOf(line);
    return {
      build_id: build.id,
      line: line.line,
      bench: quantityToScaled(bench),
      open: quantityToScaled(openOf(build, line, bench)),
    };
  });
  await ctx.sql.update(BUILD_LINE, ["build_id", "line"], rows);
}

/** Where the parts that lie with a build came from, latest first; what a split brought, from the build it was split from. */
export const sourcesOf = (ctx: Reading, build: Pick<BuildTableRow, "id">): Promise<Source[]> =>
  sourcesBy(
    ctx,
    `stock_movement m
      WHERE m.to_owner = 'build' AND m.to_owner_id IN (
            WITH RECURSIVE of (id, split_from) AS (
              SELECT id, split_from FROM build WHERE id = $build
              UNION SELECT b.id, b.split_from FROM build b JOIN of ON b.id = of.split_from)
            SELECT id FROM of)
        AND m.from_owner = 'company' AND m.purpose = 'handed out'`,
    { build: build.id },
  );

/** Moves what one build does not need for its rest to another, as the figures of `wanted` say. */
export async function moveBench(
  ctx: Writing,
  from: BuildTableRow,
  to: BuildTableRow,
  wanted: ReadonlyMap<number, StoredLine["bench"]>,
): Promise<Map<number, StoredLine["bench"]>> {
  const lines = await storedLines(ctx, from.id, await loadUnits(ctx));
  const { bench } = await loadBooks(
    ctx,
    lines.map((line) => line.item),
  );
  const own = bench.filter((balance) => sameOwner(balance.owner, buildOwner(from.id)));
  const [first] = own;
  if (!first) return new Map();
  const plan = planHandOut(
    lines.map(({ line, item }) => ({ line, item, quantity: wanted.get(line) ?? ZERO })),
    own.map((balance) => ({ ...balance, expiry: null })),
    { location: first.location, bin: first.bin, owner: buildOwner(to.id) },
    ctx.today,
    "moved",
  );
  const movements: Movement[] = plan.moves;
  if (movements.length === 0) return new Map();
  await record(ctx, {
    kind: "split",
    document: to.number,
    day: ctx.today,
    reason: "",
    lots: [],
    movements,
  });
  return new Map(
    plan.lines.map(({ line, taken }) => [line, taken.reduce((n, t) => n.plus(t.quantity), ZERO)]),
  );
}
