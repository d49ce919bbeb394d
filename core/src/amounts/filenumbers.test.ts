import { describe, expect, it } from "vitest";
import { fileNumbers } from "./filenumbers.ts";

describe("how a file writes its numbers", () => {
  it.each([
    [["1.250,50", "2.000"], { decimal: "," }],
    [["0,012"], { decimal: "," }],
    [["1.5", "2.000"], { decimal: "." }],
    [["0.012", "12"], { decimal: "." }],
    [["1,234.5"], { decimal: "." }],
    [["1.250.000"], { decimal: "," }],
    [["12", "", "7"], { decimal: null }],
    [["2.000"], { decimal: "unclear", example: "2.000" }],
    [["1,250", "12"], { decimal: "unclear", example: "1,250" }],
    [["1.5", "2,5"], { decimal: "unclear", example: "2,5" }],
    [["1.2.3", "no number"], { decimal: null }],
  ] as const)("%j: %j", (cells, told) => {
    expect(fileNumbers(cells)).toEqual(told);
  });
});
