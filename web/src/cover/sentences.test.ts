import type {
  CoverAnswer,
  CoverOrder,
  DemandCoverAnswer,
  ExpectedAnswer,
  ItemBrief,
  PartCoverAnswer,
} from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { Format } from "../ui/index.ts";
import { beside, comingWords, demandWords, sentences } from "./sentences.ts";

const format = new Format("en-GB", { currency: "EUR", timeZone: "UTC", today: "2026-11-23" });
const brief: ItemBrief = {
  id: 1,
  code: "FEED-12",
  name: "Autumn feed",
  kind: "built",
  tracking: "lot",
  unit: "pc",
  decimals: 0,
  state: "active",
  notStockTracked: false,
  packs: [],
  thumbnail: null,
};
const part = (name: string, limiting: boolean, more: Partial<PartCoverAnswer> = {}): PartCoverAnswer => ({
  ...brief,
  name,
  limiting,
  bin: "",
  need: "1",
  stocked: true,
  onHand: "1",
  expired: "0",
  reserved: "0",
  free: "1",
  incoming: [],
  incomingTotal: "0",
  shortNow: "0",
  shortOnDay: "0",
  leftOver: "0",
  day: "2026-11-23",
  freshDay: null,
  orderBy: null,
  supplier: null,
  canBeBuilt: false,
  shortTogether: false,
  tooLate: [],
  reach: "1",
  reachInTime: "1",
  ...more,
});
const demand = (more: Partial<DemandCoverAnswer> = {}): DemandCoverAnswer => ({
  item: brief,
  wanted: "40",
  started: "40",
  filled: null,
  day: null,
  startDay: null,
  priority: 1,
  build: null,
  makesNow: "22",
  limiting: [],
  finish: null,
  unknown: [],
  finishedFree: "0",
  short: [],
  list: null,
  lists: [],
  options: [],
  substitutes: [],
  ...more,
});
const cover = (demands: DemandCoverAnswer[], more: Partial<CoverAnswer> = {}): CoverAnswer => ({
  demands,
  orders: [],
  builds: [],
  finish: null,
  spending: null,
  parts: [part("Feed label", true), part("Canister", false)],
  ...more,
});
const two = [part("Feed label", true), part("Canister", true)];
const order = (name: string, quantity: string, drafts: CoverOrder["onDrafts"] = []): CoverOrder => ({
  item: { ...brief, name },
  supplier: null,
  web: "",
  short: "9",
  quantity,
  price: null,
  pricePer: "",
  cost: null,
  onDrafts: drafts,
  orderBy: null,
  arrives: null,
  for: [],
});

describe("the answer to one product in words", () => {
  it.each([
    ["some", {}, {}, "22 of 40 can be made now.", "Feed label runs out first."],
    [
      "two parts at once",
      {},
      { parts: two },
      "22 of 40 can be made now.",
      "Feed label and Canister run out first.",
    ],
    ["none", { makesNow: "0" }, {}, "None of 40 can be made now.", "Feed label stops it."],
    [
      "none, for two reasons",
      { makesNow: "0" },
      { parts: two },
      "None of 40 can be made now.",
      "Feed label and Canister stop it.",
    ],
    ["just enough", { wanted: "22.0" }, {}, "You can make all 22 now – with no Feed label left over.", ""],
    ["plenty", { wanted: "5" }, {}, "All 5 can be made now. Up to 22, then Feed label runs out.", ""],
    ["no limit", { makesNow: null }, {}, "All 40 can be made now; no part limits the quantity.", ""],
    [
      "many",
      { wanted: "12000", makesNow: "1500.5" },
      {},
      "1,500.5 of 12,000 can be made now.",
      "Feed label runs out first.",
    ],
  ] as const)("%s", (_, asked, more, main, obstacle) => {
    expect(sentences(cover([demand(asked)], more as Partial<CoverAnswer>), format)).toMatchObject({
      main,
      obstacle,
    });
  });
  it.each([
    ["nothing is short", {}, {}, ""],
    [
      "what comes covers it",
      { short: [1] },
      { finish: "2026-12-08" },
      "All 40 by 8 Dec, with deliveries on order.",
    ],
    [
      "one order",
      { short: [1] },
      { finish: "2026-12-08", orders: [order("Feed label", "500")] },
      "All 40 by 8 Dec, if you order 500 pc of Feed label today.",
    ],
    [
      "late, two orders and a build",
      { short: [1], day: "2026-12-05", finish: "2026-12-08" },
      {
        finish: "2026-12-08",
        orders: [order("Feed label", "500"), order("Canister", "12")],
        builds: [
          {
            item: { ...brief, name: "Frame" },
            short: "30",
            quantity: "30",
            onDrafts: [],
            makesNow: null,
            finish: null,
            needed: null,
          },
        ],
      },
      "All 40 by 8 Dec, 3 days late, if you order 500 pc of Feed label and 12 pc of Canister today and build 30 pc of Frame first.",
    ],
    [
      "what stands on drafts already",
      { short: [1] },
      {
        finish: "2026-12-08",
        orders: [
          order("Feed label", "0", [{ document: "P-4", quantity: "500" }]),
          order("Canister", "8", [{ document: "P-4", quantity: "10" }]),
        ],
      },
      "All 40 by 8 Dec, if you order 8 pc of Canister today and place P-4.",
    ],
    [
      "more than can be named",
      { short: [1] },
      { finish: "2026-12-08", orders: [order("A", "1"), order("B", "1"), order("C", "1")] },
      "All 40 by 8 Dec, if you order 3 parts today.",
    ],
    [
      "unknown",
      { short: [7], unknown: [7] },
      { parts: [part("Care strip", true, { id: 7, day: null })] },
      "No date for the rest: Care strip has no supplier lead time, parts list or expected delivery.",
    ],
  ] as const)("says when: %s", (_, asked, more, when) => {
    expect(
      sentences(
        cover([demand(asked as Partial<DemandCoverAnswer>)], more as unknown as Partial<CoverAnswer>),
        format,
      ).when,
    ).toBe(when);
  });
  it("says which of several is late", () => {
    const late = { short: [1], day: "2026-12-05", finish: "2026-12-08" };
    const demands = [
      demand(late),
      demand({ ...late, day: "2026-12-07", build: { id: 4, number: "B-4" } }),
      demand({ short: [1], day: "2026-12-08", finish: "2026-12-08" }),
    ];
    expect(sentences(cover(demands, { finish: "2026-12-08" }), format).when).toBe(
      "Everything by 8 Dec (Autumn feed 3 days late, B-4 1 day late), with deliveries on order.",
    );
  });
  it("tells what is finished already, what it costs, and how much work it takes", () => {
    const expected: ExpectedAnswer = { work: [], cost: { total: "800", each: "20.4855", unknown: [] } };
    const told = (asked: Partial<DemandCoverAnswer>, more: Partial<ExpectedAnswer> = {}) =>
      beside(demand(asked), { ...expected, ...more }, format);
    expect(told({})).toBe("None in stock. Expected to cost €20.4855 each.");
    expect(told({ finishedFree: "1" })).toContain("1 pc more already in stock.");
    const work = [
      { name: "Bench work", quantity: "60", unit: "min" },
      { name: "Subcontractor", quantity: "1", unit: "job" },
    ];
    expect(told({ finishedFree: "8" }, { work })).toBe(
      "8 pc more already in stock. Expected to cost €20.4855 each. Takes 60 min of bench work and 1 job of subcontractor.",
    );
    expect(told({}, { cost: { total: "1", each: "1.0000", unknown: ["LBL-F"] } })).toContain(
      "Expected to cost €1.00 each (without LBL-F, no cost yet).",
    );
    expect(beside(demand({ item: { ...brief, kind: "kit" } }), undefined, format)).toBe("");
  });
});

describe("the answer to several products in words", () => {
  const whole = demand({ makesNow: "60" });
  const partly = demand({ makesNow: "22", short: [1], finish: "2026-12-01" });
  it("says how many can be made in full, and what is short only in the sum", () => {
    const words = (demands: DemandCoverAnswer[], parts: PartCoverAnswer[]) => {
      const { main, obstacle } = sentences(cover(demands, { parts }), format);
      return `${main} ${obstacle}`.trim();
    };
    expect(words([whole, whole], [])).toBe("All 2 can be made in full now.");
    expect(words([whole, partly], [part("Wax", true, { shortNow: "9", shortTogether: true })])).toBe(
      "1 of 2 can be made in full now. There's enough Wax for each on its own, but not for all of them together.",
    );
    expect(
      words([partly, partly], [part("Wax", true, { shortNow: "9" }), part("Bars", false, { shortNow: "2" })]),
    ).toBe("None of 2 can be made in full now. Wax and Bars are short.");
  });
  it("says of each how far it comes, and of a part what comes", () => {
    expect(
      [whole, partly, demand({ makesNow: null }), demand({ short: [1] })].map((d) => demandWords(d, format)),
    ).toEqual(["all now", "22 of 40 now · all by 1 Dec", "all now", "22 of 40 now · the rest: unknown"]);
    const coming = (day: string | null, overdue = false) => ({
      key: "line 1",
      document: "P-1",
      purchase: 1,
      build: null,
      quantity: "5",
      day,
      overdue,
    });
    const words = (...incoming: ReturnType<typeof coming>[]) =>
      comingWords(part("Wax", false, { incoming }), format);
    expect([
      words(),
      words(coming("2026-12-01")),
      words(coming("2026-11-20", true), coming(null)),
      words(coming(null)),
    ]).toEqual(["", "1 Dec", "late, 20 Nov and 1 more", "no date"]);
  });
});
