import { Refusal, type ReworkPart, type ReworkStep } from "@yosegi/contract";
import { decimal, moneyToScaled, quantityToScaled } from "@yosegi/core";
import type { Writing } from "../db/index.ts";
import { openRework } from "./rows.ts";
import { reworkSheet } from "./sheet.ts";
import { REWORK, REWORK_PART, REWORK_STEP } from "./tables.ts";

/** Notes that the customer agreed to what the rework costs them, which then stays, or that they did not. */
export async function agreeRework(ctx: Writing, id: number, agreed: boolean): Promise<void> {
  const { number, customer_id } = await openRework(ctx, id);
  if (customer_id === null) throw new Refusal("rework-no-customer", { number });
  if (agreed) await fixCharges(ctx, id);
  else await releaseCharges(ctx, id);
  await ctx
    .model(REWORK)
    .update(
      agreed ? { agreed_by: ctx.person.id, agreed_at: ctx.moment } : { agreed_by: null, agreed_at: null },
      { where: { id } },
    );
}

/** Keeps what the customer pays for each line, and its tax rate: neither follows prices, costs and rates from now on. */
export async function fixCharges(ctx: Writing, id: number): Promise<void> {
  const { parts, steps } = await reworkSheet(ctx, id);
  const fixed = ({
    id: line,
    charge,
    taxRate,
  }: Pick<ReworkPart | ReworkStep, "id" | "charge" | "taxRate">) => ({
    id: line,
    fixed_charge: moneyToScaled(decimal(charge)),
    fixed_tax: quantityToScaled(decimal(taxRate)),
  });
  await ctx.sql.update(REWORK_PART, ["id"], parts.map(fixed));
  await ctx.sql.update(REWORK_STEP, ["id"], steps.map(fixed));
}

/** Lets what the customer pays follow prices, costs and rates again. */
export async function releaseCharges(ctx: Writing, id: number): Promise<void> {
  const none = { fixed_charge: null, fixed_tax: null };
  await ctx.model(REWORK_PART).update(none, { where: { rework_id: id } });
  await ctx.model(REWORK_STEP).update(none, { where: { rework_id: id } });
}
