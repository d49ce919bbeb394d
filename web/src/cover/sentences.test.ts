import type { CoverAnswer, PartCheckAnswer } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { Format } from "../ui/index.ts";
import { sentences } from "./sentences.ts";

const format = new Format("en-GB", { currency: "EUR", timeZone: "UTC", today: "2026-11-23" });
const brief = {
  id: 1,
  code: "FEED-12",
  name: "Autumn feed",
  kind: "built",
  tracking: "lot",
  unit: "pc",
  decimals: 0,
  state: "active",
  notCounted: false,
  packs: [] as { name: string; quantity: string }[],
  thumbnail: null,
} as const;
const part = (name: string, limiting: boolean): PartCheckAnswer => ({
  ...brief,
  ...{
    name,
    limiting,
    bin: "",
    need: "1",
    onHand: "1",
    expired: "0",
    reserved: "0",
    reservedBy: [],
    free: "1",
  },
  ...{ short: "0", reach: "1", canBeBuilt: false, stocked: true },
});
const cover = (change: Partial<CoverAnswer>): CoverAnswer => ({
  product: brief,
  wanted: "40",
  started: "40",
  makesNow: "22",
  limiting: [],
  finishedFree: "0",
  parts: [part("Feed label", true), part("Canister", false)],
  work: [],
  cost: { total: "800", each: "20.4855", unknown: [] },
  ...change,
});
const two = [part("Feed label", true), part("Canister", true)];

describe("the answer in words", () => {
  it.each([
    ["some", {}, "22 of 40 can be made now.", "Feed label runs out first."],
    [
      "two parts at once",
      { parts: two },
      "22 of 40 can be made now.",
      "Feed label and Canister run out first.",
    ],
    ["none", { makesNow: "0" }, "None of 40 can be made now.", "Feed label stops it."],
    [
      "none, for two reasons",
      { makesNow: "0", parts: two },
      "None of 40 can be made now.",
      "Feed label and Canister stop it.",
    ],
    [
      "just enough",
      { wanted: "22" },
      "All 22 can be made now. Not one more: Feed label is used up then.",
      "",
    ],
    [
      "just enough, written otherwise",
      { wanted: "22.0" },
      "All 22 can be made now. Not one more: Feed label is used up then.",
      "",
    ],
    ["plenty", { wanted: "5" }, "All 5 can be made now. Up to 22; then Feed label runs out.", ""],
    ["no limit", { makesNow: null }, "All 40 can be made now, and any other number: no part limits it.", ""],
    [
      "many",
      { wanted: "12000", makesNow: "1500.5" },
      "1,500.5 of 12,000 can be made now.",
      "Feed label runs out first.",
    ],
  ])("%s", (_, change, main, obstacle) => {
    expect(sentences(cover(change), format)).toMatchObject({ main, obstacle });
  });
  it("tells what is finished already, what it costs, and how much work it takes", () => {
    const beside = (change: Partial<CoverAnswer>) => sentences(cover(change), format).beside;
    expect(beside({})).toBe("No finished ones are free. Expected to cost €20.4855 each.");
    expect(beside({ finishedFree: "-2" })).toContain("No finished ones are free.");
    expect(beside({ finishedFree: "1" })).toContain("1 pc finished is free besides.");
    const work = [
      { name: "Bench work", quantity: "60", unit: "min" },
      { name: "Outside workshop", quantity: "1", unit: "job" },
    ];
    expect(beside({ finishedFree: "8", work })).toBe(
      "8 pc finished are free besides. Expected to cost €20.4855 each. Takes 60 min of bench work and 1 job of outside workshop.",
    );
    expect(beside({ cost: { total: "1", each: "1.0000", unknown: ["LBL-F"] } })).toContain(
      "Expected to cost €1.00 each, without LBL-F: no cost yet.",
    );
  });
});
