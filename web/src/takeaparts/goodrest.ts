import { decimal, max, ZERO } from "@yosegi/core";

const PLAIN = /^\d+(\.\d+)?$/;

/** What of the expected is good once so much is damaged and missing; null while a figure can't be read. */
export function goodRest(expected: string, damaged: string, missing: string): string | null {
  const figures = [expected, damaged || "0", missing || "0"];
  if (!figures.every((figure) => PLAIN.test(figure))) return null;
  const [all = ZERO, ...lost] = figures.map((figure) => decimal(figure));
  return max(
    ZERO,
    lost.reduce((rest, figure) => rest.minus(figure), all),
  ).toFixed();
}
