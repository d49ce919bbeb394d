import type { BuildSheet } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import {
  bodyOf,
  fitted,
  newDraft,
  PLAIN,
  partsInUnit,
  removeExtra,
  serialsNeeded,
  setLine,
  takeSubstitute,
  unitPart,
} from "./finishdraft.ts";

const item = (id: number, code: string) => ({
  id,
  code,
  name: code,
  kind: "bought" as const,
  tracking: "none" as const,
  unit: "pc",
  decimals: 0,
  state: "active" as const,
  notStockTracked: false,
  packs: [],
  thumbnail: null,
});
const choice = (code: string) => ({ code, quantity: "1", expiry: null, bench: false, store: "", bin: "" });
const build = {
  open: "4",
  store: "Front store",
  bin: "01-A",
  suggestedLot: "AF-1",
  suggestedExpiry: "2027-01-01",
  product: { ...item(9, "SET"), tracking: "serial" },
  lines: [
    { line: 1, item: item(1, "PART-1"), choices: [] },
    { line: 2, item: item(2, "SCALE"), choices: [choice("S-1"), choice("S-2"), choice("S-3")] },
  ],
} as unknown as BuildSheet;
const draft = newDraft(build, "2026-11-23");

describe("a finish in its form", () => {
  it("begins with all that is open, as planned, with the suggested lot", () => {
    expect(bodyOf(draft, build)).toMatchObject({
      good: "4",
      rejected: "0",
      lines: [],
      extra: [],
      lot: "AF-1",
      expiry: "2027-01-01",
      day: "2026-11-23",
    });
  });
  it("sends only lines of which something is said, and lets one follow the plan again", () => {
    const scrapped = setLine(draft, 1, { scrapped: "1", reason: "torn" }, "8");
    expect(bodyOf(scrapped, build).lines).toEqual([
      { line: 1, used: null, scrapped: "1", reason: "torn", only: [] },
    ]);
    const changed = setLine(draft, 1, { used: "9" }, "8");
    expect(changed.lines.get(1)?.used).toBe("9");
    expect(setLine(changed, 1, { used: "8" }, "8").lines.size).toBe(0);
  });
  it("takes a substitute by its factor for all that is planned, and gives it back", () => {
    const taken = takeSubstitute(draft, 1, { item: item(3, "OTHER"), factor: "1.3", free: "99" }, "8");
    expect(taken.lines.get(1)?.used).toBe("0");
    expect(bodyOf(taken, build).extra).toEqual([
      { item: 3, insteadOf: 1, used: "11", scrapped: "0", reason: "", only: [] },
    ]);
    expect(removeExtra(taken, 0)).toMatchObject({ extra: [], lines: new Map() });
    const added = { ...draft, extra: [{ ...PLAIN, item: item(3, "OTHER"), insteadOf: null, used: "1" }] };
    expect(removeExtra(added, 0).extra).toEqual([]);
  });
  it("takes chosen part serials first, the others in the suggested order", () => {
    const chosen = {
      ...draft,
      serials: ["H-1", "H-2"],
      parts: new Map([
        [unitPart(1, 2, 0), "S-3"],
        [unitPart(0, 2, 0), ""],
      ]),
    };
    const body = bodyOf(chosen, build);
    expect(body.serialParts).toEqual([{ serial: "H-2", item: 2, part: "S-3" }]);
    expect(body.lines).toEqual([
      { line: 2, used: null, scrapped: "0", reason: "", only: ["S-3", "S-1", "S-2"] },
    ]);
  });
  it("needs as many serial numbers as good units", () => {
    expect([serialsNeeded(build, "3"), serialsNeeded(build, "x"), serialsNeeded(build, "1.5")]).toEqual([
      3,
      null,
      null,
    ]);
    expect(serialsNeeded({ product: { ...build.product, tracking: "lot" } }, "3")).toBeNull();
    const scales = (need: string) => ({ need }) as BuildSheet["lines"][number];
    expect([
      partsInUnit(scales("8"), { quantity: "4" }),
      partsInUnit(scales("0"), { quantity: "4" }),
    ]).toEqual([2, 1]);
    expect(fitted(["a", "b", "c"], 2)).toEqual(["a", "b"]);
    expect(fitted(["a"], 3)).toEqual(["a", "", ""]);
  });
});
