import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  checkDecimals,
  type Decimal,
  lost,
  type Movement,
  type Problem,
  post,
  quantityFromScaled,
  quantityToScaled,
  reporter,
} from "@yosegi/core";
import type { Writing } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { ensureBins, loadBooks, record, storeId, undo } from "../ledger/index.ts";
import { refuseProblems } from "../problems.ts";
import { returnsSpot, standingReturn } from "./service.ts";
import { RETURN_INSPECTION, RETURN_LINE, type ReturnLineRow } from "./tables.ts";

type Decision = ParsedBody<typeof routes.inspectReturn>["lines"][number];

/** A decision on a piece, with the movement that carries it out. */
interface Decided extends Decision {
  movement: Movement;
}

/** Decides on pieces of a return: each is put back into stock or scrapped; all of it is one posting a line, so that each can be undone alone. */
export async function inspectReturn(
  ctx: Writing,
  id: number,
  { day, lines }: ParsedBody<typeof routes.inspectReturn>,
): Promise<void> {
  if (day > ctx.today) throw Refusal.at("day", "day-future");
  const { number, day: received } = await standingReturn(ctx, id);
  if (day < received) throw Refusal.at("day", "day-before-return", { day: received });
  const rows = (await ctx.model(RETURN_LINE).findAll({ where: { return_id: id } })).map((row) =>
    row.get({ plain: true }),
  );
  await checkDecisions(ctx, lines, rows, number);
  const from = await returnsSpot(ctx, number);
  const decided: Decided[] = [];
  for (const [i, line] of lines.entries()) {
    const row = rowOf(rows, line.line);
    const to =
      line.outcome === "scrap"
        ? null
        : { location: await storeId(ctx, `lines.${i}.store`, line.store), bin: line.bin };
    decided.push({
      ...line,
      movement: {
        item: row.item_id,
        lot: row.lot,
        serial: row.serial,
        quantity: line.quantity,
        purpose: to ? "moved" : "scrapped",
        source: { document: "return", id, line: line.line },
        from,
        to,
        value: null,
      },
    });
  }
  await ensureBins(
    ctx,
    decided.flatMap(({ movement: { to } }) => (to ? [to] : [])),
  );
  for (const one of decided) await carryOut(ctx, { id, number, day }, one);
  const done = new Map<number, Decimal>();
  for (const { line, quantity } of lines)
    done.set(line, (done.get(line) ?? quantityFromScaled(rowOf(rows, line).inspected)).plus(quantity));
  await writeInspected(ctx, id, done);
}

const rowOf = (rows: readonly ReturnLineRow[], line: number): ReturnLineRow => {
  const row = rows.find((own) => own.line === line);
  if (!row) throw new Error(`Line ${line} was checked`);
  return row;
};

async function writeInspected(ctx: Writing, id: number, done: ReadonlyMap<number, Decimal>): Promise<void> {
  await ctx.sql.update(
    RETURN_LINE,
    ["return_id", "line"],
    [...done].map(([line, quantity]) => ({ return_id: id, line, inspected: quantityToScaled(quantity) })),
  );
}

/** Refuses lines that are not the return's, more than is still to be inspected, and scrap without a reason. */
async function checkDecisions(
  ctx: Writing,
  lines: readonly Decision[],
  rows: readonly ReturnLineRow[],
  number: string,
): Promise<void> {
  const brief = await briefs(
    ctx,
    rows.map((row) => row.item_id),
  );
  const open = new Map(rows.map((row) => [row.line, quantityFromScaled(row.quantity - row.inspected)]));
  const problems: Problem[] = [];
  for (const [i, { line, quantity, outcome, reason }] of lines.entries()) {
    const row = rows.find((own) => own.line === line);
    const left = open.get(line);
    if (!row || !left)
      throw Refusal.at(`lines.${i}.line`, "not-found", { what: `line of ${number}`, id: line });
    const { code, unit, decimals } = brief(row.item_id);
    checkDecimals("quantity", quantity, { code: unit, decimals }, reporter(i, problems));
    const piece = [code, row.serial || row.lot].filter(Boolean).join(" ");
    if (quantity.gt(left))
      throw Refusal.at(`lines.${i}.quantity`, "return-inspect-too-many", {
        open: left.toFixed(),
        unit,
        piece,
      });
    open.set(line, left.minus(quantity));
    if (outcome === "scrap" && reason === "") throw Refusal.at(`lines.${i}.reason`, "scrap-reason");
  }
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
}

async function carryOut(
  ctx: Writing,
  { id, number, day }: { id: number; number: string; day: string },
  { line, outcome, quantity, reason, movement }: Decided,
): Promise<void> {
  const { stock } = await loadBooks(ctx, [movement.item]);
  const posted = post(stock, [movement]);
  const value = posted.ok ? posted.movements[0]?.value : undefined;
  const posting = await record(ctx, {
    kind: "inspection",
    document: number,
    day,
    reason,
    movements: [movement],
    entries: outcome === "scrap" && value ? lost("scrapped", value, reason) : [],
    lots: [],
    books: stock,
    posted,
  });
  await ctx.sql.insert(RETURN_INSPECTION, [
    {
      return_id: id,
      line,
      posting_id: posting.id,
      outcome,
      quantity: quantityToScaled(quantity),
      location_id: movement.to?.location ?? null,
      bin: movement.to?.bin ?? "",
      reason,
    },
  ]);
}

/** Undoes what was decided on a piece: it is back in returns. */
export async function undoInspection(ctx: Writing, id: number, inspection: number): Promise<void> {
  const { number } = await standingReturn(ctx, id);
  const row = (await ctx.model(RETURN_INSPECTION).findOne({ where: { id: inspection, return_id: id } }))?.get(
    { plain: true },
  );
  if (!row) throw new Refusal("not-found", { what: `inspection of ${number}`, id: inspection });
  if (row.undone_at !== null) throw new Refusal("inspection-undone");
  if (row.outcome === "take apart") throw new Refusal("inspection-taken-apart");
  if (row.outcome === "supplier") throw new Refusal("inspection-sent-back");
  if (row.outcome === "rework") throw new Refusal("inspection-reworked");
  await undo(ctx, { kind: "inspection", document: number, reason: "", undoes: row.posting_id });
  await ctx
    .model(RETURN_INSPECTION)
    .update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id: inspection } });
  const line = (await ctx.model(RETURN_LINE).findOne({ where: { return_id: id, line: row.line } }))?.get({
    plain: true,
  });
  await writeInspected(
    ctx,
    id,
    new Map([[row.line, quantityFromScaled((line?.inspected ?? 0) - row.quantity)]]),
  );
}
