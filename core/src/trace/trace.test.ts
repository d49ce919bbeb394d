import { describe, expect, it } from "vitest";
import { endOf, isTracked, pieceKey, wentInto } from "./trace.ts";

const piece = (item: number, serial: string, lot = "") => ({ item, lot, serial });

describe("what went into what", () => {
  const known = [
    { posting: 7, ...piece(9, "H-1"), part: piece(3, "S-1") },
    { posting: 7, ...piece(9, "H-2"), part: piece(3, "S-2") },
    { posting: 7, ...piece(9, "H-2"), part: piece(5, "", "L-9") },
  ];
  it("is by number where the parts of a unit are known", () => {
    expect(wentInto(piece(3, "S-1"), piece(9, "H-1"), 7, known)).toBe(true);
    expect(wentInto(piece(3, "S-1"), piece(9, "H-2"), 7, known)).toBe(false);
  });
  it("is one unit for a lot that a rework took for that one", () => {
    expect(wentInto(piece(5, "", "L-9"), piece(9, "H-2"), 7, known)).toBe(true);
    expect(wentInto(piece(5, "", "L-9"), piece(9, "H-1"), 7, known)).toBe(false);
  });
  it("is each good unit of the finish for a lot, and for what is not known", () => {
    expect(wentInto(piece(4, "", "L-17"), piece(9, "H-2"), 7, known)).toBe(true);
    expect(wentInto(piece(3, "S-9"), piece(9, "H-2"), 7, known)).toBe(true);
    expect(wentInto(piece(3, "S-1"), piece(9, "H-2"), 8, known)).toBe(true);
  });
  it("goes on through builds only, and ends where nothing is tracked", () => {
    expect([endOf("used"), endOf("shipped"), endOf("bought")]).toEqual([
      null,
      "with a customer",
      "from a supplier",
    ]);
    expect([isTracked(piece(1, "")), isTracked(piece(1, "", "L"))]).toEqual([false, true]);
    expect(pieceKey(piece(1, "a"))).not.toBe(pieceKey(piece(1, "", "a")));
  });
});
