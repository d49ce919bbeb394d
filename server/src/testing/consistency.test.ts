import { type AnswerOf, routes } from "@yosegi/contract";
import { type Decimal, decimal, min, sum, ZERO } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { Chance } from "./chance.ts";
import { doSomething, startHistory } from "./history.ts";
import { TODAY, type World } from "./open.ts";
import { demoWorld } from "./world.ts";

const ACTS = 160;

type Item = AnswerOf<typeof routes.items>["items"][number];

type Order = AnswerOf<typeof routes.order>;

/** Every route's word on one figure of an item, by the route; all must be the same. */
type Told = Record<string, string>;

const total = (texts: readonly string[]): Decimal => sum(texts.map(decimal));

const plain = (amount: Decimal): string => amount.toFixed();

async function everything(world: World) {
  const { items } = await world.ok(routes.items, { query: { limit: 1000 } });
  const { rows } = await world.ok(routes.reorder);
  const { demands } = await world.ok(routes.openDemands);
  const { targets } = await world.ok(routes.recurring);
  const { orders } = await world.ok(routes.orders);
  const sheets = await Promise.all(
    orders.map((order) => world.ok(routes.order, { params: { id: order.id } })),
  );
  return { items, reorder: new Map(rows.map((row) => [row.id, row])), demands, targets, orders, sheets };
}

/** What a check of one of each product says of its parts, by part. */
async function checked(world: World, items: readonly Item[]) {
  const products = items.filter((item) => item.kind === "built" && item.hasList);
  const demands = products.map((item) => ({ item: item.id, quantity: "1" }));
  const { parts } = await world.ok(routes.cover, { body: { demands } });
  return new Map(parts.map((part) => [part.id, part]));
}

describe("one figure is the same by every route that shows it", () => {
  it.each([1, 2, 3, 4])(
    "after random work, seed %i",
    async (seed) => {
      const world = await demoWorld();
      const { items: catalog } = await world.ok(routes.items, { query: { limit: 1000 } });
      const kept = ["FRM-A", "HIVE-N", "FEED-12", "HON-4"];
      for (const item of catalog.filter(({ code }) => kept.includes(code)))
        await world.ok(routes.setStockTarget, {
          body: { product: item.id, target: "40", batch: "10" },
        });
      const history = await startHistory(world, new Chance(seed), () => TODAY, 3);
      for (let n = 0; n < ACTS; n++) await doSomething(history);
      expect([...history.statuses].filter(([status]) => status >= 500)).toEqual([]);

      const { items, reorder, demands, targets, orders, sheets } = await everything(world);
      const parts = await checked(world, items);
      for (const item of items.filter(
        ({ kind, notStockTracked }) => kind !== "kit" && kind !== "service" && !notStockTracked,
      )) {
        const chart = await world.ok(routes.partTimeline, { body: { demands: [], item: item.id } });
        const events = [...chart.days.flatMap((day) => day.events), ...chart.undated].map((e) => e.change);
        const sheet = await world.ok(routes.item, { params: { id: item.id } });
        const part = parts.get(item.id);
        const row = reorder.get(item.id);
        const minus = (change: string) => change.startsWith("-");
        const reserved: Told = {
          items: item.reserved,
          item: plain(total(sheet.reservedBy.map((r) => r.quantity))),
          chart: plain(ZERO.minus(total(events.filter(minus)))),
          ...(part && { check: part.reserved }),
        };
        const incoming: Told = {
          chart: plain(total(events.filter((e) => !minus(e)))),
          ...(part && { check: part.incomingTotal }),
          ...(row && { reorder: row.incoming }),
        };
        const free: Told = {
          items: item.free,
          item: sheet.free,
          ...(part && { check: part.free }),
          ...(row && { reorder: row.free }),
          ...Object.fromEntries(
            targets.filter((rule) => rule.product.id === item.id).map((rule) => ["target", rule.free]),
          ),
        };
        for (const [what, told] of Object.entries({ reserved, incoming, free }))
          expect({ item: item.code, what, told: new Set(Object.values(told)).size, by: told }).toMatchObject({
            told: 1,
          });
        const bought = total(
          chart.days
            .concat({ day: "", stock: "0", events: chart.undated })
            .flatMap((day) => day.events)
            .filter((e) => e.purchase !== null && !minus(e.change))
            .map((e) => e.change),
        );
        const made = decimal(incoming.chart ?? "0").minus(bought);
        const rule = targets.find(({ product }) => product.id === item.id);
        const open = demands.filter((d) => d.item === item.id && d.build !== null);
        const coming = plain(total(open.filter((d) => d.stage !== "draft").map((d) => d.quantity)));
        expect({ item: item.code, made: plain(made) }).toEqual({ item: item.code, made: coming });
        if (rule)
          expect([rule.coming, rule.planned]).toEqual([
            coming,
            plain(total(open.filter((d) => d.stage === "draft").map((d) => d.quantity))),
          ]);
      }
      ordersAgree(orders, sheets);
      buildsAgree((await world.ok(routes.builds)).builds, sheets, demands);
      const all = await world.ok(routes.cover, {
        body: {
          demands: demands
            .slice(0, 200)
            .map(({ code: _, name: __, number: ___, stage: ____, ...demand }) => demand),
        },
      });
      for (const part of all.parts)
        expect([part.code, decimal(part.leftOver).gt(0) && decimal(part.shortNow).gt(0)]).toEqual([
          part.code,
          false,
        ]);
      expect(await world.audit()).toEqual([]);
    },
    60_000,
  );
});

/** The list of orders says what each sheet says, and every figure of a sheet adds up. */
function ordersAgree(orders: AnswerOf<typeof routes.orders>["orders"], sheets: readonly Order[]): void {
  for (const [i, sheet] of sheets.entries()) {
    const { linesReady, linesMissing } = orders[i] ?? {};
    expect({ order: sheet.number, linesReady, linesMissing }).toEqual({
      order: sheet.number,
      linesReady: sheet.linesReady,
      linesMissing: sheet.linesMissing,
    });
    if (sheet.stage !== "open") continue;
    for (const take of sheet.orderLines.flatMap((line) => line.takes)) {
      expect(plain(total([take.ready, take.coming, take.missing]))).toBe(take.open);
      expect(decimal(take.planned).lte(take.missing)).toBe(true);
    }
  }
}

/** What orders say that a build has made and still gives them is what it has and can still give, as far as it is linked. */
function buildsAgree(
  builds: AnswerOf<typeof routes.builds>["builds"],
  sheets: readonly Order[],
  demands: AnswerOf<typeof routes.openDemands>["demands"],
): void {
  const shares = sheets
    .flatMap((sheet) => sheet.orderLines)
    .flatMap((line) => line.takes)
    .flatMap((take) => take.builds);
  for (const build of builds.filter(({ stage }) => stage === "queued" || stage === "on the bench")) {
    const own = shares.filter((share) => share.id === build.id);
    const rest = decimal(demands.find((d) => d.build === build.id)?.quantity ?? "0");
    const linked = total(build.orders.map((link) => link.quantity));
    const given = total(own.flatMap((share) => [share.made, share.coming]));
    const most = min(rest.plus(build.good), linked);
    expect({ build: build.number, given: plain(given) }).toEqual({ build: build.number, given: plain(most) });
    expect({ build: build.number, fits: total(own.map((share) => share.coming)).lte(rest) }).toEqual({
      build: build.number,
      fits: true,
    });
  }
}
