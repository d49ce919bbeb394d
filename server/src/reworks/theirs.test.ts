import { routes } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { read } from "../db/index.ts";
import { firmId, takeIn } from "../testing/companies.ts";
import { leaving, orderOf, shipmentOf } from "../testing/ordering.ts";
import { finish, freeOf, good, part, step, unit, worth } from "../testing/reworking.ts";
import { closeWorlds, demoWorld, fieldsOf, TODAY } from "../testing/world.ts";

afterEach(closeWorlds);

describe("a customer's own unit", () => {
  it("is never worth anything to us and never free; what it cost goes out when it is given back", async () => {
    const world = await demoWorld();
    const [item, customer] = [await world.idOf("EXT-2"), await firmId(world, "customer", "TARN")];
    const before = [await worth(world), await freeOf(world, "EXT-2")];
    const body = {
      item,
      customer,
      isTheirs: true,
      day: TODAY,
      units: [{ serial: "TB-12", quantity: "1" }],
    };
    const { id, valueIn } = await world.ok(routes.newRework, { body });
    expect([valueIn, await worth(world), await freeOf(world, "EXT-2")]).toEqual(["0.0000", ...before]);
    await part(world, id, "BELT-X", "1", { charge: "9.50" });
    const supplier = await firmId(world, "supplier", "CALD");
    const service = await world.idOf("LAB-O");
    const stepped = await step(world, id, {
      supplier,
      service,
      planned: "25.00",
      charge: "35.00",
      state: "waiting",
    });
    const params = { id, step: stepped.steps[0]?.id ?? 0 };
    const ordered = await world.ok(routes.orderReworkStep, { params });
    expect(ordered.steps[0]?.purchase?.number).toMatch(/^P-/);
    expect((await world.call(routes.orderReworkStep, { params })).error?.code).toBe("step-ordered");
    await world.ok(routes.setReworkSteps, { body: { steps: [params.step], state: "done" } });
    const agreed = await world.ok(routes.agreeRework, { params: { id }, body: { agreed: true } });
    expect([agreed.charge, agreed.agreed?.person, agreed.valueIn]).toEqual(["44.5000", "Ines", "0.0000"]);
    const toStock = await finish(world, id, [good(1)]);
    expect(fieldsOf(toStock.error)).toEqual(["units.0.outcome rework-theirs-back"]);
    expect((await finish(world, id, [{ unit: 1, outcome: "good" }])).status).toBe(200);
    const { units } = await world.ok(routes.heldUnits, { params: { id: customer } });
    expect(units.map((own) => [own.item.code, own.serial, own.reworks.map(({ number }) => number)])).toEqual([
      ["EXT-2", "TB-12", ["W-1"]],
    ]);
    const entries = await read(world.store, ({ sql }) =>
      sql.all(
        "SELECT side, what, value FROM posting_entry WHERE what IN ('rework step', 'given back to a customer') ORDER BY position",
        {},
      ),
    );
    expect(entries).toEqual([
      { side: "added", what: "rework step", value: 250_000 },
      { side: "lost", what: "given back to a customer", value: 250_000 },
    ]);
    expect(await freeOf(world, "EXT-2")).toBe(before[1]);
    for (const kind of ["job", "quote", "bill", "account"] as const) {
      const paper = await world.app.inject({ method: "GET", url: `/api/reworks/${id}/paper?kind=${kind}` });
      expect([kind, paper.statusCode, paper.rawPayload.subarray(0, 4).toString()]).toEqual([
        kind,
        200,
        "%PDF",
      ]);
    }
    expect(await world.audit()).toEqual([]);
    await world.ok(routes.undoFinishRework, { params: { id } });
    await world.ok(routes.undoRework, { params: { id } });
    expect([await worth(world), await freeOf(world, "EXT-2")]).toEqual(before);
    expect(await world.audit()).toEqual([]);
  });

  it("is quoted at the customer's prices, with the tax of each line, and what they agreed to stays", async () => {
    const world = await demoWorld();
    const [item, customer] = [await world.idOf("EXT-2"), await firmId(world, "customer", "TARN")];
    const { company } = await world.ok(routes.company, {});
    if (!company) throw new Error("the demo is set up");
    const taxed = (taxRate: string) => world.ok(routes.changeCompany, { body: { ...company, taxRate } });
    await taxed("20");
    const belt = await world.ok(routes.item, { params: { id: await world.idOf("BELT-X") } });
    await world.ok(routes.changeItem, {
      params: { id: belt.id },
      version: belt.version,
      body: { ...belt, price: "11.00", taxRate: "10" },
    });
    const list = { customer, steps: [{ item: belt.id, price: "9.90" }] };
    const { id: listId } = await world.ok(routes.newPriceList, { body: list });
    const units = [{ serial: "TB-12", quantity: "1" }];
    const { id } = await world.ok(routes.newRework, {
      body: { item, customer, isTheirs: true, day: TODAY, units },
    });
    await part(world, id, "BELT-X", "1");
    const quoted = await step(world, id, { planned: "25.00" });
    const parts = { rate: "10", net: "9.90", tax: "0.99" };
    const sums = ["34.9000", [{ rate: "20", net: "25.00", tax: "5.00" }, parts], "40.89"];
    const moneyOf = ({ charge, taxes, gross }: typeof quoted) => [charge, taxes, gross];
    expect(moneyOf(quoted)).toEqual(sums);
    // Before anybody agreed, it follows the company's rate and the list.
    await taxed("25");
    expect((await world.ok(routes.rework, { params: { id } })).gross).toBe("42.14");
    await taxed("20");
    await world.ok(routes.agreeRework, { params: { id }, body: { agreed: true } });
    await taxed("25");
    await world.ok(routes.removePriceList, { params: { id: listId } });
    expect(moneyOf(await world.ok(routes.rework, { params: { id } }))).toEqual(sums);
    // What it really cost is ours to bear, unless somebody says that the customer pays it.
    const [own] = quoted.steps;
    const change = (charge: string | null) =>
      world.ok(routes.changeReworkStep, {
        params: { id, step: own?.id ?? 0 },
        body: { what: "Straighten the drum", planned: "25.00", actual: "30.00", charge, state: "done" },
      });
    expect(moneyOf(await change(null))).toEqual(sums);
    const changed = await change("28.00");
    expect(changed.agreed?.since).toBe("28.0000");
    await world.ok(routes.agreeRework, { params: { id }, body: { agreed: true } });
    expect((await world.ok(routes.rework, { params: { id } })).agreed?.since).toBe("0.0000");
    expect(changed.taxes).toEqual([{ rate: "25", net: "28.00", tax: "7.00" }, parts]);
    const sent = await world.ok(routes.sendRework, { params: { id }, body: { kind: "quote" } });
    expect([sent.document, sent.files.map(({ name }) => name)]).toEqual(["W-1", ["Quote W-1.pdf"]]);
    expect(sent.text).toContain("our quote W-1.");
    await finish(world, id, [{ unit: 1, outcome: "good" }]);
    await taxed("0");
    expect((await world.ok(routes.rework, { params: { id } })).gross).toBe("45.89");
    const billed = await world.ok(routes.sendRework, { params: { id }, body: { kind: "bill" } });
    expect(billed.files.map(({ name }) => name)).toEqual(["Pro forma bill W-1.pdf"]);
    await world.ok(routes.undoFinishRework, { params: { id } });
    await world.ok(routes.agreeRework, { params: { id }, body: { agreed: false } });
    expect(moneyOf(await world.ok(routes.rework, { params: { id } }))).toEqual([
      "39.0000",
      [
        { rate: "10", net: "11.00", tax: "1.10" },
        { rate: "0", net: "28.00", tax: "0.00" },
      ],
      "40.10",
    ]);
    await world.ok(routes.undoRework, { params: { id } });
    const undone = await world.call(routes.sendRework, { params: { id }, body: { kind: "bill" } });
    expect(undone.error?.code).toBe("document-undone");
  });

  it("may be written down though we never shipped it, once, and taken in from there", async () => {
    const world = await demoWorld();
    const [item, customer] = [await world.idOf("EXT-2"), await firmId(world, "customer", "TARN")];
    const params = { id: customer };
    const register = (serial: string, more: object = {}) =>
      world.call(routes.registerUnit, { params, body: { item, serial, note: "second hand", ...more } });
    expect((await register("OLD-1")).status).toBe(200);
    expect(fieldsOf((await register("OLD-1")).error)).toEqual(["serial unit-registered"]);
    expect(fieldsOf((await register("EX-0077")).error)).toEqual(["serial serial-taken"]);
    expect(fieldsOf((await register("OLD-2", { item: await world.idOf("BELT-X") })).error)).toEqual([
      "item serial-not-tracked",
    ]);
    const listed = async () => (await world.ok(routes.heldUnits, { params })).units;
    expect(await listed()).toMatchObject([
      { serial: "OLD-1", byHand: true, note: "second hand", reworks: [] },
    ]);
    const body = { item, customer, isTheirs: true, day: TODAY, units: [{ serial: "OLD-1", quantity: "1" }] };
    const { id } = await world.ok(routes.newRework, { body });
    expect(await listed()).toEqual([]);
    expect((await finish(world, id, [{ unit: 1, outcome: "good" }])).status).toBe(200);
    expect(await listed()).toMatchObject([{ serial: "OLD-1", byHand: false, reworks: [{ number: "W-1" }] }]);
    await world.ok(routes.undoFinishRework, { params: { id } });
    await world.ok(routes.undoRework, { params: { id } });
    expect(await listed()).toMatchObject([{ serial: "OLD-1", byHand: true }]);
    await world.ok(routes.removeRegisteredUnit, { params, body: { item, serial: "OLD-1" } });
    expect(await listed()).toEqual([]);
  });

  it("is refused out of our stock, and one that is in our stock is not theirs", async () => {
    const world = await demoWorld();
    const [item, customer] = [await world.idOf("EXT-2"), await firmId(world, "customer", "TARN")];
    const theirs = { item, customer, isTheirs: true, day: TODAY };
    const ours = await world.call(routes.newRework, { body: { ...theirs, units: [unit("EX-0077")] } });
    expect(fieldsOf(ours.error)).toEqual(["units.0.store rework-theirs-from"]);
    const here = await world.call(routes.newRework, {
      body: { ...theirs, units: [{ serial: "EX-0077", quantity: "1" }] },
    });
    expect(here.error?.code).toBe("serial-elsewhere");
    const nobody = await world.call(routes.newRework, {
      body: { ...theirs, customer: null, units: [{ serial: "TB-12", quantity: "1" }] },
    });
    expect(fieldsOf(nobody.error)).toEqual(["customer rework-customer-needed"]);
  });

  it("has the parts that went into it with its customer, where a trace of their lot finds them", async () => {
    const world = await demoWorld();
    const [item, customer] = [await world.idOf("EXT-2"), await firmId(world, "customer", "TARN")];
    const wax = await world.idOf("FND-D");
    await takeIn(world, wax, "10", { lot: "L-99", store: "Yard", bin: "Y9-A" });
    const units = [{ serial: "TB-12", quantity: "1" }];
    const { id } = await world.ok(routes.newRework, {
      body: { item, customer, isTheirs: true, day: TODAY, units },
    });
    await part(world, id, "FND-D", "2", { lot: "L-99", bin: "Y9-A" });
    expect((await finish(world, id, [{ unit: 1, outcome: "good" }])).status).toBe(200);
    const { steps } = await world.ok(routes.trace, { query: { item: wax, lot: "L-99" } });
    expect(steps).toMatchObject([
      { end: "with a customer", quantity: "2", firm: { id: customer }, rework: { number: "W-1" } },
    ]);
    expect((await world.ok(routes.traceMessages, { body: { item: wax, lot: "L-99" } })).messages).toBe(1);
    expect(await world.audit()).toEqual([]);
  });

  it("that was shipped by us keeps its warranty, and its card says what it went through", async () => {
    const world = await demoWorld();
    const item = await world.idOf("EXT-2");
    const order = await orderOf(world, [["EXT-2", "1", "489.00"]]);
    await world.ok(routes.shipOrder, {
      params: { id: order.id },
      body: shipmentOf([leaving(order.orderLines[0], "1", { only: [{ item, codes: ["EX-0077"] }] })]),
    });
    const query = { item, serial: "EX-0077" };
    const { warranty } = await world.ok(routes.piece, { query });
    const body = {
      item,
      customer: order.customer.id,
      isTheirs: true,
      day: TODAY,
      units: [{ serial: "EX-0077", quantity: "1" }],
    };
    const { id } = await world.ok(routes.newRework, { body });
    expect((await world.ok(routes.piece, { query })).gone).toBe("");
    expect((await finish(world, id, [{ unit: 1, outcome: "good" }])).status).toBe(200);
    const after = await world.ok(routes.piece, { query });
    expect(after.warranty).toEqual(warranty);
    expect(after.gone).toContain("with a customer");
    // The customer's page says the same of it.
    const { units } = await world.ok(routes.heldUnits, { params: { id: order.customer.id } });
    expect(units.map((own) => [own.serial, own.warrantyUntil, own.contents])).toEqual([
      ["EX-0077", warranty?.until ?? null, []],
    ]);
    expect(await world.audit()).toEqual([]);
  });
});
