import type { AnswerOf, routes } from "@yosegi/contract";
import { sum } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { moneyOf, planReturn, type ReturnInput } from "./plan.ts";

/** What a return would be credited and carry; records nothing. */
export async function previewReturn(
  ctx: Reading,
  body: ReturnInput,
): Promise<AnswerOf<typeof routes.previewReturn>> {
  const { lines } = await planReturn(ctx, body);
  return {
    ...moneyOf(ctx, lines, { fee: body.fee }, false),
    value: sum(lines.map(({ value }) => value)).toFixed(4),
    lines: lines.map(({ value, credit }) => ({
      value: value.toFixed(4),
      credit: credit.toFixed(ctx.currencyDecimals),
    })),
  };
}
