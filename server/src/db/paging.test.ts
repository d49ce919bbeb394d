import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { pageOf } from "./paging.ts";

const rows = (count: number) =>
  Array.from({ length: count }, (_, i) => ({ id: i + 1, text: `Row ${i + 1}` }));
const textOf = (row: { text: string }) => row.text;

describe("pages of a list", () => {
  it("one after the other are the whole list, whatever their size", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 1, max: 20 }), (count, limit) => {
        const all = rows(count);
        const read: number[] = [];
        for (let after: string | undefined; ; ) {
          const page = pageOf(all, { search: "", after, limit }, textOf);
          expect(page.total).toBe(count);
          read.push(...page.rows.map((row) => row.id));
          if (page.next === null) break;
          after = page.next;
        }
        expect(read).toEqual(all.map((row) => row.id));
      }),
    );
  });
  it("begin after the last row though others came before it, and at its place where it is gone", () => {
    const { next } = pageOf(rows(6), { search: "", limit: 2 }, textOf);
    const grown = [{ id: 99, text: "new" }, ...rows(6)];
    expect(pageOf(grown, { search: "", after: next ?? "", limit: 2 }, textOf).rows.map((r) => r.id)).toEqual([
      3, 4,
    ]);
    const shrunk = rows(6).filter((row) => row.id !== 2);
    expect(pageOf(shrunk, { search: "", after: next ?? "", limit: 2 }, textOf).rows.map((r) => r.id)).toEqual(
      [3, 4],
    );
  });
  it("have every word of the search, without case or accents", () => {
    const page = pageOf(
      [
        { id: 1, text: "Café NORR" },
        { id: 2, text: "cafe" },
      ],
      { search: "norr cafe", limit: 9 },
      textOf,
    );
    expect([page.rows.map((row) => row.id), page.total, page.next]).toEqual([[1], 1, null]);
  });
});
