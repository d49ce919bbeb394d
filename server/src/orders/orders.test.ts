import { type AnswerOf, type OrderBody, PLAIN_BUILD, PLAIN_ORDER_LINE, routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { TODAY, type World } from "../testing/open.ts";
import { bareWorld, demoWorld, fieldsOf, finishOf } from "../testing/world.ts";

type Sheet = AnswerOf<typeof routes.order>;

type Lines = [code: string, quantity: string][];

/** A body by item codes, for the customer named. */
async function bodyOf(world: World, lines: Lines, change: Partial<OrderBody> = {}): Promise<OrderBody> {
  const { firms } = await world.ok(routes.firms, { query: { kind: "customer" } });
  const customer = firms.find((firm) => firm.name === "Tarnholt Bee Club");
  if (!customer) throw new Error("the demo has this customer");
  const asked = lines.map(async ([code, quantity]) => {
    const item = await world.idOf(code);
    return { ...PLAIN_ORDER_LINE, item, quantity };
  });
  return {
    customer: customer.id,
    due: null,
    reference: "",
    address: "",
    terms: "",
    costTag: "",
    goOn: false,
    note: "",
    validUntil: null,
    texts: [],
    lines: await Promise.all(asked),
    ...change,
  };
}

const taken = async (world: World, lines: Lines, change: Partial<OrderBody> = {}): Promise<Sheet> =>
  world.ok(routes.newOrder, { body: await bodyOf(world, lines, change) });

const again = (world: World, { id }: { id: number }): Promise<Sheet> =>
  world.ok(routes.order, { params: { id } });

/** "ready coming missing" of what each line takes. */
const standing = (order: Sheet): string[] =>
  order.orderLines.flatMap((line) =>
    line.takes.map((t) => `${t.item.code} ${t.ready} ${t.coming} ${t.missing}`),
  );

const reserved = async (world: World, code: string): Promise<string> => {
  const { items } = await world.ok(routes.items, { query: { search: code } });
  return items.find((item) => item.code === code)?.reserved ?? "";
};

/** The first line of an order. */
const lineOf = (order: Sheet): number => order.orderLines[0]?.id ?? 0;

const build = (world: World, id: number) => world.ok(routes.build, { params: { id } });

describe("a customer's order", () => {
  it("reserves what it asks for, tells its worth, and is found by its number", async () => {
    const world = await demoWorld();
    const order = await taken(world, [
      ["SMK-S", "3"],
      ["LAB-B", "0.5"],
    ]);
    expect(order).toMatchObject({ number: "O-1", stage: "open", lines: 2, linesReady: 2, linesMissing: 0 });
    expect(order.orderLines.map((line) => [line.price, line.total, line.ready])).toEqual([
      ["27.90", "83.70", "3"],
      [null, null, "0.5"],
    ]);
    expect(order.total).toBeNull();
    expect(await reserved(world, "SMK-S")).toBe("3");
    const sheet = await world.ok(routes.item, { params: { id: await world.idOf("SMK-S") } });
    expect(sheet.reservedBy).toEqual([{ build: null, order: order.id, number: "O-1", quantity: "3" }]);
    const { hits } = await world.ok(routes.find, { query: { text: "o-1" } });
    expect(hits[0]).toMatchObject({ kind: "order", id: order.id, detail: "Tarnholt Bee Club" });
    const customer = await world.ok(routes.firm, { params: { id: order.customer.id } });
    expect(customer.orders).toEqual([{ id: order.id, number: "O-1", stage: "open", due: null, lines: 2 }]);
    expect(await world.ok(routes.waiting, {})).toMatchObject({
      orders: 1,
      ordersOverdue: 0,
      ordersMissing: 0,
    });
  });

  it("takes the contents of a kit as they are when it is ordered, and keeps them", async () => {
    const world = await demoWorld();
    const order = await taken(world, [["KIT-CARE", "2"]]);
    expect(order.orderLines[0]?.takes.map((t) => `${t.item.code} ${t.open}`)).toEqual([
      "STRIP-T 8",
      "TRAY-D 2",
      "SYRG-5 2",
      "CARD-C 2",
    ]);
    const more = await bodyOf(world, [["KIT-CARE", "3"]]);
    const [line] = more.lines;
    if (!line) throw new Error("the body has a line");
    const body = { ...more, lines: [{ ...line, id: lineOf(order) }] };
    const changed = await world.ok(routes.changeOrder, { params: { id: order.id }, body });
    expect(lineOf(changed)).toBe(lineOf(order));
    expect(await reserved(world, "STRIP-T")).toBe("12");
    await world.ok(routes.cancelOrder, { params: { id: order.id } });
    expect(await reserved(world, "STRIP-T")).toBe("0");
    expect(await world.audit()).toEqual([]);
  });

  it("counts in the check, in what is free and in the reorder view", async () => {
    const world = await demoWorld();
    const feed = await world.idOf("FEED-12");
    const before = await world.check(feed, "20");
    expect(before.demand.makesNow).toBe("31");
    await taken(world, [["LBL-F", "34"]], { due: TODAY });
    const after = await world.check(feed, "20");
    expect(after.demand.makesNow).toBe("0");
    expect(after.parts.find((part) => part.code === "LBL-F")).toMatchObject({ reserved: "34", free: "-1" });
    const { rows } = await world.ok(routes.reorder, { query: {} });
    expect(rows.some((row) => row.code === "LBL-F")).toBe(true);
    const timeline = await world.ok(routes.partTimeline, {
      body: { demands: [{ item: feed, quantity: "1" }], item: await world.idOf("LBL-F") },
    });
    expect(timeline.days[0]?.events).toContainEqual(
      expect.objectContaining({ document: "O-1", build: null, change: "-34" }),
    );
  });

  it("is refused at the field: customer, item, decimals, and what has ended", async () => {
    const world = await demoWorld();
    const body = await bodyOf(world, [["SMK-S", "1.5"]]);
    expect(fieldsOf((await world.call(routes.newOrder, { body })).error)).toEqual([
      "lines.0.quantity decimals",
    ]);
    const nobody = await bodyOf(world, [["SMK-S", "1"]], { customer: 999_999 });
    expect(fieldsOf((await world.call(routes.newOrder, { body: nobody })).error)).toEqual([
      "customer not-found",
    ]);
    const item = await world.idOf("SMK-S");
    const ghost = { ...body, lines: [{ id: null, item: 999_999, quantity: "1", price: null }] };
    expect(fieldsOf((await world.call(routes.newOrder, { body: ghost })).error)).toEqual([
      "lines.0.item not-found",
    ]);
    expect((await world.call(routes.newOrder, { body: { ...body, lines: [] } })).status).toBe(400);
    const order = await taken(world, [["SMK-S", "1"]]);
    const other = { ...body, lines: [{ id: 999_999, item, quantity: "1", price: null }] };
    const params = { id: order.id };
    expect(fieldsOf((await world.call(routes.changeOrder, { params, body: other })).error)).toEqual([
      "lines.0.item not-found",
    ]);
    await world.ok(routes.cancelOrder, { params });
    expect((await world.call(routes.cancelOrder, { params })).error.code).toBe("order-ended");
    const fine = await bodyOf(world, [["SMK-S", "2"]]);
    expect((await world.call(routes.changeOrder, { params, body: fine })).error.code).toBe("order-ended");
  });

  it("keeps its items: none of them is removed, archived or told in another unit", async () => {
    const world = await demoWorld();
    const kit = await world.ok(routes.newOrder, { body: await bodyOf(world, [["KIT-TOOL", "1"]]) });
    const id = await world.idOf("KIT-TOOL");
    expect((await world.ok(routes.item, { params: { id } })).inUse).toBe("customers’ orders");
    expect((await world.call(routes.removeItem, { params: { id } })).error.code).toBe("item-used");
    await world.ok(routes.cancelOrder, { params: { id: kit.id } });
  });

  it("has nothing to show in a new database", async () => {
    const world = await bareWorld();
    expect((await world.ok(routes.orders, {})).orders).toEqual([]);
    expect((await world.call(routes.order, { params: { id: 1 } })).status).toBe(404);
  });
});

describe("stock and builds for orders", () => {
  it("serves orders in turn by due day, and says what is missing", async () => {
    const world = await demoWorld();
    const { onHand } = await world.ok(routes.item, { params: { id: await world.idOf("HTL-J") } });
    const all = Number(onHand);
    const late = await taken(world, [["HTL-J", String(all)]]);
    expect(standing(late)).toEqual([`HTL-J ${all} 0 0`]);
    const early = await taken(world, [["HTL-J", "5"]], { due: TODAY });
    expect(standing(early)).toEqual(["HTL-J 5 0 0"]);
    expect(standing(await again(world, late))).toEqual([`HTL-J ${all - 5} 0 5`]);
    const { orders } = await world.ok(routes.orders, {});
    expect(orders.map((o) => [o.number, o.linesReady, o.linesMissing])).toEqual([
      ["O-2", 1, 0],
      ["O-1", 0, 1],
    ]);
  });

  it("makes the builds that are missing in one press, due with the order and linked to it", async () => {
    const world = await demoWorld();
    const due = "2026-12-20";
    const order = await taken(world, [["FEED-12", "20"]], { due });
    expect(standing(order)).toEqual(["FEED-12 0 0 20"]);
    const { builds } = await world.ok(routes.buildForOrder, {
      params: { id: order.id },
      body: { lines: [] },
    });
    expect(builds.map((b) => [b.product.code, b.quantity, b.due, b.stage])).toEqual([
      ["FEED-12", "20", due, "draft"],
    ]);
    const [made] = builds;
    if (!made) throw new Error("a build was made");
    expect(made.orders).toMatchObject([
      { number: "O-1", quantity: "20", customer: { name: "Tarnholt Bee Club" } },
    ]);
    // A draft is nothing that comes yet: it is planned, and not made again.
    const planned = await again(world, order);
    expect([standing(planned), planned.orderLines[0]?.takes[0]?.planned]).toEqual([["FEED-12 0 0 20"], "20"]);
    const more = await world.call(routes.buildForOrder, { params: { id: order.id }, body: { lines: [] } });
    expect(more.error.code).toBe("order-builds-none");

    // Half is finished and there; the other half is still coming, and all of it is the order's.
    await world.ok(routes.queueBuild, { params: { id: made.id } });
    expect(standing(await again(world, order))).toEqual(["FEED-12 0 20 0"]);
    const half = finishOf("12", { lot: "AF-1" });
    await world.ok(routes.finishBuild, { params: { id: made.id }, body: half });
    expect(standing(await again(world, order))).toEqual(["FEED-12 12 8 0"]);
    const earlier = await taken(world, [["FEED-12", "12"]], { due: TODAY });
    expect(standing(earlier)).toEqual(["FEED-12 0 0 12"]);
    // What is given up is missing again.
    await world.ok(routes.cancelBuild, { params: { id: made.id } });
    expect(standing(await again(world, order))).toEqual(["FEED-12 12 0 8"]);
    expect(await world.audit()).toEqual([]);
  });

  it("makes builds once where two people press at the same moment", async () => {
    const world = await demoWorld();
    const { id } = await taken(world, [["FEED-12", "20"]]);
    const press = (person: number) =>
      world.call(routes.buildForOrder, { params: { id }, body: { lines: [] }, person });
    const answers = await Promise.all([press(1), press(2), press(1)]);
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409, 409]);
    expect((await world.ok(routes.builds, {})).builds).toHaveLength(1);
  });

  it("links a build later too, unlinks it, and refuses what cannot be", async () => {
    const world = await demoWorld();
    const order = await taken(world, [["FEED-12", "8"]]);
    const other = await taken(world, [["HON-4", "8"]]);
    const id = await world.queued("FEED-12", "10");
    const params = { id };
    const { lines } = await world.ok(routes.linkableOrders, { params });
    expect(lines.map((line) => [line.number, line.open])).toEqual([["O-1", "8"]]);
    const link = (line: number, quantity: string | null = null) =>
      world.call(routes.linkOrder, { params, body: { line, quantity } });
    expect(fieldsOf((await link(lineOf(other))).error)).toEqual(["line link-other"]);
    expect(fieldsOf((await link(999_999)).error)).toEqual(["line not-found"]);
    expect(fieldsOf((await link(lineOf(order), "9")).error)).toEqual(["quantity link-too-many"]);
    expect((await link(lineOf(order))).answer.orders).toMatchObject([{ number: "O-1", quantity: "8" }]);
    expect(fieldsOf((await link(lineOf(order))).error)).toEqual(["line link-nothing"]);
    expect((await world.ok(routes.linkableOrders, { params })).lines).toEqual([]);

    const unlink = () => world.call(routes.unlinkOrder, { params, body: { line: lineOf(order) } });
    expect((await unlink()).answer.orders).toEqual([]);
    expect(fieldsOf((await unlink()).error)).toEqual(["line not-found"]);

    // A finished build may still be linked: what it made is then the order's own.
    await world.ok(routes.finishBuild, { params, body: finishOf("10", { lot: "AF-2" }) });
    await link(lineOf(order));
    expect((await build(world, id)).orders).toMatchObject([{ quantity: "8" }]);
    expect(standing(await again(world, order))).toEqual(["FEED-12 8 0 0"]);
  });

  it("does not let go of a line that is being built for, nor of builds when the order is cancelled", async () => {
    const world = await demoWorld();
    const order = await taken(world, [
      ["FEED-12", "5"],
      ["SMK-S", "1"],
    ]);
    const params = { id: order.id };
    const { builds } = await world.ok(routes.buildForOrder, { params, body: { lines: [lineOf(order)] } });
    await world.ok(routes.queueBuild, { params: { id: builds[0]?.id ?? 0 } });
    const [smoker] = (await bodyOf(world, [["SMK-S", "1"]])).lines;
    if (!smoker) throw new Error("the body has a line");
    const without = await bodyOf(world, []);
    const body = { ...without, lines: [{ ...smoker, id: order.orderLines[1]?.id ?? 0 }] };
    const refused = await world.call(routes.changeOrder, { params, body });
    expect([refused.error.code, refused.error.fields[0]?.message]).toEqual([
      "line-linked",
      "B-1 is linked to this line. Unlink it there first.",
    ]);
    await world.ok(routes.cancelOrder, { params });
    expect((await build(world, builds[0]?.id ?? 0)).orders).toEqual([]);
    expect(await reserved(world, "FEED-12")).toBe("0");
  });

  it("shares the orders out where a build is split, and brings them together where two are joined", async () => {
    const world = await demoWorld();
    const [first, second] = [await taken(world, [["FEED-12", "6"]]), await taken(world, [["FEED-12", "6"]])];
    const product = await world.idOf("FEED-12");
    const { id } = await world.ok(routes.newBuild, { body: { ...PLAIN_BUILD, product, quantity: "12" } });
    for (const order of [first, second])
      await world.ok(routes.linkOrder, { params: { id }, body: { line: lineOf(order), quantity: null } });
    const other = (await world.ok(routes.splitBuild, { params: { id }, body: { quantity: "4" } })).id;
    const orders = async (build_: number) =>
      (await build(world, build_)).orders.map((link) => `${link.number} ${link.quantity}`);
    expect(await orders(id)).toEqual(["O-1 6", "O-2 2"]);
    expect(await orders(other)).toEqual(["O-2 4"]);
    await world.ok(routes.joinBuilds, { params: { id }, body: { other } });
    expect(await orders(id)).toEqual(["O-1 6", "O-2 6"]);
    expect((await again(world, second)).orderLines[0]?.takes[0]?.planned).toBe("6");
    await world.ok(routes.queueBuild, { params: { id } });
    expect(standing(await again(world, second))).toEqual(["FEED-12 0 6 0"]);
  });

  it("builds a content that a kit misses", async () => {
    const world = await demoWorld();
    const { onHand } = await world.ok(routes.item, { params: { id: await world.idOf("HIVE-N") } });
    const order = await taken(world, [["KIT-YARD", String(Number(onHand) + 3)]]);
    const { builds } = await world.ok(routes.buildForOrder, {
      params: { id: order.id },
      body: { lines: [] },
    });
    expect(builds.map((b) => `${b.product.code} ${b.quantity}`)).toEqual(["HIVE-N 3"]);
    const sheet = await again(world, order);
    expect(sheet.orderLines[0]?.takes.find((t) => t.item.code === "HIVE-N")).toMatchObject({
      ready: onHand,
      coming: "0",
      missing: "3",
      planned: "3",
    });
  });
});

it("a new order can't name the line of another one, and change what that reserves", async () => {
  const world = await demoWorld();
  const first = await taken(world, [["HIVE-N", "2"]]);
  const body = await bodyOf(world, [["HIVE-N", "5"]]);
  const lines = body.lines.map((line) => ({ ...line, id: first.orderLines[0]?.id ?? 0 }));
  const { status, error } = await world.call(routes.newOrder, { body: { ...body, lines } });
  expect([status, fieldsOf(error)]).toEqual([404, ["lines.0.item not-found"]]);
  expect(await reserved(world, "HIVE-N")).toBe("2");
});

describe("lines of open orders to build", () => {
  it("stand by due day, and several are built by one press: one draft a product, linked to all", async () => {
    const world = await demoWorld();
    const later = await taken(world, [["FEED-12", "10"]], { due: "2026-12-20" });
    const first = await taken(
      world,
      [
        ["FEED-12", "5"],
        ["KIT-YARD", "300"],
      ],
      { due: "2026-12-01" },
    );
    const { lines } = await world.ok(routes.linesToBuild);
    expect(lines.map((l) => `${l.number} ${l.item.code} ${l.missing}`)).toEqual([
      `${first.number} FEED-12 5`,
      `${first.number} HIVE-N 298`,
      `${later.number} FEED-12 10`,
    ]);
    const feed = lines.filter((l) => l.item.code === "FEED-12").map((l) => l.line);
    const { builds } = await world.ok(routes.buildForLines, { body: { lines: feed } });
    expect(
      builds.map((b) => `${b.product.code} ${b.quantity} ${b.due} ${b.orders.map((o) => o.quantity)}`),
    ).toEqual(["FEED-12 15 2026-12-01 10,5"]);
    expect((await world.ok(routes.linesToBuild)).lines.map((l) => l.item.code)).toEqual(["HIVE-N"]);
    const again = await world.call(routes.buildForLines, { body: { lines: feed } });
    expect([again.status, again.error.code]).toEqual([409, "order-builds-none"]);
  });
  it("refuse a line that is not there, and one of an order that has ended", async () => {
    const world = await demoWorld();
    const order = await taken(world, [["FEED-12", "5"]]);
    const build = (lines: number[]) => world.call(routes.buildForLines, { body: { lines } });
    expect(fieldsOf((await build([lineOf(order), 999])).error)).toEqual(["lines.1 not-found"]);
    expect(fieldsOf((await build([])).error)).toEqual(["lines invalid-input"]);
    await world.ok(routes.cancelOrder, { params: { id: order.id } });
    expect((await build([lineOf(order)])).error.code).toBe("order-ended");
  });
});

describe("an order that is typed", () => {
  const previewOf = (world: World, { customer, due, lines }: OrderBody, order: number | null = null) =>
    world.ok(routes.previewOrder, { body: { order, customer, due, lines } });

  it("comes to what it will when it is taken, less the discount of each line", async () => {
    const world = await demoWorld();
    const body = await bodyOf(world, [
      ["SMK-S", "3"],
      ["KIT-YARD", "1"],
    ]);
    const lines = body.lines.map((line, i) => ({ ...line, discount: i === 0 ? "12.5" : "0" }));
    const preview = await previewOf(world, { ...body, lines });
    expect(preview.lines.map((line) => line.total)).toEqual(["73.24", "239.00"]);
    // The kit's contents cost 214.60 now.
    expect(preview.lines[1]).toMatchObject({ margin: "24.4000", marginPercent: "10.2" });
    const order = await world.ok(routes.newOrder, { body: { ...body, lines } });
    expect(order.orderLines.map((line) => [line.discount, line.total])).toEqual([
      ["12.5", "73.24"],
      ["0", "239.00"],
    ]);
    expect([order.total, preview.total]).toEqual(["312.24", "312.24"]);
    const changed = await world.ok(routes.changeOrder, { params: { id: order.id }, body });
    expect(changed.total).toBe("322.70");
  });

  it("says what is free for it, what it reserves itself too, and what the customer was last charged", async () => {
    const world = await demoWorld();
    const body = await bodyOf(world, [
      ["SMK-S", "3"],
      ["KIT-CARE", "1"],
      ["LAB-B", "0.5"],
    ]);
    const before = await previewOf(world, body);
    const sheet = await world.ok(routes.item, { params: { id: await world.idOf("SMK-S") } });
    expect(before.lines.map((line) => line.free)).toEqual([sheet.free, expect.any(String), null]);
    expect(before.lines[2]).toMatchObject({ total: null, margin: null });
    expect(before.total).toBeNull();
    expect(before.lines.map((line) => line.last)).toEqual([null, null, null]);
    const [first, ...rest] = body.lines;
    if (!first) throw new Error("the body has lines");
    const order = await world.ok(routes.newOrder, {
      body: { ...body, lines: [{ ...first, price: "25.00", discount: "10" }, ...rest] },
    });
    const other = await previewOf(world, body);
    expect(Number(other.lines[0]?.free)).toBe(Number(sheet.free) - 3);
    expect(other.lines[0]?.short).toBe("0");
    const many = { ...body, lines: [{ ...first, quantity: "400" }] };
    expect((await previewOf(world, many)).lines[0]?.short).toBe(String(403 - Number(sheet.free)));
    expect(other.lines[0]?.last).toMatchObject({ number: "O-1", price: "25.00", discount: "10" });
    const same = await previewOf(world, body, order.id);
    expect(same.lines.map((line) => line.free)).toEqual(before.lines.map((line) => line.free));
    expect(same.lines[0]?.last).toBeNull();
    await world.ok(routes.cancelOrder, { params: { id: order.id } });
    expect((await previewOf(world, body)).lines[0]?.last).toBeNull();
    const { lines } = body;
    for (const unknown of [
      { order: 99, customer: null },
      { order: null, customer: 9999 },
    ])
      expect((await world.call(routes.previewOrder, { body: { ...unknown, lines } })).status).toBe(404);
  });

  it("may still be changed when its customer was archived since; a new one is refused", async () => {
    const world = await demoWorld();
    const body = await bodyOf(world, [["SMK-S", "3"]]);
    const order = await world.ok(routes.newOrder, { body });
    const params = { id: body.customer };
    const firm = await world.ok(routes.firm, { params });
    await world.ok(routes.changeFirm, { params, body: { ...firm, archived: true } });
    expect(fieldsOf((await world.call(routes.newOrder, { body })).error)).toEqual(["customer firm-archived"]);
    expect((await previewOf(world, body, order.id)).total).toBe("83.70");
    const more = { ...body, note: "by the gate" };
    const changed = await world.ok(routes.changeOrder, { params: { id: order.id }, body: more });
    expect(changed.note).toBe("by the gate");
  });

  it("is refused a discount of more than everything, and one below nothing", async () => {
    const world = await demoWorld();
    const body = await bodyOf(world, [["SMK-S", "3"]]);
    for (const discount of ["100.01", "-1", "x"]) {
      const lines = body.lines.map((line) => ({ ...line, discount }));
      const refused = await world.call(routes.newOrder, { body: { ...body, lines } });
      expect(fieldsOf(refused.error)).toEqual(["lines.0.discount invalid-input"]);
    }
    const lines = body.lines.map((line) => ({ ...line, discount: "100" }));
    expect((await world.ok(routes.newOrder, { body: { ...body, lines } })).total).toBe("0.00");
  });
});
