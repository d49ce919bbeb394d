import { type ReturnBody, routes } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { firmId, takeIn } from "../testing/companies.ts";
import { leaving, orderOf, shipmentOf } from "../testing/ordering.ts";
import { closeWorlds, demoWorld, fieldsOf, TODAY, type World } from "../testing/world.ts";

afterEach(closeWorlds);

type Typed = { [Name in keyof ReturnBody]?: ReturnBody[Name] | undefined } & { lines: ReturnBody["lines"] };
const returned = ({ lines, ...more }: Partial<Typed> & { lines: ReturnBody["lines"] }) => ({
  day: TODAY,
  reason: "not wanted",
  ...more,
  lines,
});

/** An order that was shipped whole; with the pieces that may come back. */
async function shippedOrder(world: World, lines: Parameters<typeof orderOf>[1]) {
  const order = await orderOf(world, lines);
  const sheet = await world.ok(routes.order, { params: { id: order.id } });
  const shipment = await world.ok(routes.shipOrder, {
    params: { id: order.id },
    body: shipmentOf(sheet.orderLines.map((line) => leaving(line))),
  });
  const { pieces } = await world.ok(routes.returnable, { params: { id: shipment.id } });
  return { order, shipment, pieces };
}
type Piece = Awaited<ReturnType<typeof shippedOrder>>["pieces"][number];

const back = ({ orderLine, item, lot, serial, shipped }: Piece, quantity = shipped) => ({
  orderLine,
  item: item.id,
  lot,
  serial,
  quantity,
  credit: null,
});

/** On hand in stores, as lists say. */
async function onHand(world: World, code: string): Promise<number> {
  const { items } = await world.ok(routes.items, { query: { search: code } });
  return Number(items.find((item) => item.code === code)?.onHand);
}

async function yardShipped(world: World) {
  await takeIn(world, await world.idOf("HIVE-N"), "2", { unitCost: "148.00" });
  return shippedOrder(world, [["KIT-YARD", "1", "239.00"]]);
}

describe("a return", () => {
  it("of KIT-YARD without its gloves is credited 226.35, at what it carried, and notes what is missing", async () => {
    const world = await demoWorld();
    const { shipment, pieces } = await yardShipped(world);
    const came = pieces.filter(({ item }) => item.code !== "GLV-M");
    const body = returned({ shipment: shipment.id, lines: came.map((piece) => back(piece)) });
    const preview = await world.ok(routes.previewReturn, { body });
    expect(preview.credit).toBe("226.35");
    const sheet = await world.ok(routes.newReturn, { body });
    expect(sheet).toMatchObject({ number: "R-1", credit: "226.35", due: "226.35", open: 4 });
    expect(sheet.missing).toMatchObject([{ item: { code: "GLV-M" }, quantity: "1" }]);
    // It carries what left with it, less the gloves.
    const gloves = shipment.shipped[0]?.components.find(({ item }) => item.code === "GLV-M");
    expect(Number(sheet.value)).toBeCloseTo(Number(shipment.cost) - Number(gloves?.cost), 4);
    expect(await world.audit()).toEqual([]);
    // The gloves follow: what is left of what was paid.
    const glove = pieces.find(({ item }) => item.code === "GLV-M");
    if (!glove) throw new Error("The set has gloves in it");
    const later = await world.ok(routes.newReturn, {
      body: returned({ shipment: shipment.id, lines: [back(glove)] }),
    });
    expect(later.credit).toBe("12.65");
  });

  it("has its credit sent as a paper, while it stands", async () => {
    const world = await demoWorld();
    const { shipment, pieces } = await shippedOrder(world, [["HTL-J", "2", "9.60"]]);
    const { id } = await world.ok(routes.newReturn, {
      body: returned({ shipment: shipment.id, lines: pieces.map((piece) => back(piece)) }),
    });
    const sent = await world.ok(routes.sendReturn, { params: { id } });
    expect([sent.document, sent.shipment, sent.files.map(({ name }) => name)]).toEqual([
      "R-1",
      shipment.id,
      ["Credit R-1.pdf"],
    ]);
    expect(sent.text).toContain("the credit for what you sent back, R-1.");
    await world.ok(routes.undoReturn, { params: { id } });
    expect((await world.call(routes.sendReturn, { params: { id } })).error.code).toBe("return-undone");
  });

  it("is held in returns, never free, until each piece is put back or scrapped; each decision is undone alone", async () => {
    const world = await demoWorld();
    const free = () => onHand(world, "SMK-S");
    const before = await free();
    const { shipment, pieces } = await shippedOrder(world, [["SMK-S", "3", "27.90"]]);
    const [piece] = pieces;
    if (!piece) throw new Error("Smokers were shipped");
    const shippedFree = await free();
    const sheet = await world.ok(routes.newReturn, {
      body: returned({ shipment: shipment.id, lines: [back(piece)] }),
    });
    expect(await free()).toBe(shippedFree);
    const params = { id: sheet.id };
    const inspected = await world.ok(routes.inspectReturn, {
      params,
      body: {
        day: TODAY,
        lines: [
          { line: 1, outcome: "stock", quantity: "2", store: "Front store", bin: "08-A" },
          { line: 1, outcome: "scrap", quantity: "1", reason: "burnt" },
        ],
      },
    });
    expect(inspected).toMatchObject({ open: 0, returned: [{ inspected: "3" }] });
    expect(inspected.inspections.map(({ outcome, quantity, place }) => [outcome, quantity, place])).toEqual([
      ["scrap", "1", ""],
      ["stock", "2", "Front store 08-A"],
    ]);
    expect(await free()).toBe(before - 1);
    expect(await world.audit()).toEqual([]);
    const undoIt = (inspection: number) =>
      world.ok(routes.undoInspection, { params: { id: sheet.id, inspection } });
    expect((await world.call(routes.undoReturn, { params })).error.code).toBe("return-inspected");
    for (const { id } of inspected.inspections) await undoIt(id);
    expect((await world.call(routes.undoShipment, { params: { id: shipment.id } })).error.code).toBe(
      "shipment-returned",
    );
    const undone = await world.ok(routes.undoReturn, { params });
    expect(undone.undone).not.toBeNull();
    expect(await free()).toBe(shippedFree);
    await world.ok(routes.undoShipment, { params: { id: shipment.id } });
    expect(await free()).toBe(before);
    expect(await world.audit()).toEqual([]);
  });

  it("without a shipment enters at current unit cost, and its credit is typed", async () => {
    const world = await demoWorld();
    const item = await world.idOf("HTL-J");
    const customer = await firmId(world, "customer", "TARN");
    const line = { item, orderLine: null, lot: "", serial: "", quantity: "2", credit: "15.00" };
    const sheet = await world.ok(routes.newReturn, {
      body: returned({ customer, lines: [line], fee: "4.00" }),
    });
    expect(sheet).toMatchObject({ credit: "15.00", fee: "4.00", due: "11.00", value: "10.2000" });
    const codes = async (body: unknown) => fieldsOf((await world.call(routes.newReturn, { body })).error);
    expect(await codes(returned({ lines: [line] }))).toEqual(["customer return-of-nobody"]);
    expect(await codes(returned({ customer, lines: [line], fee: "4.001" }))).toEqual([
      "fee currency-decimals",
    ]);
    expect(await codes(returned({ customer, lines: [{ ...line, credit: "1.999" }] }))).toEqual([
      "lines.0.credit currency-decimals",
    ]);
    expect(await codes(returned({ customer, lines: [{ ...line, credit: null }] }))).toEqual([
      "lines.0.credit return-credit-needed",
    ]);
    expect(await codes(returned({ customer, lines: [{ ...line, quantity: "0.5" }] }))).toEqual([
      "lines.0.quantity decimals",
    ]);
    expect(await codes(returned({ customer, lines: [{ ...line, lot: "L-1" }] }))).toEqual([
      "lines.0.lot lot-not-tracked",
    ]);
    expect(await codes({ ...returned({ customer, lines: [line] }), reason: " " })).toEqual([
      "reason invalid-input",
    ]);
  });

  it("is refused for what did not leave, is back already, or came with a shipment of another line", async () => {
    const world = await demoWorld();
    const { shipment, pieces } = await shippedOrder(world, [["SMK-S", "2", "27.90"]]);
    const [piece] = pieces;
    if (!piece) throw new Error("Smokers were shipped");
    const attempt = async (line: ReturnBody["lines"][number], day = TODAY) =>
      fieldsOf(
        (
          await world.call(routes.newReturn, {
            body: returned({ shipment: shipment.id, day, lines: [line] }),
          })
        ).error,
      );
    expect(await attempt(back(piece, "3"))).toEqual(["lines.0.quantity return-too-many"]);
    expect(await attempt({ ...back(piece), item: await world.idOf("HTL-J") })).toEqual([
      "lines.0.item return-not-shipped",
    ]);
    expect(await attempt({ ...back(piece), credit: "5" })).toEqual(["lines.0.credit return-credit-given"]);
    expect(await attempt(back(piece), "2026-12-01")).toEqual(["day day-future"]);
    expect(await attempt(back(piece), "2026-11-22")).toEqual(["day return-before-shipment"]);
    await world.ok(routes.newReturn, {
      body: returned({ shipment: shipment.id, lines: [back(piece, "1")] }),
    });
    expect(await attempt(back(piece))).toEqual(["lines.0.quantity return-too-many"]);
    const decide = (line: object) =>
      world.call(routes.inspectReturn, { params: { id: 1 }, body: { day: TODAY, lines: [line] } });
    const decided = { line: 1, outcome: "scrap", quantity: "1" };
    expect(fieldsOf((await decide(decided)).error)).toEqual(["lines.0.reason scrap-reason"]);
    expect(fieldsOf((await decide({ ...decided, quantity: "2", reason: "x" })).error)).toEqual([
      "lines.0.quantity return-inspect-too-many",
    ]);
    expect(fieldsOf((await decide({ ...decided, outcome: "stock", store: "Nowhere" })).error)).toEqual([
      "lines.0.store store-unknown",
    ]);
  });

  it("is replaced in one press: free and without credit, or at the normal price with it", async () => {
    const world = await demoWorld();
    const { shipment, pieces } = await shippedOrder(world, [["SMK-S", "2", "25.00"]]);
    const [piece] = pieces;
    if (!piece) throw new Error("Smokers were shipped");
    const take = (quantity: string) =>
      world.ok(routes.newReturn, {
        body: returned({ shipment: shipment.id, lines: [back(piece, quantity)] }),
      });
    const [one, other] = [await take("1"), await take("1")];
    const replace = (id: number, free: boolean) =>
      world.call(routes.replaceReturn, { params: { id }, body: { free } });
    const { answer } = await replace(one.id, true);
    expect(answer).toMatchObject({ credit: "25.00", due: "0.00", replacement: { free: true } });
    const order = await world.ok(routes.order, { params: { id: answer.replacement?.id ?? 0 } });
    expect(order).toMatchObject({ reference: "R-1", total: "0.00" });
    const priced = (await replace(other.id, false)).answer;
    expect(priced.due).toBe("25.00");
    const second = await world.ok(routes.order, { params: { id: priced.replacement?.id ?? 0 } });
    expect(second.total).toBe("27.90");
    expect((await replace(other.id, true)).error.code).toBe("return-replaced");
    expect((await world.call(routes.undoReturn, { params: { id: one.id } })).error.code).toBe(
      "return-replaced",
    );
  });

  it("brings a unit back by its serial number: shipped again, its trace has both customers and the return", async () => {
    const world = await demoWorld();
    const item = await world.idOf("SCL-E");
    const { shipment, pieces } = await shippedOrder(world, [["SCL-E", "1", "99.00"]]);
    const [piece] = pieces;
    if (!piece) throw new Error("A scale was shipped");
    const { serial } = piece;
    const sheet = await world.ok(routes.newReturn, {
      body: returned({ shipment: shipment.id, lines: [back(piece)] }),
    });
    const again = {
      customer: await firmId(world, "customer", "TARN"),
      lines: [{ ...back(piece), orderLine: null, credit: "1.00" }],
    };
    expect((await world.call(routes.newReturn, { body: returned(again) })).error.code).toBe(
      "serial-elsewhere",
    );
    // In other letters it would be a second unit.
    const small = { ...again, lines: [{ ...again.lines[0], serial: serial.toLowerCase() }] };
    const other = await world.call(routes.newReturn, { body: { ...small, day: TODAY, reason: "x" } });
    expect(other.error.message).toBe(
      `Serial ${serial.toLowerCase()} is known as ${serial}. Enter it like that.`,
    );
    await world.ok(routes.inspectReturn, {
      params: { id: sheet.id },
      body: {
        day: TODAY,
        lines: [{ line: 1, outcome: "stock", quantity: "1", store: "Front store", bin: "12-A" }],
      },
    });
    const { order } = await shippedOrder(world, [["SCL-E", "1", "99.00"]]);
    expect(order.number).toBeTruthy();
    const { steps } = await world.ok(routes.trace, { query: { item, serial } });
    expect(steps.filter(({ end }) => end === "with a customer").length).toBeGreaterThan(0);
    const backward = await world.ok(routes.trace, { query: { item, serial, direction: "backward" } });
    expect(backward.steps.map(({ end }) => end)).toContain("back from a customer");
    expect(await world.audit()).toEqual([]);
  });
});
