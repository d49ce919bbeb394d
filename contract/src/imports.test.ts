import {
  type Cells,
  type Decimal,
  decimal,
  firmCells,
  ITEM_KINDS,
  ITEM_STATES,
  itemCells,
  kitCells,
  listCells,
  PRICE_RULES,
  SWAPS,
  supplierCells,
  TRACKINGS,
} from "@yosegi/core";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { IMPORT_COLUMNS, NEEDED_COLUMNS } from "./importcolumns.ts";
import { firmsRow, itemsRow, kitsRow, partsListsRow, pricesRow } from "./importrows.ts";
import type { z } from "./zod.ts";

const text = fc.stringMatching(/^[A-Za-zÄöüé][A-Za-zÄöüé0-9 .&'-]{0,20}$/).map((t) => t.trim());

const maybe = fc.oneof(fc.constant(""), text);

const code = fc.stringMatching(/^[A-Z0-9][A-Z0-9._/+#-]{0,12}$/);

const amount = (decimals: number, least = 0) =>
  fc.integer({ min: least, max: 99_999_999 }).map((n) => decimal(`${n}e-${decimals}`));

const orNull = <T>(of: fc.Arbitrary<T>) => fc.oneof(fc.constant(null), of);

const days = orNull(fc.nat(9999));

const yes = fc.boolean();

/** Reads cells back as an import does, each as the text that a spreadsheet holds. */
const read = <S extends z.ZodType>(schema: S, cells: Cells): z.output<S> => schema.parse(cells);

/** Equal where amounts are equal, however they are written. */
const plain = (value: unknown) =>
  JSON.parse(
    JSON.stringify(value, (_, v) =>
      v !== null && typeof v === "object" && "toFixed" in v ? (v as Decimal).toFixed() : v,
    ),
  );

describe("what is written into a spreadsheet and read again is the same", () => {
  it("of items", () => {
    const item = fc.record({
      code,
      name: text,
      kind: fc.constantFrom(...ITEM_KINDS),
      unit: fc.constantFrom("pc", "kg", "mL"),
      tracking: fc.constantFrom(...TRACKINGS),
      group: maybe,
      barcode: maybe,
      store: maybe,
      bin: maybe,
      cost: orNull(amount(4)),
      costPer: maybe,
      price: orNull(amount(4)),
      pricePer: maybe,
      reorderLevel: orNull(amount(3)),
      taxRate: orNull(fc.integer({ min: 0, max: 100 }).map(decimal)),
      buildDays: days,
      shelfLife: days,
      warrantyMonths: days,
      maker: maybe,
      makerNumber: maybe,
      lotPattern: maybe,
      state: fc.constantFrom(...ITEM_STATES),
      notStockTracked: yes,
      notForSale: yes,
      alwaysBuild: yes,
      finishWhenShipped: yes,
      lotFixed: yes,
      notes: maybe,
      packs: fc.array(fc.record({ name: text, quantity: amount(0, 1) }), { maxLength: 3 }),
    });
    fc.assert(
      fc.property(item, (made) => {
        const cells = itemCells(made);
        expect(Object.keys(cells).sort()).toEqual([...IMPORT_COLUMNS.items].sort());
        expect(plain(read(itemsRow, cells))).toEqual(plain(made));
      }),
    );
  });
  it("of parts lists, line by line", () => {
    const line = fc.record({
      part: code,
      quantity: amount(3, 1),
      unit: fc.constantFrom("pc", "g"),
      waste: amount(2).map((w) => w.mod(100)),
      oncePerBuild: yes,
      optional: yes,
      drawnAt: fc.constantFrom("pick" as const, "finish" as const),
      store: maybe,
      note: maybe,
      share: orNull(fc.integer({ min: 0, max: 100 }).map(decimal)),
      person: maybe,
      substitutes: fc.array(fc.record({ item: code, quantity: amount(1, 1) }), { maxLength: 2 }),
    });
    const list = fc.record({
      product: code,
      list: maybe,
      makes: amount(0, 1),
      usual: amount(0, 1),
      overhead: amount(4),
      extra: amount(2),
      yield: fc.integer({ min: 1, max: 100 }).map(decimal),
      lines: fc.array(line, { minLength: 1, maxLength: 4 }),
    });
    fc.assert(
      fc.property(list, (made) => {
        const rows = listCells({ ...made, lines: made.lines.map((l) => ({ ...l, row: 0 })) });
        const back = rows.map((cells) => read(partsListsRow, cells));
        expect(Object.keys(rows[0] ?? {}).sort()).toEqual([...IMPORT_COLUMNS.partsLists].sort());
        const { lines, product, list: name, ...head } = made;
        const none = { makes: null, usual: null, overhead: null, extra: null, yield: null };
        expect(plain(back)).toEqual(
          plain(lines.map((l, i) => ({ ...l, ...(i === 0 ? head : none), product, list: name }))),
        );
      }),
    );
  });
  it("of kits, supplier prices and firms", () => {
    const content = fc.record({
      item: code,
      quantity: amount(0, 1),
      swap: fc.constantFrom(...SWAPS),
      swaps: fc.array(code, { maxLength: 3 }),
      quantityMayChange: yes,
      mayBeLeftOut: yes,
    });
    const kit = fc.record({
      kit: code,
      contentsShown: yes,
      mayBeAddedTo: yes,
      priceRule: fc.constantFrom(...PRICE_RULES),
      discount: fc.nat(100).map(decimal),
      contents: fc.array(content, { minLength: 1, maxLength: 3 }),
    });
    fc.assert(
      fc.property(kit, ({ contents, ...head }) => {
        const rows = kitCells({ ...head, contents: contents.map((c) => ({ ...c, row: 0 })) });
        const [first] = rows.map((cells) => read(kitsRow, cells));
        expect(plain(first)).toEqual(plain({ ...head, ...contents[0] }));
      }),
    );
    const asks = fc.record({
      item: code,
      supplier: code,
      theirCode: maybe,
      price: orNull(amount(4)),
      pricePer: maybe,
      leadDays: days,
      minimum: orNull(amount(2)),
      multiple: orNull(amount(2, 1)),
      preferred: yes,
      web: fc.constantFrom("", "https://norrfold.example/a?b=c"),
    });
    fc.assert(
      fc.property(asks, (made) => {
        expect(plain(read(pricesRow, supplierCells(made)))).toEqual(plain(made));
      }),
    );
    const firm = fc.record({
      code,
      name: text,
      address: maybe,
      contact: maybe,
      phone: maybe,
      terms: maybe,
      group: maybe,
      email: fc.constantFrom("", "orders@norrfold.example"),
    });
    fc.assert(
      fc.property(firm, (made) => {
        expect(read(firmsRow, firmCells(made))).toEqual(made);
      }),
    );
  });
});

it("names the needed columns among those of each file", () => {
  for (const [kind, needed] of Object.entries(NEEDED_COLUMNS))
    for (const column of needed)
      expect(IMPORT_COLUMNS[kind as keyof typeof IMPORT_COLUMNS]).toContain(column);
});

describe("a cell that cannot be read says how to write it", () => {
  const blank = Object.fromEntries(IMPORT_COLUMNS.items.map((column) => [column, ""]));
  const item: Cells = { ...blank, code: "A-1", name: "A", kind: "bought", unit: "pc" };
  it.each([
    ["packs", "box 200", /“box 200” is no pack/],
    ["packs", "box = 2 = 3", /is no pack/],
    ["build_days", "2.5", /whole number/],
    ["not_stock_tracked", "perhaps", /Write yes or no/],
    ["state", "gone", /The state is one of/],
    ["reorder_level", "-1", /cannot be below zero/],
  ])("%s: %s", (column, value, message) => {
    const parsed = itemsRow.safeParse({ ...item, [column]: value });
    expect(JSON.stringify(parsed.error?.issues)).toMatch(message);
  });
  it("takes yes and no in any case, and quantities of one left out", () => {
    const row = read(itemsRow, { ...item, not_stock_tracked: "Yes" });
    const part = { product: "A-1", part: "B-1", quantity: "1", unit: "pc", substitutes: "C-1; D-1 = 2" };
    const empty = Object.fromEntries(IMPORT_COLUMNS.partsLists.map((column) => [column, ""]));
    const line = read(partsListsRow, { ...empty, ...part });
    expect(row.notStockTracked).toBe(true);
    expect(line.substitutes.map((s) => `${s.item} ${s.quantity}`)).toEqual(["C-1 1", "D-1 2"]);
  });
});
