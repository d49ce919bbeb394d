import { expect, it } from "vitest";
import { decimal as d } from "../amounts/index.ts";
import { taxesOf } from "./tax.ts";

const taxes = (lines: [total: string, rate: string][], decimals = 2) =>
  taxesOf(
    lines.map(([total, rate]) => ({ total: d(total), taxRate: d(rate) })),
    decimals,
  ).map(({ rate, net, tax }) => `${rate.toFixed()} ${net.toFixed(decimals)} ${tax.toFixed(decimals)}`);

it("is rounded once for each rate, the highest first", () => {
  // Three times 0.33 at 20 % is 0.198, and not three times 0.07.
  expect(
    taxes([
      ["0.33", "20"],
      ["0.33", "20"],
      ["0.33", "20.0"],
      ["10.00", "10"],
    ]),
  ).toEqual(["20 0.99 0.20", "10 10.00 1.00"]);
  expect(taxes([["239.00", "0"]])).toEqual(["0 239.00 0.00"]);
  expect(taxes([["999", "7.5"]], 0)).toEqual(["7.5 999 75"]);
  expect(taxes([])).toEqual([]);
});
