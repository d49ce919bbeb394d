import type { BuildRow } from "@yosegi/contract";
import { expect, it } from "vitest";
import { lastDayOf, overdueBefore, weeksFrom } from "./calendar.ts";

const build = (id: number, due: string | null) => ({ id, due }) as BuildRow;
const builds = [
  build(1, "2026-11-25"),
  build(2, "2026-11-25"),
  build(3, "2026-12-06"),
  build(4, "2026-11-22"),
  build(5, null),
];

it("shows whole weeks from Monday on, builds on their day", () => {
  const weeks = weeksFrom("2026-11-25", 2, builds);
  expect([weeks[0]?.[0]?.day, weeks[1]?.[6]?.day]).toEqual(["2026-11-23", "2026-12-06"]);
  const due = weeks.flat().map(({ day, due }) => `${day} ${due.map((b) => b.id)}`);
  expect(due.filter((text) => !text.endsWith(" "))).toEqual(["2026-11-25 1,2", "2026-12-06 3"]);
});

it("says how far it reaches, and what was due before it", () => {
  expect(lastDayOf("2026-11-25", 2)).toBe("2026-12-06");
  expect(overdueBefore("2026-11-25", builds).map((b) => b.id)).toEqual([4]);
});
