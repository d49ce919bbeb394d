import { decimal, type Rate, rateOf, SHIPPED_UNITS, type Unit } from "../amounts/index.ts";
import type { FullLine, ListLine, PartsList } from "../lists/index.ts";

/** FEED-12 of docs/rules.md § 2, by the ids its parts have in the tests. */
export const SYRUP = 1;

export const THYMOL = 2;

export const CAN = 3;

export const LABEL = 4;

export const SHEET = 5;

export const WORK = 6;

/** The shipped units by their code. */
export const UNITS = new Map(SHIPPED_UNITS.map((unit) => [unit.code, unit]));

export function unitOf(code: string): Unit {
  const unit = SHIPPED_UNITS.find((u) => u.code === code);
  if (!unit) throw new Error(`no unit ${code}`);
  return unit;
}

export function line(
  item: number,
  quantity: string,
  unit: string,
  more: Partial<ListLine> & { stock?: string } = {},
): ListLine {
  const { stock, ...rest } = more;
  return {
    item,
    quantity: decimal(quantity),
    unit: unitOf(unit),
    stockUnit: unitOf(stock ?? unit),
    waste: decimal(0),
    oncePerBuild: false,
    service: false,
    stocked: true,
    ...rest,
  };
}

/** A list that makes one at a time, all of it good. */
export const list = (lines: readonly ListLine[], more: Partial<PartsList> = {}): PartsList => ({
  makes: decimal(1),
  usual: decimal(1),
  overhead: decimal(0),
  extra: decimal(0),
  yield: decimal(100),
  decimals: 0,
  lines,
  ...more,
});

/** A line with nothing more said of it than its figures. */
export const full = (line: ListLine, more: Partial<FullLine> = {}): FullLine => ({
  ...line,
  optional: false,
  drawnAt: "pick",
  store: null,
  note: "",
  share: null,
  person: null,
  substitutes: [],
  ...more,
});

export const FEED: PartsList = {
  makes: decimal(8),
  usual: decimal(20),
  overhead: decimal("0.15"),
  extra: decimal(0),
  yield: decimal(100),
  decimals: 0,
  lines: [
    line(SYRUP, "98", "L", { waste: decimal(2) }),
    line(THYMOL, "40", "mL", { stock: "L" }),
    line(CAN, "8", "pc"),
    line(LABEL, "8", "pc", { waste: decimal(5) }),
    line(SHEET, "1", "pc", { oncePerBuild: true }),
    line(WORK, "12", "min", { stock: "hour", service: true, stocked: false }),
  ],
};

export const FEED_COSTS: Record<number, Rate> = {
  [SYRUP]: rateOf(decimal("1.35")),
  [THYMOL]: rateOf(decimal("88")),
  [CAN]: rateOf(decimal("2.10")),
  [LABEL]: rateOf(decimal("0.12")),
  [SHEET]: rateOf(decimal("0.05")),
  [WORK]: rateOf(decimal("32")),
};
