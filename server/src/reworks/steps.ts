import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import { moneyFromScaled, moneyToScaled, ONE, type StepState } from "@yosegi/core";
import { newPurchase } from "../buying/index.ts";
import { asJson, type Writing } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { briefs, checkCurrency } from "../items/index.ts";
import { checkPerson } from "../people/index.ts";
import { checkUnit } from "./parts.ts";
import { changingRework } from "./rows.ts";
import { REWORK_PART, REWORK_STEP, type ReworkStepRow, type ReworkTableRow } from "./tables.ts";

type StepInput = ParsedBody<typeof routes.addReworkStep>;

async function columnsOf(ctx: Writing, rework: ReworkTableRow, body: StepInput) {
  const { person, supplier, service, planned, actual, charge, unit, ...plain } = body;
  await checkUnit(ctx, rework, unit);
  if (person !== null && supplier !== null) throw Refusal.at("supplier", "step-two-do-it");
  if (person !== null) await checkPerson(ctx, "person", person);
  if (supplier !== null) await refuseFirm(ctx, "supplier", "supplier", { id: supplier });
  if (service !== null) {
    const { code, kind } = (await briefs(ctx, [service]))(service);
    if (kind !== "service") throw Refusal.at("service", "not-work", { code });
  }
  if (charge !== null) checkCurrency(ctx, "charge", charge);
  return {
    ...plain,
    unit,
    person_id: person,
    supplier_id: supplier,
    service_id: service,
    planned: moneyToScaled(planned),
    actual: actual === null ? null : moneyToScaled(actual),
    charge: charge === null ? null : moneyToScaled(charge),
  };
}

export async function addStep(ctx: Writing, id: number, body: StepInput): Promise<void> {
  const rework = await changingRework(ctx, id);
  await ctx.sql.insert(REWORK_STEP, [{ rework_id: id, ...(await columnsOf(ctx, rework, body)) }]);
}

async function stepById(ctx: Writing, id: number, step: number): Promise<ReworkStepRow> {
  const row = await ctx.model(REWORK_STEP).findOne({ where: { id: step, rework_id: id } });
  if (!row) throw new Refusal("step-removed");
  return row.get({ plain: true });
}

export async function changeStep(ctx: Writing, id: number, step: number, body: StepInput): Promise<void> {
  const rework = await changingRework(ctx, id);
  const { what, supplier_id, purchase_id, charge } = await stepById(ctx, id, step);
  if (purchase_id !== null && supplier_id !== body.supplier)
    throw Refusal.at("supplier", "step-ordered", { what, number: await purchaseNumber(ctx, purchase_id) });
  const columns = await columnsOf(ctx, rework, body);
  // Another charge that somebody types is in place of what was agreed.
  const none = columns.charge === charge ? {} : { fixed_charge: null, fixed_tax: null };
  await ctx.model(REWORK_STEP).update({ ...columns, ...none }, { where: { id: step } });
}

/** Removes a step; parts that were for it stay with the rework. */
export async function removeStep(ctx: Writing, id: number, step: number): Promise<void> {
  await changingRework(ctx, id);
  const { what, purchase_id } = await stepById(ctx, id, step);
  if (purchase_id !== null)
    throw new Refusal("step-ordered", { what, number: await purchaseNumber(ctx, purchase_id) });
  await ctx.model(REWORK_PART).update({ step_id: null }, { where: { step_id: step } });
  await ctx.model(REWORK_STEP).destroy({ where: { id: step } });
}

const purchaseNumber = async (ctx: Writing, id: number): Promise<string> =>
  (await ctx.sql.one<{ number: string }>("SELECT number FROM purchase_head WHERE id = $id", { id }))
    ?.number ?? "";

/** Orders a step from its subcontractor, on a purchase order of its own, at what is planned for it. */
export async function orderStep(ctx: Writing, id: number, step: number): Promise<void> {
  const { number, cost_tag } = await changingRework(ctx, id);
  const { what, supplier_id, service_id, purchase_id, planned, due } = await stepById(ctx, id, step);
  if (purchase_id !== null)
    throw new Refusal("step-ordered", { what, number: await purchaseNumber(ctx, purchase_id) });
  if (supplier_id === null) throw new Refusal("step-no-subcontractor", { what });
  if (service_id === null) throw new Refusal("step-no-service", { what });
  const purchase = await newPurchase(ctx, {
    supplier: supplier_id,
    note: `${number}: ${what}`.slice(0, 500),
    lines: [
      {
        id: null,
        item: service_id,
        pack: "",
        note: what,
        quantity: ONE,
        price: moneyFromScaled(planned),
        pricePer: "",
        expected: due,
        costTag: cost_tag,
      },
    ],
  });
  await ctx.model(REWORK_STEP).update({ purchase_id: purchase }, { where: { id: step } });
}

/** Sets how far several steps are. */
export async function setSteps(ctx: Writing, steps: readonly number[], state: StepState): Promise<void> {
  const rows = await ctx.sql.all<{ id: number; rework: number }>(
    "SELECT id, rework_id AS rework FROM rework_step WHERE id IN (SELECT value FROM json_each($steps))",
    { steps: asJson(steps) },
  );
  for (const step of steps) if (!rows.some(({ id }) => id === step)) throw new Refusal("step-removed");
  for (const rework of new Set(rows.map((row) => row.rework))) await changingRework(ctx, rework);
  await ctx.sql.update(
    REWORK_STEP,
    ["id"],
    steps.map((id) => ({ id, state })),
  );
}
