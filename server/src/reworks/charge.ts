import type { ReworkPart, ReworkSheet, ReworkStep } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { taxAnswer } from "../orders/index.ts";

/** The tax on what a customer pays for lines of a rework, and what they come to with it (docs/rules.md § 12). */
export const taxOn = (
  ctx: Reading,
  lines: readonly Pick<ReworkPart | ReworkStep, "charge" | "taxRate">[],
): Pick<ReworkSheet, "taxes" | "gross"> =>
  taxAnswer(
    ctx,
    lines.map(({ charge, taxRate }) => ({ total: decimal(charge), taxRate: decimal(taxRate) })),
  );
