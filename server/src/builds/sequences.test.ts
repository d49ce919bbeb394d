import { routes } from "@yosegi/contract";
import { type Decimal, decimal, ZERO } from "@yosegi/core";
import fc from "fast-check";
import { expect, it } from "vitest";
import { takeIn } from "../testing/companies.ts";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, finishOf, usedOf } from "../testing/world.ts";

const PARTS = ["SYR-72", "THY-O", "CAN-12", "LBL-F", "SHEET-S"] as const;

type Step =
  | { do: "receive"; part: (typeof PARTS)[number]; quantity: number; cents: number }
  | { do: "queue"; quantity: number }
  | { do: "hand out"; which: number; some: boolean }
  | { do: "put back"; which: number }
  | {
      do: "finish";
      which: number;
      good: number;
      rejected: number;
      extra: number;
      closeRest: boolean;
      returnToStock: boolean;
      counted: number;
    }
  | { do: "split"; which: number; quantity: number }
  | { do: "undo"; which: number; all: boolean }
  | { do: "cancel"; which: number };

const which = fc.nat({ max: 7 });

const step: fc.Arbitrary<Step> = fc.oneof(
  fc.record({
    do: fc.constant("receive" as const),
    part: fc.constantFrom(...PARTS),
    quantity: fc.integer({ min: 1, max: 60 }),
    cents: fc.integer({ min: 0, max: 9999 }),
  }),
  {
    weight: 2,
    arbitrary: fc.record({ do: fc.constant("queue" as const), quantity: fc.integer({ min: 1, max: 30 }) }),
  },
  { weight: 2, arbitrary: fc.record({ do: fc.constant("hand out" as const), which, some: fc.boolean() }) },
  fc.record({ do: fc.constant("put back" as const), which }),
  {
    weight: 4,
    arbitrary: fc.record({
      do: fc.constant("finish" as const),
      which,
      good: fc.integer({ min: 0, max: 12 }),
      rejected: fc.integer({ min: 0, max: 2 }),
      extra: fc.integer({ min: -999, max: 999 }),
      closeRest: fc.boolean(),
      returnToStock: fc.boolean(),
      counted: fc.integer({ min: 0, max: 12 }),
    }),
  },
  fc.record({ do: fc.constant("split" as const), which, quantity: fc.integer({ min: 1, max: 9 }) }),
  { weight: 2, arbitrary: fc.record({ do: fc.constant("undo" as const), which, all: fc.boolean() }) },
  fc.record({ do: fc.constant("cancel" as const), which }),
);

const stateOf = async (world: World) => (await world.ok(routes.items, {})).items;

const totalOf = (items: Awaited<ReturnType<typeof stateOf>>): Decimal =>
  items.reduce((total, item) => total.plus(item.value), ZERO);

interface Played {
  world: World;
  builds: number[];
  labels: { store: string; bin: string };
}

/** By how much a finish changed the value of all stock: work and the like come in; without a good unit all is lost. */
async function gainOf({ world }: Played, id: number, at: number): Promise<Decimal> {
  const finish = (await world.ok(routes.build, { params: { id } })).finishes.at(at);
  if (!finish) throw new Error("a finish leaves its record");
  const { work, overhead, extra, subcontractor, parts } = finish.cost;
  const counted = await countedValue(
    world,
    finish.counts.length > 0 ? (finish.counts[0]?.reason ?? "") : null,
  );
  const gain =
    finish.good === "0" ? ZERO.minus(parts) : decimal(work).plus(overhead).plus(extra).plus(subcontractor);
  return gain.plus(counted);
}

async function countedValue(world: World, reason: string | null): Promise<Decimal> {
  if (reason === null) return ZERO;
  const { movements } = await world.ok(routes.movements, { query: { limit: 1000 } });
  const one = movements.find((m) => m.reason === reason);
  if (!one) throw new Error("a count leaves its movement");
  return one.from === "" ? decimal(one.value) : ZERO.minus(one.value);
}

let counts = 0;

/** Does one step; gives by how much it must have changed the value of all stock. */
async function act(played: Played, s: Step): Promise<Decimal> {
  const { world, builds, labels } = played;
  if (s.do === "receive") {
    const lots = s.part === "SYR-72" || s.part === "THY-O";
    const unitCost = decimal(`${s.cents}e-2`);
    await takeIn(world, await world.idOf(s.part), String(s.quantity), {
      unitCost: unitCost.toFixed(),
      store: "Yard",
      bin: "Y1-B",
      lot: lots ? "NEW-1" : "",
    });
    return unitCost.times(s.quantity);
  }
  if (s.do === "queue") {
    builds.push(await world.queued("FEED-12", String(s.quantity)));
    return ZERO;
  }
  const id = builds[s.which % Math.max(1, builds.length)];
  if (id === undefined) return ZERO;
  const params = { id };
  if (s.do === "hand out") {
    await world.call(routes.handOut, { params, body: { day: TODAY, some: s.some } });
    return ZERO;
  }
  if (s.do === "put back") {
    await world.call(routes.returnToStock, { params, body: { day: TODAY } });
    return ZERO;
  }
  if (s.do === "cancel") {
    await world.call(routes.cancelBuild, { params });
    return ZERO;
  }
  if (s.do === "split") {
    const { status, answer } = await world.call(routes.splitBuild, {
      params,
      body: { quantity: String(s.quantity) },
    });
    if (status === 200) builds.push(answer.id);
    return ZERO;
  }
  if (s.do === "undo") {
    const { finishes } = await world.ok(routes.build, { params });
    const open = finishes.flatMap((f, i) => (f.undone === null ? [i] : []));
    const gone = s.all ? open : open.slice(-1);
    const { status } = await world.call(routes.undoFinish, { params, body: { all: s.all } });
    if (status !== 200) return ZERO;
    const gains = await Promise.all(gone.map((at) => gainOf(played, id, at)));
    return ZERO.minus(gains.reduce((total, gain) => total.plus(gain), ZERO));
  }
  const plan = finishOf(String(s.good), {
    rejected: String(s.rejected),
    reason: "test",
    lot: "AF-9",
    closeRest: s.closeRest,
    returnToStock: s.returnToStock,
  });
  const preview = await world.call(routes.previewFinish, { params, body: plan });
  if (preview.status !== 200) return ZERO;
  const planned = decimal(preview.answer.lines[0]?.planned ?? "0").plus(`${s.extra}e-3`);
  const used = planned.lt(0) ? ZERO : planned;
  // Now and then a bin is counted on the way.
  const count = {
    item: await world.idOf("LBL-F"),
    ...labels,
    lot: "",
    serial: "",
    there: String(s.counted),
    cost: null,
    reason: `count ${counts++}`,
  };
  const body = {
    ...plan,
    lines: [usedOf(1, used.toFixed())],
    counts: s.counted > 9 ? [count] : [],
  };
  if ((await world.call(routes.finishBuild, { params, body })).status !== 200) return ZERO;
  return gainOf(played, id, -1);
}

/** What must hold at every moment: nothing below zero, and what is reserved is what open builds still have to take. */
async function check({ world, builds }: Played): Promise<void> {
  const items = await stateOf(world);
  expect(items.every((item) => decimal(item.onHand).gte(0) && decimal(item.value).gte(0))).toBe(true);
  const sheets = await Promise.all(builds.map((id) => world.ok(routes.build, { params: { id } })));
  for (const code of PARTS) {
    const lines = sheets.flatMap((build) => build.lines).filter((line) => line.item.code === code);
    const reserved = lines.reduce((total, line) => total.plus(line.open), ZERO);
    expect(items.find((item) => item.code === code)?.reserved, code).toBe(reserved.toFixed());
  }
  for (const build of sheets) {
    const open = build.stage === "queued" || build.stage === "on the bench";
    const bench = build.lines.some((line) => line.bench !== "0");
    if (!open) expect([build.number, bench]).toEqual([build.number, false]);
    if (build.stage === "queued") expect(bench).toBe(false);
  }
  expect(await world.audit()).toEqual([]);
}

it("keeps books, value and reservations right over any sequence of what is done with builds", async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 5, maxLength: 16 }), async (steps) => {
      const world = await demoWorld();
      const lying = (await world.ok(routes.item, { params: { id: await world.idOf("LBL-F") } }))
        .stockByBin[0];
      const played: Played = {
        world,
        builds: [],
        labels: { store: lying?.store ?? "", bin: lying?.bin ?? "" },
      };
      let value = totalOf(await stateOf(world));
      for (const s of steps) {
        value = value.plus(await act(played, s));
        expect(totalOf(await stateOf(world)).toFixed(4), JSON.stringify(s)).toBe(value.toFixed(4));
        await check(played);
      }
    }),
    { numRuns: 12 },
  );
}, 300_000);

const counted = {
  do: "finish" as const,
  which: 0,
  good: 1,
  rejected: 0,
  extra: 0,
  closeRest: false,
  returnToStock: false,
  counted: 10,
};

const COUNTED_TWICE_BETWEEN_HAND_OUTS: Step[] = [
  { ...counted, good: 7, rejected: 1 },
  { ...counted, counted: 12 },
  { do: "hand out", which: 0, some: false },
  { ...counted, rejected: 1, counted: 0 },
  { do: "hand out", which: 0, some: false },
];

const COUNTED_THEN_HANDED_OUT: Step[] = [
  counted,
  counted,
  { do: "hand out", which: 0, some: true },
  { do: "hand out", which: 0, some: false },
];

const openFinishes = async (world: World, id: number): Promise<number> =>
  (await world.ok(routes.build, { params: { id } })).finishes.filter((finish) => finish.undone === null)
    .length;

it("is back at the first state when all that was done is undone", async () => {
  const doing = fc.array(
    step.filter((s) => s.do === "hand out" || (s.do === "finish" && s.good > 0)),
    { minLength: 2, maxLength: 8 },
  );
  await fc.assert(
    fc.asyncProperty(doing, async (steps) => {
      const world = await demoWorld();
      const stock = async () =>
        (await stateOf(world)).map((item) => `${item.code} ${item.onHand} ${item.reserved} ${item.value}`);
      const first = await stock();
      const lying = (await world.ok(routes.item, { params: { id: await world.idOf("LBL-F") } }))
        .stockByBin[0];
      const id = await world.queued("FEED-12", "20");
      const queued = await stock();
      const played: Played = {
        world,
        builds: [id],
        labels: { store: lying?.store ?? "", bin: lying?.bin ?? "" },
      };
      // What is handed out is put back by a step of its own, not by a finish that closes the build.
      for (const s of steps)
        await act(played, s.do === "finish" ? { ...s, returnToStock: false, closeRest: false } : s);
      const undo = { params: { id }, body: { all: true } };
      const undone = await world.call(routes.undoFinish, undo);
      await world.call(routes.returnToStock, { params: { id }, body: { day: TODAY } });
      // Parts that a count had found may have been handed out since: then each finish is undone by itself, and what lies on
      // the bench goes back before the next.
      while (undone.status !== 200 && (await openFinishes(world, id)) > 0) {
        await world.ok(routes.undoFinish, { params: { id }, body: { all: false } });
        await world.call(routes.returnToStock, { params: { id }, body: { day: TODAY } });
      }
      expect(await stock()).toEqual(queued);
      await world.ok(routes.cancelBuild, { params: { id } });
      expect(await stock()).toEqual(first);
      expect(await world.audit()).toEqual([]);
    }),
    { numRuns: 8, examples: [[COUNTED_THEN_HANDED_OUT], [COUNTED_TWICE_BETWEEN_HAND_OUTS]] },
  );
}, 300_000);
