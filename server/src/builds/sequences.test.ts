import { routes } from "@yosegi/contract";
import { type Decimal, decimal, ZERO } from "@yosegi/core";
import fc from "fast-check";
import { expect, it } from "vitest";
import { demoWorld, finishOf, TODAY, type World } from "../testing/world.ts";

const PARTS = ["SYR-72", "THY-O", "CAN-12", "LBL-F", "SHEET-S"] as const;

type Step =
  | { do: "receive"; part: (typeof PARTS)[number]; quantity: number; cents: number }
  | { do: "queue"; quantity: number }
  | { do: "finish"; which: number; good: number; rejected: number; extra: number; closeRest: boolean }
  | { do: "cancel"; which: number };

const step: fc.Arbitrary<Step> = fc.oneof(
  fc.record({
    do: fc.constant("receive" as const),
    part: fc.constantFrom(...PARTS),
    quantity: fc.integer({ min: 1, max: 60 }),
    cents: fc.integer({ min: 0, max: 9999 }),
  }),
  fc.record({ do: fc.constant("queue" as const), quantity: fc.integer({ min: 1, max: 30 }) }),
  fc.record({
    do: fc.constant("finish" as const),
    which: fc.nat(),
    good: fc.integer({ min: 0, max: 12 }),
    rejected: fc.integer({ min: 0, max: 2 }),
    extra: fc.integer({ min: 0, max: 999 }),
    closeRest: fc.boolean(),
  }),
  fc.record({ do: fc.constant("cancel" as const), which: fc.nat() }),
);

async function stockValue(world: World): Promise<Decimal> {
  const { items } = await world.ok(routes.items, {});
  return items.reduce((total, item) => total.plus(item.value), ZERO);
}

/** Does one step; gives by how much it must have changed the value of all stock. */
async function act(world: World, builds: number[], s: Step): Promise<Decimal> {
  if (s.do === "receive") {
    const lots = s.part === "SYR-72" || s.part === "THY-O";
    const body = {
      ...{ item: await world.idOf(s.part), quantity: String(s.quantity), unitCost: `${s.cents}e-2` },
      ...{
        store: "Yard",
        bin: "Y1-B",
        lot: lots ? "NEW-1" : "",
        expiry: null,
        serial: "",
        day: TODAY,
        reason: "",
      },
    };
    const unitCost = decimal(`${s.cents}e-2`);
    await world.ok(routes.receive, { body: { ...body, unitCost: unitCost.toFixed() } });
    return unitCost.times(s.quantity);
  }
  if (s.do === "queue") {
    builds.push(await world.queued("FEED-12", String(s.quantity)));
    return ZERO;
  }
  const id = builds[s.which % Math.max(1, builds.length)];
  if (id === undefined) return ZERO;
  if (s.do === "cancel") {
    await world.call(routes.cancelBuild, { params: { id } });
    return ZERO;
  }
  const plan = { good: String(s.good), rejected: String(s.rejected), day: TODAY };
  const preview = await world.call(routes.previewFinish, { params: { id }, body: { ...plan, lines: [] } });
  const planned = preview.status === 200 ? preview.answer.lines[0]?.planned : "0";
  const used = decimal(planned ?? "0")
    .plus(`${s.extra}e-3`)
    .toFixed();
  const body = finishOf(plan.good, {
    ...{ rejected: plan.rejected, reason: "test", lot: "AF-9", closeRest: s.closeRest },
    lines: [{ line: 1, used }],
  });
  if ((await world.call(routes.finishBuild, { params: { id }, body })).status !== 200) return ZERO;
  const cost = (await world.ok(routes.build, { params: { id } })).finishes.at(-1)?.cost;
  if (!cost) throw new Error("a finish leaves its record");
  // The product takes over what its parts carried, and gains work and overhead; without a good unit all is lost.
  return s.good > 0 ? decimal(cost.work).plus(cost.overhead) : ZERO.minus(cost.parts);
}

it("keeps books, value and reservations right over any sequence of receipts, builds, finishes and cancellations", async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 14 }), async (steps) => {
      const world = await demoWorld();
      const builds: number[] = [];
      let value = await stockValue(world);
      for (const s of steps) {
        value = value.plus(await act(world, builds, s));
        expect((await stockValue(world)).toFixed(4)).toBe(value.toFixed(4));
      }
      const { items } = await world.ok(routes.items, {});
      expect(items.every((item) => decimal(item.onHand).gte(0))).toBe(true);
      const open = await Promise.all(builds.map((id) => world.ok(routes.build, { params: { id } })));
      for (const code of PARTS) {
        const lines = open.flatMap((build) => build.lines).filter((line) => line.item.code === code);
        const reserved = lines.reduce((total, line) => total.plus(line.open), ZERO);
        expect(items.find((item) => item.code === code)?.reserved, code).toBe(reserved.toFixed());
      }
      expect(await world.audit()).toEqual([]);
    }),
    { numRuns: 12 },
  );
}, 180_000);
