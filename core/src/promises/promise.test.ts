import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { quantityToScaled } from "../amounts/index.ts";
import { type SupplyFigures, supply } from "../testing/cover.ts";
import { list, line as part } from "../testing/scenario.ts";
import { type ComponentAsk, type LineAsk, type PromiseSupply, promiseLines } from "./promise.ts";
import { compareTurns } from "./turn.ts";

const TODAY = "2026-11-23";
const [BOX, FRAME, HIVE, TOOL] = [1, 2, 11, 21];
const WHOLE = 1_000_000;

const ask = (item: number, open: number, builds: ComponentAsk["builds"] = [], made = 0): ComponentAsk => ({
  item,
  open: open * WHOLE,
  shipped: 0,
  made: made * WHOLE,
  coming: builds.reduce((n, build) => n + build.coming, 0),
  builds,
});
const build = (key: string, coming: number, day: string | null) => ({ key, coming: coming * WHOLE, day });
const lineOf = (line: number, components: ComponentAsk[], due: string | null = null): LineAsk => ({
  line,
  due,
  components,
});

const hive = list([part(BOX, "2", "pc"), part(FRAME, "20", "pc")]);

type Figures = Record<number, SupplyFigures>;

/** What there is of items; nothing of those that are not named. */
function supplied(figures: Figures) {
  return (item: number): PromiseSupply => {
    const { stock, ...rest } = supply(figures[item] ?? {});
    return {
      ...rest,
      usable: quantityToScaled(stock.onHand),
      reservedByBuilds: quantityToScaled(stock.reserved),
    };
  };
}

const days = (lines: LineAsk[], figures: Figures) =>
  promiseLines(lines, supplied(figures), TODAY).map(({ day }) => day);

describe("the promise day of a line (docs/rules.md § 11)", () => {
  it("is today where all is in stock for it, and for work", () => {
    expect(days([lineOf(1, [ask(TOOL, 4)]), lineOf(2, [])], { [TOOL]: { onHand: "4" } })).toEqual([
      TODAY,
      TODAY,
    ]);
  });
  it("is the day of its own build, then of what comes for nobody, then of a fresh order", () => {
    const figures: Figures = {
      [TOOL]: { onHand: "3", incoming: [["P-2", "5", "2026-12-01"]], offer: { leadDays: 12 } },
    };
    const own = lineOf(1, [ask(TOOL, 5, [build("build 7", 2, "2026-11-30")])]);
    expect(days([own, lineOf(2, [ask(TOOL, 5)]), lineOf(3, [ask(TOOL, 1)])], figures)).toEqual([
      "2026-11-30",
      "2026-12-01",
      "2026-12-05",
    ]);
  });
  it("counts what is overdue as today, and is unknown where no day is known or nobody supplies it", () => {
    const late = lineOf(1, [ask(TOOL, 1, [build("build 7", 1, "2026-11-01")])]);
    const undated = lineOf(2, [ask(TOOL, 1, [build("build 8", 1, null)])]);
    expect(days([late, undated, lineOf(3, [ask(TOOL, 1)])], {})).toEqual([TODAY, null, null]);
  });
  it("takes a build ordered today, whose parts come from what earlier lines leave", () => {
    const recipe = { list: hive, buildDays: 2 };
    const figures: Figures = {
      [HIVE]: { onHand: "12", recipe },
      [BOX]: { onHand: "60", offer: { leadDays: 9 } },
      [FRAME]: { onHand: "700", offer: { leadDays: 4 } },
    };
    const [first, second, third] = promiseLines(
      [lineOf(1, [ask(HIVE, 40)]), lineOf(2, [ask(HIVE, 5)]), lineOf(3, [ask(BOX, 1)])],
      supplied(figures),
      TODAY,
    );
    // 12 of 40 in stock, 28 to be built from 56 boxes and 560 frames: there.
    expect(first?.components[0]?.uncovered.toFixed()).toBe("28");
    expect(first?.day).toBe("2026-11-25");
    // A box that is ordered as it is goes off stock before any build: 3 are left of 10, and of 140 frames 100 are needed.
    expect(second?.day).toBe("2026-12-04");
    expect(third?.day).toBe(TODAY);
  });
  it("is that of the latest component, and says what each waits for", () => {
    const [set] = promiseLines(
      [lineOf(1, [ask(TOOL, 4), ask(BOX, 8)], "2026-11-30")],
      supplied({ [TOOL]: { onHand: "9" }, [BOX]: { onHand: "7", offer: { leadDays: 9 } } }),
      TODAY,
    );
    expect(set?.components.map(({ day, uncovered }) => [day, uncovered.toFixed()])).toEqual([
      [TODAY, "0"],
      ["2026-12-02", "1"],
    ]);
    expect(set?.day).toBe("2026-12-02");
  });
  it("moves for nobody whose turn came before where the same things are asked for", () => {
    const quantity = fc.integer({ min: 1, max: 30 });
    fc.assert(
      fc.property(
        fc.array(quantity, { minLength: 1, maxLength: 6 }),
        quantity,
        fc.nat(60),
        (open, more, stock) => {
          const figures: Figures = {
            [TOOL]: { onHand: `${stock}`, incoming: [["P-2", "9", "2026-12-01"]], offer: { leadDays: 12 } },
          };
          const lines = open.map((n, i) => lineOf(i, [ask(TOOL, n)]));
          const before = days(lines, figures);
          const after = days([...lines, lineOf(99, [ask(TOOL, more)])], figures);
          expect(after.slice(0, -1)).toEqual(before);
          // One turn: nobody who comes later can leave before.
          expect([...after].sort()).toEqual(after);
        },
      ),
    );
  });
});

it("serves orders by precedence, wanted date and number", () => {
  const turn = (order: number, due: string | null, precedence: number | null = null) => ({
    order,
    due,
    precedence,
  });
  const turns = [
    turn(1, null),
    turn(2, "2026-12-09"),
    turn(3, "2026-12-01"),
    turn(4, "2026-12-09", 2),
    turn(5, null, 1),
  ];
  turns.push(turn(6, "2026-12-01"));
  expect(turns.sort(compareTurns).map(({ order }) => order)).toEqual([5, 4, 3, 6, 2, 1]);
});
