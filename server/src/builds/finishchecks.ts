import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  checkDecimals,
  type Decimal,
  type FinishedLine,
  needUnit,
  type Problem,
  quantityFromScaled,
  reporter,
  sum,
  type Unit,
} from "@yosegi/core";
import { refuseProblems } from "../problems.ts";
import { doneOf, type StoredLine } from "./rows.ts";
import type { BuildTableRow } from "./tables.ts";

/** What a person says of a finish. */
export type FinishFigures = ParsedBody<typeof routes.previewFinish>;

/** Refuses what can't be: too many decimals, a line that isn't there, work that does not add up, more than is open. */
export function checkFigures(
  build: BuildTableRow,
  productUnit: Pick<Unit, "code" | "decimals">,
  lines: readonly StoredLine[],
  own: number,
  body: FinishFigures,
): void {
  const problems: Problem[] = [];
  const report = reporter(0, problems);
  checkDecimals("good", body.good, productUnit, report);
  checkDecimals("rejected", body.rejected, productUnit, report);
  for (const [i, entry] of body.lines.entries()) {
    const kept = lines.find((l) => l.line === entry.line && !isExtra(lines, own, l));
    if (!kept) throw Refusal.at(`lines.${i}.line`, "line-unknown", { line: entry.line });
    checkUsed(`lines.${i}`, entry, kept, report);
  }
  for (const [i, entry] of body.extra.entries()) {
    const added = lines[own + i];
    if (added) checkUsed(`extra.${i}`, entry, added, report);
  }
  refuseProblems(problems, (p) => p.field);
  checkWork(lines, body);
  const worked = body.good.plus(body.rejected);
  const open = quantityFromScaled(build.quantity).minus(doneOf(build));
  if (worked.eq(0)) throw Refusal.at("good", "build-empty");
  if (worked.gt(open))
    throw Refusal.at("good", "build-too-many", { open: open.toFixed(), unit: productUnit.code });
}

const isExtra = (lines: readonly StoredLine[], own: number, line: StoredLine): boolean =>
  lines.indexOf(line) >= own;

function checkUsed(
  field: string,
  { used, scrapped }: { used: Decimal | null; scrapped: Decimal },
  line: StoredLine,
  report: ReturnType<typeof reporter>,
): void {
  if (used !== null) checkDecimals(`${field}.used`, used, needUnit(line), report);
  checkDecimals(`${field}.scrapped`, scrapped, needUnit(line), report);
}

/** Refuses more scrapped than is used, once the plan says how much that is: the build's own lines first, then what is added. */
export function checkScrapped(
  lines: readonly StoredLine[],
  planned: readonly FinishedLine[],
  own: number,
  body: FinishFigures,
): void {
  for (const [at, { line, used, scrapped }] of planned.entries()) {
    const stored = lines[at];
    if (!stored || scrapped.lte(used)) continue;
    const path =
      at < own ? `lines.${body.lines.findIndex((entry) => entry.line === line)}` : `extra.${at - own}`;
    throw Refusal.at(`${path}.scrapped`, "scrapped-too-much", {
      used: used.toFixed(),
      unit: needUnit(stored).code,
    });
  }
}

/** Who worked how long: on a line of work, and adding up to what is said to be used of it. */
function checkWork(lines: readonly StoredLine[], body: FinishFigures): void {
  for (const [i, entry] of body.work.entries()) {
    const line = lines.find((l) => l.line === entry.line);
    if (!line?.service) throw Refusal.at(`work.${i}.line`, "line-unknown", { line: entry.line });
    const given = body.lines.find((l) => l.line === entry.line);
    const total = sum(body.work.filter((w) => w.line === entry.line).map((w) => w.quantity));
    if (given && given.used !== null && !total.eq(given.used))
      throw Refusal.at(`work.${i}.quantity`, "work-sum", {
        given: total.toFixed(),
        used: given.used.toFixed(),
        unit: needUnit(line).code,
      });
  }
}
