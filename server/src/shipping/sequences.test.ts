import { type AnswerOf, PLAIN_BUILD, PLAIN_ORDER_LINE, routes } from "@yosegi/contract";
import { type Decimal, decimal, sum } from "@yosegi/core";
import fc from "fast-check";
import { expect, it } from "vitest";
import { leaving, shipmentOf } from "../testing/ordering.ts";
import { demoWorld, finishOf, TODAY, type World } from "../testing/world.ts";

type Sheet = AnswerOf<typeof routes.order>;

type Step =
  | { do: "order"; codes: string[]; quantity: number }
  | { do: "ship" | "pieces"; which: number; line: number; quantity: number; others: boolean }
  | { do: "change"; which: number; quantity: number; price: number | null }
  | { do: "swap" | "close" | "reopen" | "cancel" | "build for"; which: number }
  | { do: "build"; quantity: number; rejected: number }
  | { do: "pick"; which: number; quantity: number; there: boolean; undo: boolean; end: boolean }
  | { do: "unpack" | "undo"; which: number };

const which = fc.nat({ max: 3 });
const quantity = fc.integer({ min: 1, max: 5 });

const step: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constant("order" as const),
      // A product, two kits that share a content, a kit with hidden contents, a lot, a serial, and work.
      codes: fc.subarray(["FEED-12", "KIT-TOOL", "KIT-CLUB", "KIT-CARE", "SYR-72", "SCL-E", "LAB-B"], {
        minLength: 1,
        maxLength: 3,
      }),
      quantity,
    }),
  },
  {
    weight: 6,
    arbitrary: fc.record({
      do: fc.constantFrom("ship" as const, "ship" as const, "pieces" as const),
      which,
      line: fc.nat({ max: 2 }),
      quantity,
      others: fc.boolean(),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constant("change" as const),
      which,
      quantity,
      price: fc.option(fc.integer({ min: 1, max: 9999 })),
    }),
  },
  {
    weight: 3,
    arbitrary: fc.record({
      do: fc.constantFrom(
        "swap" as const,
        "close" as const,
        "reopen" as const,
        "cancel" as const,
        "build for" as const,
      ),
      which,
    }),
  },
  fc.record({ do: fc.constant("build" as const), quantity, rejected: fc.nat({ max: 2 }) }),
  {
    weight: 5,
    arbitrary: fc.record({
      do: fc.constant("pick" as const),
      which,
      quantity,
      there: fc.boolean(),
      undo: fc.boolean(),
      end: fc.boolean(),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({ do: fc.constantFrom("undo" as const, "unpack" as const), which }),
  },
);

const sheetOf = (world: World, id: number) => world.ok(routes.order, { params: { id } });

/** A body that leaves an order as it is, but for what is said of a line. */
const bodyOf = (order: Sheet, change: (line: Sheet["orderLines"][number], at: number) => object) => ({
  customer: order.customer.id,
  due: order.due,
  lines: order.orderLines.map((line, at) => ({
    ...PLAIN_ORDER_LINE,
    id: line.id,
    item: line.item.id,
    quantity: line.quantity,
    price: line.set?.priceRule === "sum" ? null : line.price,
    ...change(line, at),
  })),
});

/** Does one step as far as the rules let it; gives the line that left, where one did. */
async function act(world: World, s: Step): Promise<number | null> {
  const { orders } = await world.ok(routes.orders, {});
  if (s.do === "order") {
    const { firms } = await world.ok(routes.firms, { query: { kind: "customer" } });
    const lines = s.codes.map(async (code) => ({
      ...PLAIN_ORDER_LINE,
      item: await world.idOf(code),
      quantity: code === "SCL-E" ? "1" : String(s.quantity),
      price: ["SYR-72", "SCL-E", "LAB-B"].includes(code) ? "3.33" : null,
    }));
    await world.ok(routes.newOrder, {
      body: { customer: firms[0]?.id ?? 0, lines: await Promise.all(lines) },
    });
    return null;
  }
  if (s.do === "build") {
    const product = await world.idOf("FEED-12");
    const made = await world.ok(routes.newBuild, {
      body: { ...PLAIN_BUILD, product, quantity: String(s.quantity + s.rejected) },
    });
    const params = { id: made.id };
    await world.call(routes.queueBuild, { params });
    const finish = finishOf(String(s.quantity), {
      lot: "AF-9",
      rejected: String(s.rejected),
      reason: "leaked",
    });
    await world.call(routes.finishBuild, { params, body: finish });
    return null;
  }
  if (s.do === "undo") {
    const { shipments } = await world.ok(routes.shipments, {});
    const shipment = shipments[s.which % Math.max(1, shipments.length)];
    if (shipment) await world.call(routes.undoShipment, { params: { id: shipment.id }, body: {} });
    return null;
  }
  if (s.do === "pick") {
    await fetchSome(world, s);
    return null;
  }
  const chosen = orders[s.which % Math.max(1, orders.length)];
  if (!chosen) return null;
  const params = { id: chosen.id };
  const order = await sheetOf(world, chosen.id);
  if (s.do === "ship" || s.do === "pieces") {
    const line = order.orderLines[s.line % order.orderLines.length];
    const pieces = (line?.takes ?? []).map(({ item }, i) => ({
      item: item.id,
      quantity: String((s.quantity + i) % 3),
    }));
    const left =
      s.do === "ship"
        ? leaving(line, s.quantity > 4 ? null : String(s.quantity))
        : leaving(line, "0", { pieces });
    const body = shipmentOf([left], { takeFromOthers: s.others });
    const { status } = await world.call(routes.shipOrder, { params, body });
    return status === 200 ? (line?.id ?? null) : null;
  }
  if (s.do === "change") {
    const price = s.price === null ? {} : { price: decimal(s.price).div(100).toFixed(2) };
    const body = bodyOf(order, (line, at) =>
      at === 0 ? { quantity: String(s.quantity), ...(line.set?.priceRule === "sum" ? {} : price) } : {},
    );
    await world.call(routes.changeOrder, { params, body });
  } else if (s.do === "swap") {
    const tool = await world.idOf("HTL-J");
    const body = bodyOf(order, ({ set }) =>
      set?.mayBeAddedTo
        ? {
            contents: [
              ...set.contents.map(({ of, item, quantity: n }) => ({ of, item: item.id, quantity: n })),
              { of: null, item: tool, quantity: "1" },
            ],
          }
        : {},
    );
    await world.call(routes.changeOrder, { params, body });
  } else if (s.do === "close") await world.call(routes.closeRest, { params, body: { lines: [] } });
  else if (s.do === "reopen") await world.call(routes.reopenRest, { params });
  else if (s.do === "cancel") await world.call(routes.cancelOrder, { params });
  else if (s.do === "unpack") await world.call(routes.unpackOrder, { params });
  else await world.call(routes.buildForOrder, { params, body: { lines: [] } });
  return null;
}

/** Goes on with a round, or starts one over all that can be picked: one fetch, or the undo of one. */
async function fetchSome(
  world: World,
  { which: at, quantity: some, there, undo, end }: Extract<Step, { do: "pick" }>,
): Promise<void> {
  const { picks, rounds } = await world.ok(routes.picks, {});
  const free = picks.slice(0, 2);
  const id =
    rounds[0]?.id ??
    (free.length === 0
      ? null
      : (
          await world.ok(routes.startRound, {
            body: { documents: free.map(({ kind, id: of }) => ({ kind, id: of })) },
          })
        ).id);
  if (id === null) return;
  const params = { id };
  const round = await world.ok(routes.pickRound, { params });
  const stop = round.stops[at % Math.max(1, round.stops.length)];
  const [last] = round.fetched;
  const done = async ({ status }: { status: number }) => expect(status).not.toBe(500);
  if (undo && last)
    await done(await world.call(routes.undoFetch, { params, body: { posting: last.posting } }));
  else if (stop) {
    const { location, bin, item, lot, serial } = stop;
    const body = { location, bin, item: item.id, lot, serial, quantity: serial ? "1" : String(some) };
    const counted = there ? { there: "0" } : {};
    await done(await world.call(routes.fetchPick, { params, body: { ...body, ...counted, day: TODAY } }));
  }
  if (end || !stop) await done(await world.call(routes.endRound, { params }));
}

const total = (amounts: readonly string[]): Decimal => sum(amounts.map(decimal));

/** What must hold at every moment. `left` is the line that left just now. */
async function check(world: World, left: number | null): Promise<void> {
  const { orders } = await world.ok(routes.orders, {});
  for (const { id } of orders) {
    const order = await sheetOf(world, id);
    const { shipments, revenue, margin } = await world.ok(routes.orderShipments, { params: { id } });
    const standing = shipments.filter((shipment) => shipment.undone === null);
    expect(total(standing.map((shipment) => shipment.revenue)).eq(revenue)).toBe(true);
    expect(total(standing.map((shipment) => shipment.margin)).eq(margin)).toBe(true);
    const lines = standing.flatMap((shipment) => shipment.shipped);
    for (const line of lines) {
      expect(total(line.components.map((own) => own.revenue)).eq(line.revenue)).toBe(true);
      expect(total(line.components.map((own) => own.margin)).eq(line.margin)).toBe(true);
    }
    for (const line of order.orderLines) {
      const own = lines.filter((one) => one.line === line.id);
      for (const { item, per, open, shipped, closed, packed } of line.takes) {
        expect(decimal(packed).gte(0) && decimal(packed).lte(open)).toBe(true);
        // ordered = shipped + open + closed
        expect(
          decimal(per)
            .times(line.quantity)
            .eq(total([open, shipped, closed])),
        ).toBe(true);
        const gone = own
          .flatMap((one) => one.components.filter((c) => c.item.id === item.id))
          .map((c) => c.quantity);
        expect(total(gone).eq(shipped)).toBe(true);
      }
      if (line.id === left && line.open === "0" && line.closed === "0")
        expect(total(own.map((one) => one.revenue)).toFixed(2)).toBe(line.total);
    }
    const [anyLeft, anyOpen] = [standing.length > 0, order.orderLines.some((line) => line.open !== "0")];
    const stage = anyOpen ? (anyLeft ? "part shipped" : "open") : anyLeft ? "shipped" : "cancelled";
    if (order.stage !== "cancelled") expect(order.stage).toBe(stage);
  }
  // No unit left twice: a serial is here, or with one customer.
  const serials = (await world.ok(routes.shipments, {})).shipments.filter(({ undone }) => undone === null);
  const sheets = await Promise.all(serials.map(({ id }) => world.ok(routes.shipment, { params: { id } })));
  const gone = sheets.flatMap(({ shipped }) =>
    shipped.flatMap((line) =>
      line.components.flatMap((own) => own.taken.flatMap(({ serial }) => serial || [])),
    ),
  );
  expect(new Set(gone).size).toBe(gone.length);
  expect(await world.audit()).toEqual([]);
}

it("adds up over any sequence of what is ordered, changed, built, picked, shipped in parts, closed and undone", async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 8, maxLength: 20 }), async (steps) => {
      const world = await demoWorld();
      for (const s of steps) await check(world, await act(world, s));
    }),
    { numRuns: 8 },
  );
}, 300_000);
