import { routes, type SupplierReturnBody } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { takeIn } from "../testing/companies.ts";
import { leaving, orderOf, shipmentOf } from "../testing/ordering.ts";
import { closeWorlds, demoWorld, fieldsOf, TODAY, type World } from "../testing/world.ts";

afterEach(closeWorlds);

type Line = Partial<SupplierReturnBody["lines"][number]> & { item: number; quantity: string };

async function bodyOf(world: World, lines: readonly Line[], more: object = {}) {
  const { firms } = await world.ok(routes.firms, { query: { kind: "supplier" } });
  return { supplier: firms[0]?.id ?? 0, day: TODAY, reason: "Faulty", lines: [...lines], ...more };
}

const send = async (world: World, lines: readonly Line[], more: object = {}) =>
  world.ok(routes.newSupplierReturn, { body: await bodyOf(world, lines, more) });
const refused = async (world: World, lines: readonly Line[], more: object = {}) =>
  fieldsOf((await world.call(routes.newSupplierReturn, { body: await bodyOf(world, lines, more) })).error);

const sheetOf = async (world: World, code: string) =>
  world.ok(routes.item, { params: { id: await world.idOf(code) } });

/** A place that has stock of an item, as a line names it. */
async function spotOf(world: World, code: string) {
  const { id, stockByBin } = await sheetOf(world, code);
  const spot = stockByBin.find(({ kind }) => kind === "store");
  if (!spot) throw new Error(`nothing of ${code} is there`);
  const { store, bin, lot, serial, quantity } = spot;
  return { line: { item: id, store, bin, lot, serial }, there: quantity };
}

describe("a return to a supplier", () => {
  it("takes goods out of stock at what their pool carries, is ordered again on a purchase order, and stays", async () => {
    const world = await demoWorld();
    const { line, there } = await spotOf(world, "HTL-J");
    const before = await sheetOf(world, "HTL-J");
    const made = await send(world, [{ ...line, quantity: "2" }], { credit: "9.00" });
    expect(made).toMatchObject({ number: "RS-1", credit: "9.0000", value: "10.2000", replacement: null });
    expect(made.sent[0]).toMatchObject({ quantity: "2", from: "Front store 10-B", value: "10.2000" });
    expect(Number((await sheetOf(world, "HTL-J")).onHand)).toBe(Number(before.onHand) - 2);
    const { movements } = await world.ok(routes.movements, { query: { document: "RS-1" } });
    expect(movements.map(({ quantity, value, reason }) => [quantity, value, reason])).toEqual([
      ["2", "10.2000", "Faulty"],
    ]);
    const params = { id: made.id };
    const replaced = await world.ok(routes.replaceSupplierReturn, { params });
    const purchase = await world.ok(routes.purchase, { params: { id: replaced.replacement?.id ?? 0 } });
    expect([purchase.stage, purchase.orderLines.map((own) => [own.item.code, own.quantity])]).toEqual([
      "draft",
      [["HTL-J", "2"]],
    ]);
    for (const route of [routes.replaceSupplierReturn, routes.undoSupplierReturn])
      expect((await world.call(route, { params })).error.code).toBe("supplier-return-replaced");
    expect(Number(there)).toBeGreaterThan(2);
    expect(await world.audit()).toEqual([]);
  });

  it("is undone exactly mirrored, once", async () => {
    const world = await demoWorld();
    const { line } = await spotOf(world, "HTL-J");
    const before = await sheetOf(world, "HTL-J");
    const { id } = await send(world, [{ ...line, quantity: "2" }]);
    const undone = await world.ok(routes.undoSupplierReturn, { params: { id } });
    expect(undone.undone).toMatchObject({ person: "Ines" });
    const after = await sheetOf(world, "HTL-J");
    expect([after.onHand, after.stockByBin]).toEqual([before.onHand, before.stockByBin]);
    expect((await world.call(routes.undoSupplierReturn, { params: { id } })).error.code).toBe(
      "document-undone",
    );
    const { hits } = await world.ok(routes.find, { query: { text: "rs-1" } });
    expect(hits.map(({ kind }) => kind)).toEqual(["supplier-return"]);
    expect(await world.audit()).toEqual([]);
  });

  it("never takes more than is there, what two lines take of one bin added up, nor in the future, nor from a customer", async () => {
    const world = await demoWorld();
    const { line, there } = await spotOf(world, "HTL-J");
    expect(
      await refused(world, [
        { ...line, quantity: there },
        { ...line, quantity: "1" },
      ]),
    ).toEqual(["lines.1.quantity stock-short-here"]);
    expect(await refused(world, [{ ...line, quantity: "1" }], { day: "2026-11-24" })).toEqual([
      "day day-future",
    ]);
    expect(await refused(world, [{ ...line, store: "", quantity: "1" }])).toEqual([
      "lines.0.store invalid-input",
    ]);
    expect(await refused(world, [{ ...line, quantity: "1" }], { credit: "1.234" })).toEqual([
      "credit currency-decimals",
    ]);
    expect(await refused(world, [{ ...line, quantity: "1.5" }])).toEqual(["lines.0.quantity decimals"]);
    expect(await refused(world, [{ ...line, lot: "L-1", quantity: "1" }])).toEqual([
      "lines.0.lot lot-not-tracked",
    ]);
    const { firms } = await world.ok(routes.firms, { query: { kind: "customer" } });
    expect(await refused(world, [{ ...line, quantity: "1" }], { supplier: firms[0]?.id })).toEqual([
      "supplier not-found",
    ]);
    expect((await world.ok(routes.supplierReturns, {})).total).toBe(0);
  });

  it("says of a serial number that it is back with its supplier; it may be bought again", async () => {
    const world = await demoWorld();
    const { line } = await spotOf(world, "SCL-E");
    await send(world, [{ ...line, quantity: "1" }]);
    const { item, serial } = line;
    const piece = await world.ok(routes.piece, { query: { item, serial } });
    expect(piece.gone).toBe("back with its supplier (RS-1)");
    const { steps } = await world.ok(routes.trace, { query: { item, serial } });
    expect(steps.find(({ end }) => end === "sent back")?.firm).toMatchObject({ id: expect.any(Number) });
    await takeIn(world, item, "1", { serial });
    expect(await world.audit()).toEqual([]);
  });
});

describe("what a customer sent back", () => {
  /** A return of two hive tools, to be inspected. */
  async function returned(world: World) {
    const order = await orderOf(world, [["HTL-J", "2", "9.60"]]);
    const shipped = await world.ok(routes.shipOrder, {
      params: { id: order.id },
      body: shipmentOf([leaving(order.orderLines[0])]),
    });
    const item = await world.idOf("HTL-J");
    return world.ok(routes.newReturn, {
      body: {
        shipment: shipped.id,
        customer: null,
        day: TODAY,
        reason: "Blunt",
        note: "",
        fee: "0",
        costTag: "",
        lines: [
          {
            orderLine: order.orderLines[0]?.id ?? null,
            item,
            quantity: "2",
            lot: "",
            serial: "",
            credit: null,
          },
        ],
      },
    });
  }

  it("goes back to its supplier from there, as a decision of its inspection, and is undone with it", async () => {
    const world = await demoWorld();
    const back = await returned(world);
    const item = await world.idOf("HTL-J");
    const line = { item, quantity: "1", returnLine: { id: back.id, line: back.returned[0]?.line ?? 0 } };
    expect(await refused(world, [{ ...line, quantity: "3" }])).toEqual([
      "lines.0.quantity return-inspect-too-many",
    ]);
    expect(await refused(world, [{ ...line, item: await world.idOf("SMK-S") }])).toEqual([
      "lines.0.returnLine not-found",
    ]);
    const sent = await send(world, [line]);
    expect(sent.sent[0]?.return).toEqual({ id: back.id, number: back.number });
    const params = { id: back.id };
    const sheet = await world.ok(routes.return, { params });
    expect([sheet.returned[0]?.open, sheet.inspections[0]?.outcome]).toEqual(["1", "supplier"]);
    const alone = await world.call(routes.undoInspection, {
      params: { ...params, inspection: sheet.inspections[0]?.id ?? 0 },
    });
    expect(alone.error.code).toBe("inspection-sent-back");
    await world.ok(routes.undoSupplierReturn, { params: { id: sent.id } });
    expect((await world.ok(routes.return, { params })).returned[0]?.open).toBe("2");
    expect(await world.audit()).toEqual([]);
  });
});
