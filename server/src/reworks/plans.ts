import { type AnswerOf, Refusal, type routes } from "@yosegi/contract";
import {
  type Decimal,
  divideRounded,
  divideUp,
  MONEY_DECIMALS,
  moneyFromScaled,
  moneyToScaled,
  quantityFromScaled,
  quantityToScaled,
} from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { reworkById, unitsOf } from "./rows.ts";
import { REWORK_PART, REWORK_PLAN, REWORK_PLAN_PART, REWORK_PLAN_STEP, REWORK_STEP } from "./tables.ts";

/** Saved starting points, by name. */
export async function listPlans(ctx: Reading): Promise<AnswerOf<typeof routes.reworkPlans>> {
  const plans = await ctx.sql.all<{ id: number; name: string; parts: number; steps: number }>(
    `SELECT p.id, p.name, (SELECT COUNT(*) FROM rework_plan_part x WHERE x.plan_id = p.id) AS parts,
            (SELECT COUNT(*) FROM rework_plan_step x WHERE x.plan_id = p.id) AS steps
       FROM rework_plan p ORDER BY p.name`,
    {},
  );
  return { plans };
}

/** Keeps the parts and steps of a rework, and for how many units they were, as a starting point for others. */
export async function savePlan(ctx: Writing, name: string, from: number): Promise<void> {
  await reworkById(ctx, from);
  if (await ctx.model(REWORK_PLAN).findOne({ where: { name } }))
    throw Refusal.at("name", "plan-name-used", { name });
  const [plan = 0] = await ctx.sql.insert(REWORK_PLAN, [
    { name, units: sumOfUnits(await unitsOf(ctx, from)) },
  ]);
  await ctx.sql.run(
    `INSERT INTO rework_plan_part (plan_id, line, item_id, text, quantity, value)
     SELECT $plan, ROW_NUMBER() OVER (ORDER BY p.id), p.item_id, p.text, p.quantity, CASE WHEN p.item_id IS NULL THEN p.value ELSE 0 END
       FROM rework_part p WHERE p.rework_id = $from`,
    { plan, from },
  );
  await ctx.sql.run(
    `INSERT INTO rework_plan_step (plan_id, line, what, person_id, supplier_id, service_id, planned)
     SELECT $plan, ROW_NUMBER() OVER (ORDER BY s.id), s.what, s.person_id, s.supplier_id, s.service_id, s.planned
       FROM rework_step s WHERE s.rework_id = $from`,
    { plan, from },
  );
}

export async function removePlan(ctx: Writing, id: number): Promise<void> {
  if (!(await ctx.model(REWORK_PLAN).findByPk(id)))
    throw new Refusal("not-found", { what: "starting point", id });
  await ctx.model(REWORK_PLAN_PART).destroy({ where: { plan_id: id } });
  await ctx.model(REWORK_PLAN_STEP).destroy({ where: { plan_id: id } });
  await ctx.model(REWORK_PLAN).destroy({ where: { id } });
}

const sumOfUnits = (units: readonly { quantity: number }[]): number =>
  units.reduce((all, { quantity }) => all + quantity, 0);

/**
 * Writes the parts and steps of a starting point into a new rework, as planned, for so many units: what it was saved with, in proportion;
 * quantities rounded up to what their unit allows.
 */
export async function beginFrom(ctx: Writing, rework: number, plan: number, units: Decimal): Promise<void> {
  const saved = (await ctx.model(REWORK_PLAN).findByPk(plan))?.get({ plain: true });
  if (!saved) throw Refusal.at("plan", "not-found", { what: "starting point", id: plan });
  const savedFor = quantityFromScaled(saved.units);
  const money = (value: number) =>
    moneyToScaled(divideRounded(moneyFromScaled(value).times(units), savedFor, MONEY_DECIMALS));
  const parts = await ctx.model(REWORK_PLAN_PART).findAll({ where: { plan_id: plan }, order: ["line"] });
  const items = parts.flatMap((part) => part.get({ plain: true }).item_id ?? []);
  const brief = await briefs(ctx, items);
  await ctx.sql.insert(
    REWORK_PART,
    parts.map((part) => {
      const { item_id, text, quantity: savedQuantity, value: savedValue } = part.get({ plain: true });
      const quantity =
        item_id === null
          ? savedQuantity
          : quantityToScaled(
              divideUp(quantityFromScaled(savedQuantity).times(units), savedFor, brief(item_id).decimals),
            );
      const value = money(savedValue);
      const none = { unit: null, step_id: null, location_id: null, posting_id: null, charge: null };
      return { rework_id: rework, ...none, item_id, text, quantity, lot: "", serial: "", bin: "", value };
    }),
  );
  const steps = await ctx.model(REWORK_PLAN_STEP).findAll({ where: { plan_id: plan }, order: ["line"] });
  await ctx.sql.insert(
    REWORK_STEP,
    steps.map((step) => {
      const { what, person_id, supplier_id, service_id, planned: savedCost } = step.get({ plain: true });
      const planned = money(savedCost);
      const none = { unit: null, purchase_id: null, due: null, hour: "", actual: null, charge: null };
      const state = "waiting" as const;
      return { rework_id: rework, ...none, what, person_id, supplier_id, service_id, planned, state };
    }),
  );
}
