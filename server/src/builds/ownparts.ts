import { type OwnPartInput, Refusal } from "@yosegi/contract";
import {
  checkDecimals,
  type Decimal,
  lineNeed,
  moneyToScaled,
  needUnit,
  ONE,
  type OwnLine,
  ownParts,
  type Problem,
  quantityFromScaled,
  quantityToScaled,
  reporter,
  type Units,
  ZERO,
} from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { type ItemTableRow, loadUnits } from "../items/index.ts";
import { lockForBuild } from "../lists/index.ts";
import { refuseProblems } from "../problems.ts";
import type { ChosenList, ContentLine } from "./content.ts";
import { insertStored, partLines, storedColumns } from "./lines.ts";
import type { StoredLine } from "./rows.ts";
import type { BuildTableRow } from "./tables.ts";
import { BUILD, BUILD_LINE } from "./tables.ts";

/** A part of a build before it is changed, as a line of a list. */
export type BuildPart = ContentLine & Pick<StoredLine, "line" | "need">;

/** What the parts of a build are changed from: the lines it has, and the list that they come from. */
export interface PartsBefore {
  makes: Decimal;
  overhead: Decimal;
  extra: Decimal;
  revision: number | null;
  lines: readonly BuildPart[];
}

/** The parts of a build of so many by a list, to be changed; nothing yet where there is no list. */
export function partsOfList(list: ChosenList | null, started: Decimal): PartsBefore {
  if (!list) return { makes: ONE, overhead: ZERO, extra: ZERO, revision: null, lines: [] };
  const { taken, revision } = list;
  const lines = taken.lines.map((line, i) => ({
    ...line,
    line: i + 1,
    need: lineNeed(line, taken.makes, started),
  }));
  return { ...taken, revision, lines };
}

/** Writes the parts that a build has instead of its list. */
export async function writeOwnParts(
  ctx: Writing,
  build: BuildTableRow,
  product: ItemTableRow,
  before: PartsBefore,
  parts: readonly OwnPartInput[],
): Promise<void> {
  const units = await loadUnits(ctx);
  const said = await ownLines(ctx, product, before.lines, parts, units);
  const started = quantityFromScaled(build.quantity);
  await keepOwnParts(ctx, build, { ...before, ...ownParts(before.makes, started, said) });
}

/** Writes lines as a build's own; what it reserves of them follows from its stage. */
export async function keepOwnParts(
  ctx: Writing,
  build: BuildTableRow,
  own: Omit<PartsBefore, "lines"> & { lines: readonly ContentLine[] },
): Promise<void> {
  if (own.revision !== null) await lockForBuild(ctx, own.revision, build.number);
  await ctx.model(BUILD_LINE).destroy({ where: { build_id: build.id } });
  await insertStored(
    ctx,
    build.id,
    own.lines.map((line, i) => {
      const need = lineNeed(line, own.makes, quantityFromScaled(build.quantity));
      const open = build.stage === "queued" && line.stocked ? need : ZERO;
      return storedColumns(line, { line: i + 1, need, open, bench: ZERO });
    }),
  );
  await ctx.model(BUILD).update(
    {
      own_parts: 1,
      as_built: null,
      makes: quantityToScaled(own.makes),
      overhead: moneyToScaled(own.overhead),
      extra: moneyToScaled(own.extra),
      revision_id: own.revision,
    },
    { where: { id: build.id } },
  );
}

/** The parts that were asked for, as lines: those that stay, those that are changed, and those that are added. */
async function ownLines(
  ctx: Reading,
  product: ItemTableRow,
  before: readonly BuildPart[],
  parts: readonly OwnPartInput[],
  units: Units,
): Promise<OwnLine<ContentLine>[]> {
  const lineFor = await partLines(
    ctx,
    parts.map((part) => part.item),
    units,
  );
  /** A part that is added, or that takes the place of another. */
  const newPart = (item: number, field: string, old: BuildPart | undefined): ContentLine => {
    const { isArchived, code, ...line } = lineFor(item, field);
    if (isArchived) throw Refusal.at(field, "archived", { code });
    return { ...line, ...(old && placeOf(old)) };
  };
  const problems: Problem[] = [];
  const named = new Set<number | null>(parts.map((part) => part.line));
  const lines = parts.map((part, i): OwnLine<ContentLine> => {
    const at = `parts.${i}`;
    const old =
      part.line === null
        ? before.find((line) => line.item === part.item && !named.has(line.line))
        : before.find((line) => line.line === part.line);
    if (old) named.add(old.line);
    if (part.line !== null && !old) throw Refusal.at(`${at}.line`, "line-unknown", { line: part.line });
    if (part.item === product.id) throw Refusal.at(`${at}.item`, "part-is-product", { code: product.code });
    const kept = old?.item === part.item ? old : null;
    const line = { ...(kept ?? newPart(part.item, `${at}.item`, old)), note: part.note };
    checkDecimals(`${at}.quantity`, part.quantity, needUnit(line), reporter(0, problems));
    return { line, need: kept?.need.eq(part.quantity) ? null : part.quantity };
  });
  refuseProblems(problems, (p) => p.field);
  return lines;
}

/** What another part takes over of the line in which it stands. */
const placeOf = ({ listLine, drawnAt, oncePerBuild }: BuildPart) => ({ listLine, drawnAt, oncePerBuild });
