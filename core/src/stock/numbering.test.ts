import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { lotNumber, lotPatternFault, renumber, serialAfter, serialFaults, serialRun } from "./numbering.ts";

const none = () => false;

const of =
  (...used: string[]) =>
  (serial: string) =>
    used.includes(serial);

describe("a run of serial numbers (docs/rules.md § 8)", () => {
  it("counts up the last group of digits and keeps its width", () => {
    expect(serialRun("H-0098", 3, none)).toEqual({ serials: ["H-0098", "H-0099", "H-0100"], skipped: [] });
    expect(serialRun("A9-9b", 2, none)?.serials).toEqual(["A9-9b", "A9-10b"]);
    expect(serialAfter("H-0999")).toBe("H-1000");
    expect(serialAfter("none")).toBeNull();
  });
  it("skips used numbers and says so", () => {
    expect(serialRun("H-0098", 2, of("H-0099", "H-0500"))).toEqual({
      serials: ["H-0098", "H-0100"],
      skipped: ["H-0099"],
    });
  });
  it("cannot begin where there is nothing to count, and counts far", () => {
    expect(serialRun("hive", 2, none)).toBeNull();
    expect(serialRun("99999999999999999999", 2, none)?.serials[1]).toBe("100000000000000000000");
  });
});

describe("serial numbers given together", () => {
  it("are faulty where missing, given before, or used", () => {
    expect(serialFaults(["H-1", "", "H-1", "H-7"], of("H-7"))).toEqual([null, "missing", "repeated", "used"]);
  });
  it("are renumbered where faulty, and only there", () => {
    expect(renumber(["H-1", "", "H-1", "H-7"], of("H-2", "H-7"))).toEqual(["H-1", "H-3", "H-4", "H-5"]);
    expect(renumber(["", "X-5", "X-5"], none)).toEqual(["X-6", "X-5", "X-7"]);
    expect(renumber(["", "x"], none)).toEqual(["", "x"]);
  });
  it("are all right and distinct once renumbered, whatever was given, and what was right stays", () => {
    const serial = fc.oneof(
      fc.constant(""),
      fc.nat(12).map((n) => `H-${n}`),
    );
    fc.assert(
      fc.property(
        fc.array(serial, { maxLength: 9 }),
        fc.uniqueArray(fc.nat(12), { maxLength: 6 }),
        (given, taken) => {
          const used = of(...taken.map((n) => `H-${n}`));
          const after = renumber(given, used);
          const before = serialFaults(given, used);
          for (const [i, fault] of before.entries()) if (fault === null) expect(after[i]).toBe(given[i]);
          if (given.some((text) => text !== ""))
            expect(serialFaults(after, used).every((f) => f === null)).toBe(true);
        },
      ),
    );
  });
});

describe("a lot number from its pattern", () => {
  it("has the parts of its day, and the first number that is free", () => {
    expect(lotNumber("AF-{yy}{month}-{number}", "2026-11-05", none)).toBe("AF-2611-1");
    expect(lotNumber("AF-{yy}{month}-{number}", "2026-11-05", of("AF-2611-1", "AF-2611-2"))).toBe(
      "AF-2611-3",
    );
    expect(lotNumber("{year}/{day}", "2026-11-05", of("2026/05"))).toBe("2026/05");
  });
  it("has no other words in braces", () => {
    expect([lotPatternFault("{yy}-{number}"), lotPatternFault("{week}"), lotPatternFault("plain")]).toEqual([
      null,
      "week",
      null,
    ]);
  });
});
