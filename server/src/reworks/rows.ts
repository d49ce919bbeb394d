import { Refusal } from "@yosegi/contract";
import { customerOwner, type Decimal, moneyFromScaled, reworkOwner, type Spot } from "@yosegi/core";
import { countChange, type Reading, type Writing } from "../db/index.ts";
import { workLocation } from "../ledger/index.ts";
import {
  REWORK,
  REWORK_PART,
  REWORK_STEP,
  REWORK_UNIT,
  type ReworkPartRow,
  type ReworkStepRow,
  type ReworkTableRow,
  type ReworkUnitRow,
} from "./tables.ts";

/** A rework that must be there. */
export async function reworkById(ctx: Reading, id: number): Promise<ReworkTableRow> {
  const row = await ctx.model(REWORK).findByPk(id);
  if (!row) throw new Refusal("not-found", { what: "rework", id });
  return row.get({ plain: true });
}

/** A rework whose units still lie with it. */
export async function openRework(ctx: Reading, id: number): Promise<ReworkTableRow> {
  const row = await reworkById(ctx, id);
  if (row.undone_at !== null) throw new Refusal("document-undone", { document: row.number });
  if (row.out_at !== null) throw new Refusal("rework-finished", { number: row.number });
  return row;
}

/** A rework of which something is about to be changed: its change is counted. */
export async function changingRework(ctx: Writing, id: number): Promise<ReworkTableRow> {
  const row = await openRework(ctx, id);
  await countChange(ctx, REWORK, id);
  return row;
}

export async function unitsOf(ctx: Reading, id: number): Promise<ReworkUnitRow[]> {
  const rows = await ctx.model(REWORK_UNIT).findAll({ where: { rework_id: id }, order: ["unit"] });
  return rows.map((row) => row.get({ plain: true }));
}

export async function partsOf(ctx: Reading, id: number): Promise<ReworkPartRow[]> {
  const rows = await ctx.model(REWORK_PART).findAll({ where: { rework_id: id }, order: ["id"] });
  return rows.map((row) => row.get({ plain: true }));
}

export async function stepsOf(ctx: Reading, id: number): Promise<ReworkStepRow[]> {
  const rows = await ctx.model(REWORK_STEP).findAll({ where: { rework_id: id }, order: ["id"] });
  return rows.map((row) => row.get({ plain: true }));
}

/** Where the units of a rework lie, and the parts taken for them: on our bench or with its subcontractor, under its number. */
export async function reworkSpot(
  ctx: Writing,
  { number, subcontractor_id }: Pick<ReworkTableRow, "number" | "subcontractor_id">,
): Promise<Spot> {
  const firm = await ctx.sql.one<{ name: string }>("SELECT name FROM firm_head WHERE id = $id", {
    id: subcontractor_id,
  });
  return { location: await workLocation(ctx, subcontractor_id, firm?.name ?? "Bench"), bin: number };
}

/** Whose the units of a rework are while they lie with it. */
export const unitOwner = ({ id, theirs, customer_id }: ReworkTableRow) =>
  theirs === 1 && customer_id !== null ? customerOwner(customer_id) : reworkOwner(id);

/** What a step cost, as planned where nothing else is known. */
export const costOf = ({ actual, planned }: Pick<ReworkStepRow, "actual" | "planned">): Decimal =>
  moneyFromScaled(actual ?? planned);
