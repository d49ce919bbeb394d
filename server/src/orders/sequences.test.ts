import { PLAIN_BUILD, routes } from "@yosegi/contract";
import { decimal, sum } from "@yosegi/core";
import fc from "fast-check";
import { expect, it } from "vitest";
import type { World } from "../testing/open.ts";
import { demoWorld, finishOf } from "../testing/world.ts";

type Step =
  | { do: "order"; code: string; quantity: number; due: number }
  | { do: "change"; which: number; quantity: number }
  | { do: "build for"; which: number }
  | { do: "build"; quantity: number }
  | { do: "link" | "unlink"; which: number; order: number; quantity: number | null }
  | { do: "queue" | "cancel build" | "cancel order" | "join"; which: number }
  | { do: "finish" | "split" | "swap" | "precede"; which: number; quantity: number }
  | { do: "quote"; code: string; quantity: number }
  | { do: "order the quote"; which: number }
  | { do: "undo"; which: number };

const which = fc.nat({ max: 5 });

const quantity = fc.integer({ min: 1, max: 14 });

const step: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 3,
    arbitrary: fc.record({
      do: fc.constant("order" as const),
      // A product, and two kits that share a content.
      code: fc.constantFrom("FEED-12", "KIT-TOOL", "KIT-CLUB"),
      quantity,
      due: fc.integer({ min: 1, max: 9 }),
    }),
  },
  fc.record({ do: fc.constant("change" as const), which, quantity }),
  { weight: 2, arbitrary: fc.record({ do: fc.constant("build for" as const), which }) },
  fc.record({ do: fc.constant("build" as const), quantity }),
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constantFrom("link" as const, "unlink" as const),
      which,
      order: which,
      quantity: fc.option(quantity),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constantFrom(
        "queue" as const,
        "cancel build" as const,
        "cancel order" as const,
        "join" as const,
      ),
      which,
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({ do: fc.constantFrom("finish" as const, "split" as const), which, quantity }),
  },
  fc.record({ do: fc.constant("undo" as const), which }),
  {
    weight: 2,
    arbitrary: fc.record({ do: fc.constantFrom("swap" as const, "precede" as const), which, quantity }),
  },
  fc.record({ do: fc.constant("quote" as const), code: fc.constantFrom("FEED-12", "KIT-CLUB"), quantity }),
  fc.record({ do: fc.constant("order the quote" as const), which }),
);

/** Does one step as far as the rules let it. */
async function act(world: World, s: Step): Promise<void> {
  const { orders } = await world.ok(routes.orders, {});
  const { builds } = await world.ok(routes.builds, {});
  const [order, build] =
    "which" in s
      ? [orders[s.which % Math.max(1, orders.length)], builds[s.which % Math.max(1, builds.length)]]
      : [];
  const product = await world.idOf("FEED-12");
  const { firms } = await world.ok(routes.firms, { query: { kind: "customer" } });
  const bodyOf = (item: number, count: number, id: number | null, due: string) => ({
    customer: firms[0]?.id ?? 0,
    due,
    reference: "",
    note: "",
    lines: [{ id, item, quantity: String(count), price: null }],
  });
  if (s.do === "order") {
    const body = bodyOf(await world.idOf(s.code), s.quantity, null, `2026-12-0${s.due}`);
    await world.ok(routes.newOrder, { body });
  } else if (s.do === "quote") {
    const body = bodyOf(await world.idOf(s.code), s.quantity, null, "2026-12-03");
    await world.ok(routes.newOrder, { body: { ...body, validUntil: "2026-12-20" } });
  } else if (s.do === "order the quote" && order) {
    await world.call(routes.orderQuote, { params: { id: order.id }, body: {} });
  } else if (s.do === "precede" && order) {
    const { version } = await world.ok(routes.order, { params: { id: order.id } });
    const precedence = s.quantity > 3 ? null : s.quantity;
    await world.call(routes.setPrecedence, { params: { id: order.id }, version, body: { precedence } });
  } else if (s.do === "swap" && order) {
    await swap(world, order.id, s.quantity);
  } else if (s.do === "build") {
    await world.ok(routes.newBuild, { body: { ...PLAIN_BUILD, product, quantity: String(s.quantity) } });
  } else if (s.do === "build for" && order) {
    await world.call(routes.buildForOrder, { params: { id: order.id }, body: { lines: [] } });
  } else if (s.do === "cancel order" && order) {
    await world.call(routes.cancelOrder, { params: { id: order.id } });
  } else if (s.do === "change" && order) {
    const [line] = (await world.ok(routes.order, { params: { id: order.id } })).orderLines;
    const body = bodyOf(line?.item.id ?? 0, s.quantity, line?.id ?? null, "2026-12-05");
    await world.call(routes.changeOrder, { params: { id: order.id }, body });
  } else if (build) {
    const params = { id: build.id };
    if (s.do === "link" || s.do === "unlink") {
      const other = orders[s.order % Math.max(1, orders.length)];
      const lines = other ? (await world.ok(routes.order, { params: { id: other.id } })).orderLines : [];
      const line = lines[0]?.id ?? 0;
      const wanted = s.quantity === null ? null : String(s.quantity);
      if (s.do === "link") await world.call(routes.linkOrder, { params, body: { line, quantity: wanted } });
      else await world.call(routes.unlinkOrder, { params, body: { line } });
    } else if (s.do === "queue") await world.call(routes.queueBuild, { params });
    else if (s.do === "cancel build") await world.call(routes.cancelBuild, { params });
    else if (s.do === "split")
      await world.call(routes.splitBuild, { params, body: { quantity: String(s.quantity) } });
    else if (s.do === "join") {
      const other = builds.find((b) => b.id !== build.id && b.stage === "draft");
      if (other) await world.call(routes.joinBuilds, { params, body: { other: other.id } });
    } else if (s.do === "finish")
      await world.call(routes.finishBuild, { params, body: finishOf(String(s.quantity), { lot: "AF-9" }) });
    else if (s.do === "undo") await world.call(routes.undoFinish, { params, body: { all: false } });
  }
}

/** Changes what is in the first set of an order: another quantity of its first content, or a hive tool more. */
async function swap(world: World, id: number, quantity: number): Promise<void> {
  const sheet = await world.ok(routes.order, { params: { id } });
  const [line] = sheet.orderLines;
  if (!line?.set) return;
  const [first, ...others] = line.set.contents.map(({ of, item, quantity: had }) => ({
    of,
    item: item.id,
    quantity: had,
  }));
  if (!first) return;
  const tool = { of: null, item: await world.idOf("HTL-J"), quantity: "1" };
  const contents =
    quantity % 2 === 0
      ? [{ ...first, quantity: String(quantity) }, ...others]
      : [first, ...others.filter((one) => one.item !== tool.item), tool];
  await world.call(routes.changeOrder, {
    params: { id },
    version: sheet.version,
    body: {
      customer: sheet.customer.id,
      due: sheet.due,
      validUntil: sheet.stage === "quote" ? sheet.validUntil : null,
      lines: [{ id: line.id, item: line.item.id, quantity: line.quantity, contents }],
    },
  });
}

/** What must hold at every moment. */
async function check(world: World): Promise<void> {
  const { orders } = await world.ok(routes.orders, {});
  const sheets = await Promise.all(
    orders.map((order) => world.ok(routes.order, { params: { id: order.id } })),
  );
  const ordered = sheets.filter((sheet) => sheet.stage !== "quote");
  const takes = ordered.flatMap((sheet) => sheet.orderLines.flatMap((line) => line.takes));
  const { items } = await world.ok(routes.items, {});
  for (const kit of items.filter((item) => item.kind === "kit"))
    expect([kit.onHand, kit.reserved], kit.code).toEqual(["0", "0"]);
  for (const sheet of sheets) {
    const row = orders.find((order) => order.id === sheet.id);
    expect([row?.stage, row?.linesReady, row?.linesMissing]).toEqual([
      sheet.stage,
      sheet.linesReady,
      sheet.linesMissing,
    ]);
  }
  for (const take of sheets.flatMap((sheet) => sheet.orderLines.flatMap((line) => line.takes))) {
    const { open, ready, coming, missing } = take;
    expect(decimal(ready).plus(coming).plus(missing).toFixed()).toBe(open);
    expect([ready, coming, missing].every((figure) => decimal(figure).gte(0))).toBe(true);
  }
  for (const id of new Set(takes.map((take) => take.item.id))) {
    const own = takes.filter((take) => take.item.id === id);
    const item = items.find((i) => i.id === id);
    const [ready, open] = [sum(own.map((t) => decimal(t.ready))), sum(own.map((t) => decimal(t.open)))];
    // No unit is promised twice, and none lies idle while an order asks for it.
    const there = decimal(item?.free ?? "0").plus(open);
    const most = there.lt(0) ? decimal(0) : there;
    expect(ready.toFixed(), item?.code).toBe((most.lt(open) ? most : open).toFixed());
  }
  for (const build of (await world.ok(routes.builds, {})).builds) {
    const linked = sum(build.orders.map((link) => decimal(link.quantity)));
    const shared = takes.flatMap((t) => t.builds.filter((b) => b.id === build.id));
    const gives = sum(shared.map((b) => decimal(b.made).plus(b.coming)));
    expect(gives.lte(linked), build.number).toBe(true);
  }
  expect(await world.audit()).toEqual([]);
}

it("promises no unit twice over any sequence of what is done with orders and the builds for them", async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 6, maxLength: 18 }), async (steps) => {
      const world = await demoWorld();
      for (const s of steps) {
        await act(world, s);
        await check(world);
      }
    }),
    { numRuns: 10 },
  );
}, 300_000);
