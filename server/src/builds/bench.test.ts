import { routes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { beforeEach, describe, expect, it } from "vitest";
import { takeIn } from "../testing/companies.ts";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, fieldsOf, finishOf, usedOf } from "../testing/world.ts";

let world: World;

beforeEach(async () => {
  world = await demoWorld();
});

const LOT = { lot: "AF-02", expiry: "2027-09-30", bin: "04-C" };

const sheetOf = (id: number) => world.ok(routes.build, { params: { id } });

const line = async (id: number, code: string) => {
  const found = (await sheetOf(id)).lines.find((l) => l.item.code === code);
  if (!found) throw new Error(`no line ${code}`);
  return found;
};

const handOut = (id: number, some = false) =>
  world.call(routes.handOut, { params: { id }, body: { day: TODAY, some } });

const freeOf = async (code: string) => {
  const { items } = await world.ok(routes.items, { query: { search: code } });
  return items.find((i) => i.code === code)?.free;
};

const stockValue = async () => {
  const { items } = await world.ok(routes.items, {});
  return items.reduce((total, item) => total.plus(item.value), decimal(0)).toFixed(4);
};

describe("parts handed out to a build", () => {
  it("leave the store for the bench, where they are nobody else's; what is drawn at finish stays", async () => {
    const id = await world.queued("FRM-A", "40");
    const value = await stockValue();
    expect((await handOut(id)).answer.stage).toBe("on the bench");
    expect(await line(id, "FRM-D")).toMatchObject({ bench: "40", open: "0" });
    expect(await line(id, "PIN-20")).toMatchObject({ bench: "0", open: "0.4" });
    expect(await stockValue()).toBe(value);
    const { item } = await line(id, "FRM-D");
    const { stockByBin: lying } = await world.ok(routes.item, { params: { id: item.id } });
    expect(lying).toContainEqual(expect.objectContaining({ store: "Bench", bin: "B-1", quantity: "40" }));
    expect(await world.audit()).toEqual([]);
  });
  it("come from the store that their line names, and from elsewhere only what is missing there", async () => {
    const item = await world.idOf("CRN-B");
    await takeIn(world, item, "3", { unitCost: "6.10", store: "Yard", bin: "Y9-Z" });
    const crown = { part: "CRN-B", quantity: "1", unit: "pc", store: "Yard" };
    const params = { id: await world.idOf("HIVE-C") };
    await world.ok(routes.saveList, { params, body: { makes: "1", usual: "1", lines: [crown] } });
    const where = async (id: number) => {
      const { lines } = await world.ok(routes.previewFinish, { params: { id }, body: finishOf("4") });
      return lines[0]?.taken.map((t) => `${t.store} ${t.bin} ${t.quantity}`);
    };
    const id = await world.queued("HIVE-C", "4");
    const [yards, other] = (await where(id)) ?? [];
    expect(yards).toBe("Yard Y9-Z 3");
    expect(other).toMatch(/^(Yard|Front store) .* 1$/);
    await handOut(id);
    const { stockByBin: lying } = await world.ok(routes.item, { params: { id: item } });
    expect(lying.some((spot) => spot.bin === "Y9-Z" && spot.quantity !== "0")).toBe(false);
    expect(await world.audit()).toEqual([]);
  });
  it("are used first, and their value was fixed when they were handed out", async () => {
    const id = await world.queued("FEED-12", "20");
    await handOut(id);
    // Dearer syrup comes in; what is on the bench keeps what it carried.
    const syrup = await world.idOf("SYR-72");
    const { item } = await line(id, "SYR-72");
    const { stockByBin: lying } = await world.ok(routes.item, { params: { id: item.id } });
    const [lot] = lying.filter((l) => l.lot === "HS-118");
    const dear = { unitCost: "9", store: "Yard", lot: "HS-118", expiry: lot?.expiry ?? null };
    await takeIn(world, syrup, "100", dear);
    const body = finishOf("20", LOT);
    const preview = await world.ok(routes.previewFinish, { params: { id }, body });
    expect(preview.lines[0]).toMatchObject({ used: "249.9", fromBench: "249.9", cost: "337.3650" });
    const more = await world.ok(routes.previewFinish, {
      params: { id },
      body: { ...body, lines: [usedOf(1, "251.4")] },
    });
    expect(more.lines[0]?.fromBench).toBe("249.9");
    expect(more.lines[0]?.taken.map((t) => [t.store, t.quantity])).toEqual([
      ["Bench", "99.96"],
      ["Bench", "149.94"],
      ["Yard", "1.5"],
    ]);
  });
  it("are charged by the share of the units in a part finish, and the last takes the rest (docs/rules.md § 5)", async () => {
    const id = await world.queued("FEED-12", "20");
    await handOut(id);
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("10", LOT) });
    const first = (await sheetOf(id)).finishes[0];
    const costs = (finish: typeof first) =>
      Object.fromEntries(finish?.lines.map((l) => [l.line, l.cost]) ?? []);
    // Labels: 11 of 21 leave the bench, and that share of their value is charged.
    expect(first?.lines[3]).toMatchObject({ used: "11", cost: "1.3200" });
    expect(costs(first)).toMatchObject({ 1: "168.6825", 2: "4.4000", 3: "21.0000" });
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("10", LOT) });
    const last = (await sheetOf(id)).finishes[1];
    expect(costs(last)).toMatchObject({ 1: "168.6825", 2: "4.4000", 3: "21.0000", 4: "1.2000", 5: "0.0000" });
    expect(await line(id, "LBL-F")).toMatchObject({ bench: "0", used: "21" });
    expect(await world.audit()).toEqual([]);
  });
  it("go back to the bins they came from, lot by lot, at the value they had", async () => {
    const id = await world.queued("FEED-12", "20");
    const value = await stockValue();
    const free = await freeOf("SYR-72");
    await handOut(id);
    const { item } = await line(id, "SYR-72");
    await world.ok(routes.returnToStock, { params: { id }, body: { day: TODAY } });
    expect(await sheetOf(id)).toMatchObject({ stage: "queued" });
    expect(await line(id, "SYR-72")).toMatchObject({ bench: "0", open: "249.9" });
    expect([await stockValue(), await freeOf("SYR-72")]).toEqual([value, free]);
    const { stockByBin: lying } = await world.ok(routes.item, { params: { id: item.id } });
    expect(lying.map((l) => l.store)).not.toContain("Bench");
    await handOut(id);
    await world.ok(routes.cancelBuild, { params: { id } });
    expect([await stockValue(), (await sheetOf(id)).stage]).toEqual([value, "cancelled"]);
    expect(await world.audit()).toEqual([]);
  });
  it("left over at the last finish go back to their bins; in a part finish they stay, or go back where asked", async () => {
    const id = await world.queued("FEED-12", "20");
    await handOut(id);
    const part = { ...LOT, returnToStock: true };
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("10", part) });
    expect(await line(id, "LBL-F")).toMatchObject({ bench: "0", open: "10" });
    await handOut(id);
    const last = { ...LOT, lines: [usedOf(4, "8")] };
    const preview = await world.ok(routes.previewFinish, { params: { id }, body: finishOf("10", last) });
    expect(preview.lines[3]).toMatchObject({ planned: "10", used: "8", difference: "-2", back: "2" });
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("10", last) });
    expect(await line(id, "LBL-F")).toMatchObject({ bench: "0", open: "0", used: "19" });
    expect(await world.audit()).toEqual([]);
  });
  it("are refused where the books hold too few, naming each; what there is may be handed out all the same", async () => {
    const id = await world.queued("FEED-12", "40");
    const refused = await handOut(id);
    expect(refused.status).toBe(409);
    expect(refused.error.shorts?.map((s) => `${s.code} ${s.there} of ${s.needed}`)).toEqual([
      "SYR-72 399.96 of 499.8",
      "LBL-F 33 of 42",
    ]);
    expect((await handOut(id, true)).answer.stage).toBe("on the bench");
    expect(await line(id, "LBL-F")).toMatchObject({ bench: "33", open: "9" });
    expect((await handOut(id)).error.code).toBe("not-enough");
    expect(await world.audit()).toEqual([]);
  });
});

describe("an subcontractor", () => {
  it("has all parts in a place of its name, and its fee goes into the cost", async () => {
    const { firms } = await world.ok(routes.firms, { query: { kind: "supplier" } });
    const norr = firms.find((f) => f.code === "NORR")?.id ?? 0;
    const id = await world.queued("FRM-A", "40");
    const sheet = await sheetOf(id);
    const plan = { list: sheet.list?.id ?? null, options: [], due: null, note: "", subcontractor: norr };
    await world.ok(routes.changeBuild, { params: { id }, body: { ...plan, quantity: "40" } });
    await handOut(id);
    expect(await line(id, "PIN-20")).toMatchObject({ bench: "0.4", open: "0" });
    const { stockByBin: lying } = await world.ok(routes.item, {
      params: { id: (await line(id, "FRM-D")).item.id },
    });
    expect(lying.map((l) => l.store)).toContain("Norrfold Joinery");
    const fee = {
      item: await world.idOf("LAB-O"),
      supplier: norr,
      quantity: "2",
      expected: null,
      costTag: "",
    };
    await world.ok(routes.buyNeeds, {
      body: { lines: [{ ...fee, for: [{ build: id, product: null, quantity: "2" }] }] },
    });
    expect((await sheetOf(id)).fee).toMatchObject({ total: "50.00", orders: [{ number: "P-1" }] });
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("10", {}) });
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("30", {}) });
    expect((await sheetOf(id)).finishes.map((f) => f.cost.subcontractor)).toEqual(["12.5000", "37.5000"]);
    expect(await world.audit()).toEqual([]);
  });
});

describe("splitting, joining, copying", () => {
  it("splits what is queued: both reserve what they need, and what lies on the bench goes along", async () => {
    const id = await world.queued("FEED-12", "20");
    await handOut(id);
    const made = await world.ok(routes.splitBuild, { params: { id }, body: { quantity: "7" } });
    expect(made).toMatchObject({ quantity: "7", stage: "on the bench" });
    // 13 need 162.435 L and 14 labels, 7 need 87.465 L and 8: 21 were handed out.
    expect(await line(id, "SYR-72")).toMatchObject({ need: "162.435", bench: "162.435", open: "0" });
    expect(await line(made.id, "SYR-72")).toMatchObject({ need: "87.465", bench: "87.465", open: "0" });
    expect(await line(made.id, "LBL-F")).toMatchObject({ need: "8", bench: "7", open: "1" });
    expect(await line(made.id, "SHEET-S")).toMatchObject({ need: "1", bench: "0", open: "1" });
    expect(await sheetOf(made.id)).toMatchObject({ splitFrom: { number: "B-1" } });
    expect(await world.audit()).toEqual([]);
    await world.ok(routes.cancelBuild, { params: { id: made.id } });
    await world.ok(routes.cancelBuild, { params: { id } });
    expect(await freeOf("SYR-72")).toBe("399.96");
    const tooMany = await world.call(routes.splitBuild, { params: { id }, body: { quantity: "7" } });
    expect(tooMany.error.code).toBe("stage-wrong");
  });
  it("splits a draft, and never all of it", async () => {
    const product = await world.idOf("FEED-12");
    const body = { product, quantity: "20", due: "2026-12-01", note: "autumn" };
    const { id } = await world.ok(routes.newBuild, { body });
    const split = (quantity: string) => world.call(routes.splitBuild, { params: { id }, body: { quantity } });
    expect(fieldsOf((await split("20")).error)).toEqual(["quantity split-too-many"]);
    expect((await split("8")).answer).toMatchObject({ quantity: "8", due: "2026-12-01", stage: "draft" });
    expect((await sheetOf(id)).quantity).toBe("12");
  });
  it("joins two drafts of one product and says where the other went; refuses what differs", async () => {
    const draft = async (code: string, more: object = {}) => {
      const body = { product: await world.idOf(code), quantity: "8", due: null, note: "", ...more };
      return (await world.ok(routes.newBuild, { body })).id;
    };
    const [a, b] = [
      await draft("FEED-12", { note: "one" }),
      await draft("FEED-12", { note: "two", due: "2026-12-03" }),
    ];
    const join = (other: number) => world.call(routes.joinBuilds, { params: { id: a }, body: { other } });
    expect((await join(b)).answer).toMatchObject({ quantity: "16", due: "2026-12-03" });
    expect(await sheetOf(a)).toMatchObject({ note: "one · two" });
    expect(await sheetOf(b)).toMatchObject({ stage: "cancelled", joinedInto: { number: "B-1" } });
    expect((await join(await draft("HON-4"))).error.message).toContain("it makes another product");
    expect((await join(await draft("FEED-12", { costTag: "spring" }))).error.message).toContain(
      "another cost tag",
    );
  });
  it("copies an earlier build by its list, or by what it really used", async () => {
    const id = await world.queued("FEED-12", "8");
    const used = { ...LOT, lines: [usedOf(1, "100.5"), usedOf(4, "10")] };
    const copy = (quantity: string, actual: boolean) =>
      world.call(routes.copyBuild, { params: { id }, body: { quantity, due: null, actual } });
    expect(fieldsOf((await copy("4", true)).error)).toEqual(["actual nothing-used"]);
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("8", used) });
    const plain = (await copy("16", false)).answer;
    expect(await line(plain.id, "SYR-72")).toMatchObject({ need: "199.92" });
    const actual = (await copy("16", true)).answer;
    expect(await line(actual.id, "SYR-72")).toMatchObject({ need: "201" });
    expect(await line(actual.id, "LBL-F")).toMatchObject({ need: "20" });
    await world.ok(routes.queueBuild, { params: { id: actual.id } });
    expect(await line(actual.id, "SYR-72")).toMatchObject({ need: "201", open: "201" });
    expect(await sheetOf(actual.id)).toMatchObject({ asBuilt: { number: "B-1" } });
  });
  it("takes a queued build back to a draft while nothing is made of it", async () => {
    const id = await world.queued("FEED-12", "8");
    await world.ok(routes.unqueueBuild, { params: { id } });
    expect([(await sheetOf(id)).stage, await freeOf("SYR-72")]).toEqual(["draft", "399.96"]);
    await world.ok(routes.queueBuild, { params: { id } });
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("2", LOT) });
    expect((await world.call(routes.unqueueBuild, { params: { id } })).error.code).toBe("build-begun");
  });
  it("changes what a queued build is planned for, but not what it makes", async () => {
    const id = await world.queued("FEED-12", "8");
    const { list } = await sheetOf(id);
    const body = { quantity: "8", due: "2026-12-01", note: "soon", list: list?.id ?? null, options: [] };
    const change = (more: object) =>
      world.call(routes.changeBuild, { params: { id }, body: { ...body, ...more } });
    const plan = { priority: 2, assigned: 2, costTag: "spring", store: "Yard", bin: "Y1-A" };
    expect((await change(plan)).answer).toMatchObject({
      due: "2026-12-01",
      priority: 2,
      assigned: { name: "Tobias" },
      costTag: "spring",
    });
    expect(await sheetOf(id)).toMatchObject({ store: "Yard", bin: "Y1-A" });
    expect(fieldsOf((await change({ quantity: "9" })).error)).toEqual(["quantity build-as-it-is"]);
    expect(fieldsOf((await change({ assigned: 99 })).error)).toEqual(["assigned not-found"]);
    expect(fieldsOf((await change({ priority: 0 })).error)).toEqual(["priority invalid-input"]);
    const rows = async (query: Record<string, string | number>) =>
      (await world.ok(routes.builds, { query })).builds.map((b) => b.number);
    await world.queued("FEED-12", "1");
    expect([await rows({ tag: "spring" }), await rows({ person: 2 }), await rows({ person: 3 })]).toEqual([
      ["B-1"],
      ["B-1"],
      [],
    ]);
  });
});
