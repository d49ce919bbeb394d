import { Refusal } from "@yosegi/contract";
import {
  buildOwner,
  type Decimal,
  type Finish,
  type FinishBooks,
  type FinishedLine,
  type FinishPlan,
  max,
  moneyFromScaled,
  planFinish,
  quantityFromScaled,
  type Rate,
  type StockState,
  sameOwner,
  sum,
  type Units,
  ZERO,
} from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { homeOf } from "../items/index.ts";
import { loadBooks } from "../ledger/index.ts";
import { currentCosts } from "../lists/index.ts";
import { sourcesOf } from "./bench.ts";
import { asQueued } from "./content.ts";
import { feeOf } from "./fee.ts";
import { checkFigures, checkScrapped, type FinishFigures } from "./finishchecks.ts";
import { finishCounts } from "./finishcounts.ts";
import { partLines } from "./lines.ts";
import {
  buildWithProduct,
  doneOf,
  type FinishedProduct,
  openOf,
  refuseStage,
  type StoredLine,
  storedLines,
} from "./rows.ts";
import type { BuildTableRow } from "./tables.ts";

export interface Planned {
  build: BuildTableRow;
  product: FinishedProduct;
  /** The build's own lines, then those that this finish adds. */
  lines: StoredLine[];
  finish: Finish;
  plan: FinishPlan;
  /** What the books hold of the parts and of the product, before it. */
  books: StockState;
}

/** What of a line lies on the bench after a finish, and what it still reserves. */
export function lineAfter(
  build: BuildTableRow,
  finish: Finish,
  line: StoredLine,
  used: Pick<FinishedLine, "fromBench" | "back">,
): { bench: Decimal; open: Decimal } {
  const done = finish.done.plus(finish.good).plus(finish.rejected);
  const bench = line.bench.minus(used.fromBench).minus(used.back);
  const ends = finish.closes || done.gte(finish.planned);
  return { bench, open: ends ? ZERO : openOf(build, line, bench, done) };
}

/** Reads what a finish needs, checks its figures, and plans it; a draft, where it may be one, as if it were queued. */
export async function planOf(
  ctx: Reading,
  id: number,
  body: FinishFigures,
  mayBeDraft = false,
): Promise<Planned> {
  const heading = buildWithProduct(ctx, id);
  const [{ build: saved, product, units }, stored] = await Promise.all([
    heading,
    storedLines(
      ctx,
      id,
      heading.then((found) => found.units),
    ),
  ]);
  const { build, lines: own } =
    mayBeDraft && saved.stage === "draft" ? await asQueued(ctx, saved) : { build: saved, lines: stored };
  refuseStage(build, "finish");
  const { makes, overhead } = build;
  if (makes === null || overhead === null) throw new Error(`${build.number} was queued without its list`);
  const lines = [...own, ...(await addedLines(ctx, own, body, units))];
  checkFigures(build, product.unit, lines, own.length, body);

  const usedOf = usedByLine(body, own);
  const [unitCost, books, charged, fee] = await Promise.all([
    costsFor(ctx, lines, usedOf, body),
    booksFor(ctx, build, lines),
    chargedSoFar(ctx, build),
    feeOf(ctx, build),
  ]);
  const finish: Finish = {
    build: id,
    makes: quantityFromScaled(makes),
    overhead: moneyFromScaled(overhead),
    extra: moneyFromScaled(build.extra - charged.extra),
    subcontractor: max(ZERO, fee.total.minus(moneyFromScaled(charged.subcontractor))),
    closes: body.closeRest,
    returnToStock: body.returnToStock,
    productUnit: product.unit,
    planned: quantityFromScaled(build.quantity),
    done: doneOf(build),
    good: body.good,
    rejected: body.rejected,
    day: body.day,
    lines: lines.map((line) => ({
      ...line,
      scrapped: ZERO,
      only: [],
      ...usedOf(line),
      unitCost: unitCost(line.item),
    })),
    counts: await finishCounts(ctx, body, lines, unitCost, books.stock),
  };
  const plan = planFinish(finish, books);
  checkScrapped(lines, plan.lines, own.length, body);
  return { build, product, lines, finish, plan, books: books.stock };
}

/**
 * Current unit costs, as far as a finish asks for them: of work, of what is not stocked or not used, and of what is
 * counted. What is used of stock tells its cost itself.
 */
async function costsFor(
  ctx: Reading,
  lines: readonly StoredLine[],
  usedOf: ReturnType<typeof usedByLine>,
  body: FinishFigures,
): Promise<(item: number) => Rate | null> {
  const charged = lines.filter((line) => !line.stocked || usedOf(line).used?.eq(0)).map((line) => line.item);
  const items = [...charged, ...body.counts.map((count) => count.item)];
  return items.length === 0 ? () => null : currentCosts(ctx, items);
}

async function booksFor(
  ctx: Reading,
  build: BuildTableRow,
  lines: readonly StoredLine[],
): Promise<FinishBooks> {
  const stocked = lines.filter((l) => l.stocked);
  const { stock, ready, bench } = await loadBooks(ctx, [build.product_id, ...stocked.map((l) => l.item)]);
  const own = bench.filter((balance) => sameOwner(balance.owner, buildOwner(build.id)));
  const none = own.length === 0;
  return {
    stock,
    ready,
    bench: own,
    sources: none ? [] : await sourcesOf(ctx, build),
    home: none
      ? neverAsked
      : await homeOf(
          ctx,
          stocked.map((line) => line.item),
        ),
  };
}

const neverAsked = (item: number): never => {
  throw new Error(`Nothing lies on the bench, yet item ${item} is put back`);
};

/** What the person says of each line: work adds up from who did it; a figure of its own must agree with that. */
function usedByLine(body: FinishFigures, own: readonly StoredLine[]) {
  const byLine = new Map(body.lines.map((line) => [line.line, line]));
  return (line: StoredLine) => {
    const worked = body.work.filter((entry) => entry.line === line.line);
    const given = line.line > lastOf(own) ? body.extra[line.line - lastOf(own) - 1] : byLine.get(line.line);
    return {
      used: given?.used ?? (worked.length > 0 ? sum(worked.map((entry) => entry.quantity)) : null),
      ...(given && { scrapped: given.scrapped, only: given.only }),
    };
  };
}

const lastOf = (lines: readonly StoredLine[]): number => Math.max(0, ...lines.map((line) => line.line));

/** Lines for parts that are not on the list: numbered after the build's own, planned for nothing. */
async function addedLines(
  ctx: Reading,
  own: readonly StoredLine[],
  body: FinishFigures,
  units: Units,
): Promise<StoredLine[]> {
  if (body.extra.length === 0) return [];
  const lineFor = await partLines(
    ctx,
    body.extra.map((entry) => entry.item),
    units,
  );
  return body.extra.map((entry, i): StoredLine => {
    const part = lineFor(entry.item, `extra.${i}.item`);
    const { insteadOf } = entry;
    if (insteadOf !== null && !own.some((line) => line.line === insteadOf))
      throw Refusal.at(`extra.${i}.insteadOf`, "line-unknown", { line: insteadOf });
    return {
      ...part,
      line: lastOf(own) + 1 + i,
      need: ZERO,
      used: ZERO,
      scrapped: ZERO,
      open: ZERO,
      bench: ZERO,
      drawnAt: "finish",
      added: true,
      insteadOf,
      replaces: ZERO,
    };
  });
}

/** What earlier finishes bore of the build's extra cost and of its workshop's fee. */
async function chargedSoFar(
  ctx: Reading,
  { id, extra, subcontractor_id }: BuildTableRow,
): Promise<{ extra: number; subcontractor: number }> {
  if (extra === 0 && subcontractor_id === null) return { extra: 0, subcontractor: 0 };
  const row = await ctx.sql.one<{ extra: number; subcontractor: number }>(
    `SELECT COALESCE(SUM(extra), 0) AS extra, COALESCE(SUM(fee), 0) AS subcontractor
       FROM finish WHERE build_id = $id AND undone_at IS NULL`,
    { id },
  );
  return row ?? { extra: 0, subcontractor: 0 };
}
