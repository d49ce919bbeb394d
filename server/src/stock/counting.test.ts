import { routes } from "@yosegi/contract";
import { beforeEach, describe, expect, it } from "vitest";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, fieldsOf } from "../testing/world.ts";

let world: World;

beforeEach(async () => {
  world = await demoWorld();
});

const SPOT = {
  store: "Front store",
  lot: "",
  serial: "",
  newBin: false,
  cost: null,
  reason: "Found",
  day: TODAY,
};

const sheetOf = async (code: string) => world.ok(routes.item, { params: { id: await world.idOf(code) } });

/** Counts an item in the bin where it lies. */
async function count(code: string, there: string, change: object = {}) {
  const { id, bin } = await sheetOf(code);
  return world.call(routes.count, { body: { ...SPOT, item: id, bin, there, ...change } });
}

describe("a count", () => {
  it("puts the books right: what is missing is lost at its pool's cost, what is found comes in at it", async () => {
    const before = await sheetOf("CRN-B");
    expect(before.onHand).toBe("47");
    const down = await count("CRN-B", "43", { reason: "Four broken" });
    expect(down.answer).toEqual({ document: "C-1", difference: "-4" });
    const after = await sheetOf("CRN-B");
    expect([after.onHand, after.unitCost]).toEqual(["43", before.unitCost]);
    expect((await count("CRN-B", "46")).answer).toEqual({ document: "C-2", difference: "3" });
    const { movements } = await world.ok(routes.movements, { query: { document: "C-1" } });
    expect(movements).toMatchObject([{ quantity: "4", kind: "count", counted: true, reason: "Four broken" }]);
    expect(await world.audit()).toEqual([]);
  });
  it("finds a lot that is known, and what it is worth where the person says so", async () => {
    const [lot] = (await sheetOf("FND-D")).stockByBin;
    const there = { ...lot, newBin: false };
    const { store, bin, lot: code } = there as { store: string; bin: string; lot: string };
    const done = await count("FND-D", "1000", { store, bin, lot: code, cost: "2" });
    expect(done.status).toBe(200);
    expect(await world.audit()).toEqual([]);
  });
  it("is refused at its field where nothing is to be put right, or it can't have been so", async () => {
    const refused = async (code: string, there: string, change: object) =>
      fieldsOf((await count(code, there, change)).error);
    expect(await refused("CRN-B", "47", {})).toEqual(["there count-same"]);
    expect(await refused("CRN-B", "1.5", {})).toHaveLength(1);
    expect(await refused("CRN-B", "40", { store: "Attic" })).toEqual(["store store-unknown"]);
    expect(await refused("CRN-B", "40", { bin: "99-Z" })).toEqual(["bin bin-unknown"]);
    expect(await refused("CRN-B", "40", { lot: "L-1" })).toEqual(["lot lot-not-tracked"]);
    expect(await refused("FND-D", "40", {})).toEqual(["lot lot-needed"]);
    expect(await refused("CRN-B", "40", { day: "2999-01-01" })).toEqual(["day day-future"]);
    expect(await refused("CRN-B", "40", { reason: "" })).toHaveLength(1);
    expect(await refused("LAB-B", "40", {})).toEqual(["item not-stocked"]);
    expect((await sheetOf("CRN-B")).onHand).toBe("47");
  });
  it("can be made of a bin that is new, and of one that is empty then", async () => {
    expect((await count("CRN-B", "5", { bin: "09-Z", newBin: true })).status).toBe(200);
    expect((await count("CRN-B", "0")).status).toBe(200);
    const { stockByBin } = await sheetOf("CRN-B");
    expect(stockByBin.map(({ bin, quantity }) => `${bin} ${quantity}`)).toEqual(["09-Z 5"]);
  });
});
