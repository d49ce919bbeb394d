import type { AnswerOf, routes } from "@yosegi/contract";
import type { Reading } from "../db/index.ts";
import { planTakeApart, type TakeApartInput } from "./plan.ts";

/** Where the value of a take-apart would land; records nothing. */
export async function previewTakeApart(
  ctx: Reading,
  body: TakeApartInput,
): Promise<AnswerOf<typeof routes.previewTakeApart>> {
  const { valueOut, recovery, work, charged } = await planTakeApart(ctx, body);
  return {
    valueOut: valueOut.toFixed(4),
    recovered: recovery.recovered.toFixed(4),
    damaged: recovery.damaged.toFixed(4),
    missing: recovery.missing.toFixed(4),
    workPutIn: recovery.workPutIn.toFixed(4),
    work: work.toFixed(4),
    charged: charged.toFixed(4),
    parts: recovery.parts.map(({ allotted, recovered }) => ({
      allotted: allotted.toFixed(4),
      recovered: recovered.toFixed(4),
    })),
  };
}
