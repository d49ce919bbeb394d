import { expect, it } from "vitest";
import { DATE_STYLES, filledIn, writtenDay } from "./dates.ts";

it("writes a day as each style does by its example", () => {
  expect(DATE_STYLES.map((style) => writtenDay("2026-11-23", style))).toEqual([...DATE_STYLES]);
  expect(writtenDay("2026-03-05", "23 Nov 2026")).toBe("5 Mar 2026");
});

it("fills names into a text, and leaves those that are not known", () => {
  expect(filledIn("Dear {name}, {what}", { name: "Ashgrove $& Shop" })).toBe("Dear Ashgrove $& Shop, {what}");
});
