import { newItem, routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { takeIn } from "../testing/companies.ts";
import type { World } from "../testing/open.ts";
import { bareWorld, demoWorld, fieldsOf } from "../testing/world.ts";

const PNG =
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==";

const sheet = async (world: World, code: string) =>
  world.ok(routes.item, { params: { id: await world.idOf(code) } });

/** All that a form sends of an item as it is. */
const bodyOf = async (world: World, code: string, change: object = {}) => {
  const item = await sheet(world, code);
  return newItem.parse({ ...item, price: item.ownPrice, ...change });
};

const changed = async (world: World, code: string, change: object) =>
  world.call(routes.changeItem, {
    params: { id: await world.idOf(code) },
    body: await bodyOf(world, code, change),
  });

describe("an item in full", () => {
  it("keeps all that is said of it", async () => {
    const world = await demoWorld();
    const full = {
      group: "tools",
      barcode: "4006381333931",
      reorderLevel: "5",
      buildDays: 3,
      shelfLife: 90,
      warrantyMonths: 24,
      maker: "Calderan Metal",
      makerNumber: "CM-7",
      state: "phasing out",
      packs: [{ name: "box", quantity: "200" }],
      notes: "Two lines\nof notes",
    };
    expect((await changed(world, "CAN-12", full)).status).toBe(200);
    expect(await sheet(world, "CAN-12")).toMatchObject({ ...full, group: "Tools" });
    expect((await world.ok(routes.items, { query: { search: "4006381333931" } })).items[0]?.code).toBe(
      "CAN-12",
    );
    expect((await world.ok(routes.find, { query: { text: "4006381333931" } })).hits[0]).toMatchObject({
      kind: "item",
      text: "CAN-12",
      exact: true,
    });
    expect(fieldsOf((await changed(world, "BOX-D", { barcode: "4006381333931" })).error)).toEqual([
      "barcode barcode-taken",
    ]);
  });
  it("tells standard, current and last-purchase cost beside one another", async () => {
    const world = await demoWorld();
    const id = await world.idOf("LBL-F");
    await takeIn(world, id, "67", { unitCost: "0.2" });
    const { cost, unitCost, lastCost } = await sheet(world, "LBL-F");
    // 33 at 0.12 and 67 at 0.20
    expect([cost, unitCost, lastCost]).toEqual(["0.12", "0.1736", "0.2000"]);
  });
  it("says what it lacks, and can be looked for by that", async () => {
    const world = await demoWorld();
    await world.ok(routes.newItem, { body: { code: "A-1", name: "Bare", kind: "bought", unit: "pc" } });
    await world.ok(routes.newItem, { body: { code: "A-2", name: "Set", kind: "kit", unit: "pc" } });
    const { items } = await world.ok(routes.items, { query: { lacking: "true" } });
    expect(items.map((i) => `${i.code} ${i.lacks}`)).toEqual([
      "A-1 cost,supplier",
      "A-2 contents,price",
      "EXT-2R list",
      "STRIP-T supplier",
      "SYRG-5 supplier",
      "TRAY-D supplier",
    ]);
  });
  it("is copied with its suppliers, its list and its own fields, but not its barcode", async () => {
    const world = await demoWorld();
    const field = await world.ok(routes.newCustomField, { body: { name: "Colour", type: "text" } });
    const params = { id: await world.idOf("HON-4") };
    await world.ok(routes.fillIn, {
      body: { owner: "item", ...params, code: "", values: [{ field: field.id, value: "amber" }] },
    });
    await world.ok(routes.copyItem, { params, body: { code: "HON-5", name: "Honey, creamed" } });
    const copy = await sheet(world, "HON-5");
    expect([copy.price, copy.barcode, copy.list?.lines.length, copy.list?.revision.state]).toEqual([
      "6.90",
      "",
      5,
      "draft",
    ]);
    expect(copy.custom.map((o) => o.value)).toEqual(["amber"]);
    const kit = { id: await world.idOf("KIT-YARD") };
    await world.ok(routes.copyItem, { params: kit, body: { code: "KIT-YARD2", name: "Another" } });
    expect((await sheet(world, "KIT-YARD2")).kit?.contents.map((c) => c.swaps.length)).toEqual([
      0, 2, 1, 0, 0,
    ]);
    const taken = await world.call(routes.copyItem, { params: kit, body: { code: "box-d", name: "X" } });
    expect(fieldsOf(taken.error)).toEqual(["code code-taken"]);
  });
  it("is removed while nothing was done with it, and archived afterwards", async () => {
    const world = await demoWorld();
    const remove = async (code: string) =>
      world.call(routes.removeItem, { params: { id: await world.idOf(code) } });
    expect((await remove("BOX-D")).error.message).toBe(
      "BOX-D has stock movements, so it can't be removed. Archive it instead.",
    );
    await world.ok(routes.newItem, { body: { code: "A-1", name: "New", kind: "bought", unit: "pc" } });
    expect((await remove("A-1")).status).toBe(200);
    expect((await world.ok(routes.items, { query: { search: "A-1", state: "all" } })).total).toBe(0);
    expect((await changed(world, "BOX-D", { state: "archived" })).error.fields[0]?.message).toBe(
      "BOX-D can't be archived yet: there is stock of it.",
    );
    await world.ok(routes.newItem, { body: { code: "A-2", name: "New", kind: "bought", unit: "pc" } });
    await changed(world, "A-2", { state: "archived" });
    expect((await world.ok(routes.items, { query: { search: "A-2" } })).total).toBe(0);
    expect((await world.ok(routes.items, { query: { state: "archived" } })).total).toBe(1);
  });
});

describe("several items", () => {
  it("are archived, brought back and removed together; what can't be is named and keeps none back", async () => {
    const world = await demoWorld();
    for (const code of ["A-1", "A-2"])
      await world.ok(routes.newItem, { body: { code, name: "New", kind: "bought", unit: "pc" } });
    const items = await Promise.all(["A-1", "BOX-D", "A-2"].map(world.idOf));
    const archived = await world.ok(routes.setItemStates, { body: { items, state: "archived" } });
    expect(archived.done.map((item) => `${item.code} ${item.before}`)).toEqual(["A-1 active", "A-2 active"]);
    expect(archived.refused.map((item) => item.why)).toEqual([
      "BOX-D can't be archived yet: there is stock of it.",
    ]);
    // What a search leaves out is counted beside what it found.
    const found = await world.ok(routes.items, { query: { search: "A-1" } });
    expect([found.total, found.archived]).toEqual([0, 1]);
    await world.ok(routes.setItemStates, {
      body: { items: archived.done.map(({ id }) => id), state: "active" },
    });
    expect((await world.ok(routes.items, { query: { search: "A-1" } })).total).toBe(1);
    const removed = await world.ok(routes.removeItems, { body: { items } });
    expect(removed.done.map((item) => item.code)).toEqual(["A-1", "A-2"]);
    expect(removed.refused.map((item) => item.why)).toEqual([
      "BOX-D has stock movements, so it can't be removed. Archive it instead.",
    ]);
    const twice = await world.call(routes.removeItems, { body: { items: [items[1], items[1]] } });
    expect(fieldsOf(twice.error)).toEqual(["items.1 invalid-input"]);
  });
  it("are not archived while a draft with parts of its own is to take them", async () => {
    const world = await demoWorld();
    await world.ok(routes.newItem, { body: { code: "A-1", name: "New", kind: "bought", unit: "pc" } });
    const item = await world.idOf("A-1");
    const product = await world.idOf("HIVE-N");
    const parts = [{ item, quantity: "1", note: "" }];
    await world.ok(routes.newBuild, { body: { product, quantity: "1", due: null, note: "", parts } });
    const { refused } = await world.ok(routes.setItemStates, { body: { items: [item], state: "archived" } });
    expect(refused.map((r) => r.why)).toEqual(["A-1 can't be archived yet: open builds need it."]);
  });
});

describe("the list of items", () => {
  it("comes in pages that begin where the last ended, in every order", async () => {
    const world = await demoWorld();
    for (const sort of ["code", "name", "kind", "free", "onHand", "price"] as const)
      for (const descending of ["false", "true"]) {
        const all = await world.ok(routes.items, { query: { sort, descending } });
        const paged: string[] = [];
        let after: string | null = "";
        while (after !== null) {
          const page: typeof all = await world.ok(routes.items, {
            query: { sort, descending, limit: 7, ...(after && { after }) },
          });
          paged.push(...page.items.map((i) => i.code));
          after = page.next;
        }
        expect(paged, `${sort} ${descending}`).toEqual(all.items.map((i) => i.code));
        expect(paged.length).toBe(44);
      }
    const odd = await world.call(routes.items, { query: { after: "nonsense" } });
    expect([odd.status, fieldsOf(odd.error)]).toEqual([400, ["after invalid-input"]]);
  });
  it("is filtered by group, kind and state", async () => {
    const world = await demoWorld();
    const codes = async (query: Record<string, string>) =>
      (await world.ok(routes.items, { query })).items.map((i) => i.code);
    expect(await codes({ group: "care" })).toEqual(["CARD-C", "STRIP-T", "SYRG-5", "TRAY-D"]);
    expect(await codes({ kind: "kit", search: "set" })).toEqual([
      "KIT-CARE",
      "KIT-CLUB",
      "KIT-TOOL",
      "KIT-YARD",
    ]);
    expect(await codes({ state: "phasing out" })).toEqual([]);
  });
});

describe("suppliers", () => {
  const ask = (supplier: string, change: object = {}) => ({
    supplier,
    theirCode: "",
    price: "17.2",
    leadDays: 12,
    minimum: "10",
    multiple: "6",
    web: "",
    preferred: false,
    ...change,
  });
  it("of an item are several, one of them preferred; a single one is by itself", async () => {
    const world = await demoWorld();
    const params = { id: await world.idOf("HTL-J") };
    const put = (...suppliers: object[]) =>
      world.call(routes.changeSuppliers, { params, body: { suppliers } });
    await put(ask("cald"));
    expect((await sheet(world, "HTL-J")).suppliers).toMatchObject([{ supplier: "CALD", preferred: true }]);
    await put(ask("CALD"), ask("NORR", { preferred: true, price: null, web: "https://norrfold.example/x" }));
    expect((await sheet(world, "HTL-J")).suppliers.map((s) => [s.name, s.preferred])).toEqual([
      ["Norrfold Joinery", true],
      ["Calderan Metal", false],
    ]);
    const bad = async (...suppliers: object[]) => fieldsOf((await put(...suppliers)).error);
    expect(await bad(ask("NONE"))).toEqual(["suppliers.0.supplier supplier-unknown"]);
    expect(await bad(ask("CALD"), ask("cald"))).toEqual(["suppliers.1.supplier supplier-repeated"]);
    expect(await bad(ask("CALD", { minimum: "2.5" }))).toEqual(["suppliers.0.minimum decimals"]);
    expect(await bad(ask("CALD", { web: "norrfold" }))).toEqual(["suppliers.0.web invalid-input"]);
    expect(await bad(ask("CALD", { preferred: true }), ask("NORR", { preferred: true }))).toEqual([
      "suppliers.1.preferred preferred-twice",
    ]);
  });
  it("and customers are found, changed and archived; a code is theirs alone", async () => {
    const world = await demoWorld();
    const found = await world.ok(routes.firms, { query: { kind: "supplier", search: "metal" } });
    expect([found.firms.map((f) => f.code), found.total]).toEqual([["CALD"], 1]);
    const firm = await world.ok(routes.firm, { params: { id: found.firms[0]?.id ?? 0 } });
    expect(firm.supplies.map((s) => s.code)).toContain("SMK-S");
    const { id: _, kind, items, supplies, ...body } = firm;
    const change = (more: object) =>
      world.call(routes.changeFirm, { params: { id: firm.id }, body: { ...body, ...more } });
    expect((await change({ terms: "14 days", archived: true })).answer.terms).toBe("14 days");
    expect(fieldsOf((await change({ code: "norr" })).error)).toEqual(["code firm-taken"]);
    expect(fieldsOf((await change({ email: "nowhere" })).error)).toEqual(["email invalid-input"]);
    // a customer may have the code of a supplier: they are looked for in different places
    const made = await world.ok(routes.newFirm, { body: { ...body, kind: "customer", code: "CALD" } });
    expect(made.kind).toBe("customer");
  });
});

describe("kits", () => {
  it("of the demo are as they are sold", async () => {
    const world = await demoWorld();
    const yard = await sheet(world, "KIT-YARD");
    expect(yard.kit?.contents.map((c) => c.share)).toEqual(["143.05", "50.59", "12.65", "24.34", "8.37"]);
    // two hives on the shelf
    expect([
      yard.free,
      yard.kit?.sets,
      yard.kit?.contents.filter((c) => c.limiting).map((c) => c.item.code),
    ]).toEqual(["2", "2", ["HIVE-N"]]);
    const tool = await sheet(world, "KIT-TOOL");
    // 27.90 + 9.60 + 14.50 less a tenth; costs 17.20 + 5.10 + 8.30
    expect([tool.price, tool.ownPrice, tool.unitCost]).toEqual(["46.80", null, "30.6000"]);
    expect((await sheet(world, "KIT-CLUB")).kit).toMatchObject({ contentsShown: false, mayBeAddedTo: true });
  });
  it("are no stock, no part of a product, and hold no kit", async () => {
    const world = await demoWorld();
    const params = { id: await world.idOf("KIT-TOOL") };
    const content = (item: string, change: object = {}) => ({
      item,
      quantity: "1",
      swap: "fixed",
      swaps: [],
      quantityMayChange: false,
      mayBeLeftOut: false,
      ...change,
    });
    const put = async (...contents: object[]) =>
      fieldsOf(
        (
          await world.call(routes.saveKit, {
            params,
            body: {
              contentsShown: true,
              mayBeAddedTo: false,
              priceRule: "sum",
              discount: "5",
              price: null,
              contents,
            },
          })
        ).error,
      );
    expect(await put(content("KIT-CARE"))).toEqual(["contents.0.item part-is-kit"]);
    expect(await put(content("SMK-S"), content("LAB-B"))).toEqual(["contents.1.item not-stocked"]);
    expect(await put(content("SMK-S", { swap: "listed" }))).toEqual(["contents.0.swaps swaps-needed"]);
    expect(await put()).toEqual(["contents invalid-input"]);
    const list = await world.call(routes.saveList, {
      params: { id: await world.idOf("HIVE-N") },
      body: { makes: "1", usual: "1", lines: [{ part: "KIT-TOOL", quantity: "1", unit: "pc" }] },
    });
    expect(fieldsOf(list.error)).toEqual(["lines.0.part part-is-kit"]);
  });
});

describe("prices", () => {
  it("below the margin wished for are listed, worst first, and changed together", async () => {
    const world = await demoWorld();
    const low = await world.ok(routes.prices, { query: { wish: "38" } });
    const bad = low.rows.map((r) => `${r.code} ${r.percent} ${r.suggested} ${r.ownPrice}`);
    expect(bad).toEqual(expect.arrayContaining(["KIT-TOOL 34.6 49.36 false"]));
    expect(low.rows.map((r) => Number(r.percent))).toEqual(
      [...low.rows.map((r) => Number(r.percent))].sort((a, b) => a - b),
    );
    const own = low.rows.filter((r) => r.ownPrice);
    const changes = own.map((r) => ({ item: r.id, price: r.suggested ?? "0" }));
    expect(await world.ok(routes.reprice, { body: { wish: "38", prices: changes } })).toEqual({
      changed: own.length,
    });
    const after = await world.ok(routes.prices, {});
    expect([after.wish, after.rows.map((r) => r.code)]).toEqual(["38", ["KIT-TOOL"]]);
    const follows = await world.call(routes.reprice, {
      body: { wish: "38", prices: [{ item: await world.idOf("KIT-TOOL"), price: "50" }] },
    });
    expect(fieldsOf(follows.error)).toEqual(["prices.0.price price-follows"]);
  });
});

describe("units", () => {
  const unit = { name: "bundle", dimension: "count", factor: "25", decimals: 0, rec20: "BE" } as const;
  it("are made and changed; what figures are told in stays once it is used", async () => {
    const world = await demoWorld();
    await world.ok(routes.newUnit, { body: { code: "bundle", ...unit } });
    expect((await world.call(routes.newUnit, { body: { code: "bundle", ...unit } })).error.code).toBe(
      "unit-taken",
    );
    const put = (code: string, body: object) => world.call(routes.changeUnit, { params: { code }, body });
    expect((await put("bundle", { ...unit, factor: "30" })).answer.factor).toBe("30");
    const kg = { name: "kilogram", dimension: "mass", factor: "1000", decimals: 3, rec20: "KGM" };
    expect(fieldsOf((await put("kg", { ...kg, factor: "1001" })).error)).toEqual(["factor unit-in-use"]);
    expect((await put("kg", { ...kg, decimals: 6 })).status).toBe(200);
    expect((await put("kg", { ...kg, rec20: "kg" })).error.fields[0]?.field).toBe("rec20");
  });
  it("keep the decimals that are in use, and say where", async () => {
    const world = await demoWorld();
    const litre = { name: "litre", dimension: "volume", factor: "1000", decimals: 1, rec20: "LTR" };
    const { error } = await world.call(routes.changeUnit, { params: { code: "L" }, body: litre });
    expect(error.fields[0]?.message).toBe(
      "1 decimal is too few for what is recorded: stock of GLUE-W (4.25 L), stock of SYR-72 (99.96 L), stock of THY-O (0.54 L). Change these first.",
    );
  });
});

describe("groups", () => {
  it("are named once, changed, and removed without their items", async () => {
    const world = await demoWorld();
    const body = {
      name: "Hive parts",
      unit: "pc",
      tracking: null,
      drawnAt: "finish",
      store: "yard",
    } as const;
    expect(fieldsOf((await world.call(routes.newGroup, { body })).error)).toEqual(["name name-taken"]);
    const { groups } = await world.ok(routes.groups, {});
    const hive = groups.find((g) => g.name === "Hive parts");
    expect(hive?.items).toBe(4);
    const params = { id: hive?.id ?? 0 };
    expect(await world.ok(routes.changeGroup, { params, body })).toMatchObject({
      store: "Yard",
      drawnAt: "finish",
    });
    expect((await sheet(world, "BOX-D")).drawnAt).toBe("finish");
    await world.ok(routes.removeGroup, { params });
    expect((await sheet(world, "BOX-D")).group).toBe("");
  });
});

describe("fields of one's own", () => {
  it("are filled in for items, lists, lots and serials alike, each by its type", async () => {
    const world = await demoWorld();
    const make = (name: string, type: string) => world.ok(routes.newCustomField, { body: { name, type } });
    const [text, number, day, yes] = [
      await make("Colour", "text"),
      await make("Weight", "number"),
      await make("Checked on", "date"),
      await make("Organic", "yes/no"),
    ];
    const id = await world.idOf("SYR-72");
    const fill = (owner: string, code: string, field: { id: number }, value: string, of = id) =>
      world.call(routes.fillIn, { body: { owner, id: of, code, values: [{ field: field.id, value }] } });
    expect((await fill("item", "", number, "12.5")).status).toBe(200);
    expect(fieldsOf((await fill("item", "", number, "heavy")).error)).toEqual([
      "values.0.value custom-number",
    ]);
    expect(fieldsOf((await fill("item", "", day, "soon")).error)).toEqual(["values.0.value custom-day"]);
    expect(fieldsOf((await fill("item", "", yes, "perhaps")).error)).toEqual(["values.0.value custom-yes"]);
    expect((await fill("lot", "HS-118", yes, "yes")).status).toBe(200);
    expect((await fill("lot", "HS-999", yes, "yes")).status).toBe(404);
    expect((await fill("serial", "SC-2041", text, "grey", await world.idOf("SCL-E"))).status).toBe(200);
    const list = (await sheet(world, "FRM-A")).list?.list ?? 0;
    expect((await fill("list", "", day, "2026-11-20", list)).status).toBe(200);
    const syrup = await sheet(world, "SYR-72");
    expect(syrup.custom.find((o) => o.name === "Weight")?.value).toBe("12.5");
    const lot = syrup.stockByBin.find((l) => l.lot === "HS-118");
    expect(lot?.custom.find((o) => o.name === "Organic")?.value).toBe("yes");
    expect((await sheet(world, "FRM-A")).list?.custom.find((o) => o.name === "Checked on")?.value).toBe(
      "2026-11-20",
    );
    await fill("item", "", number, "");
    expect((await sheet(world, "SYR-72")).custom.find((o) => o.name === "Weight")?.value).toBe("");
    expect((await world.call(routes.newCustomField, { body: { name: "colour", type: "text" } })).status).toBe(
      409,
    );
    await world.ok(routes.removeCustomField, { params: { id: yes.id } });
    expect((await world.ok(routes.customFields, {})).fields.map((f) => [f.name, f.used])).toEqual([
      ["Checked on", 1],
      ["Colour", 1],
      ["Weight", 0],
    ]);
  });
});

describe("files", () => {
  const attach = (world: World, to: string, id: number, change: object = {}) =>
    world.call(routes.attachFile, {
      body: { to, id, name: "hive.png", type: "image/png", content: PNG, thumbnail: null, ...change },
    });
  it("are attached to items and lists, handed out as they came, and removed", async () => {
    const world = await demoWorld();
    const item = await sheet(world, "HIVE-N");
    const text = {
      name: "drawing ä.txt",
      type: "text/html",
      content: Buffer.from("<b>bees</b>").toString("base64"),
    };
    const { answer } = await attach(world, "item", item.id, text);
    await attach(world, "list", item.list?.list ?? 0);
    const file = await world.app.inject(`/api/files/${answer.id}`);
    expect([file.body, file.headers["content-type"]]).toEqual(["<b>bees</b>", "application/octet-stream"]);
    expect(file.headers["content-disposition"]).toBe("attachment; filename*=UTF-8''drawing%20%C3%A4.txt");
    const after = await sheet(world, "HIVE-N");
    expect([after.files.map((f) => f.size), after.list?.files.map((f) => f.type)]).toEqual([
      [11],
      ["image/png"],
    ]);
    await world.ok(routes.removeFile, { params: { id: answer.id } });
    expect((await sheet(world, "HIVE-N")).files).toEqual([]);
  });
  it("as pictures are what their bytes say, and take each other's place", async () => {
    const world = await demoWorld();
    const { id } = await sheet(world, "HIVE-N");
    expect(fieldsOf((await attach(world, "picture", id, { content: "YWJj" })).error)).toEqual([
      "content file-type",
    ]);
    const first = (await attach(world, "picture", id, { thumbnail: PNG })).answer.id;
    const second = (await attach(world, "picture", id)).answer.id;
    expect((await sheet(world, "HIVE-N")).thumbnail).toBe(second);
    expect((await world.app.inject(`/api/files/${first}`)).statusCode).toBe(404);
    const shown = await world.app.inject(`/api/files/${second}?small=true`);
    expect([shown.headers["content-type"], shown.rawPayload.toString("base64")]).toEqual(["image/png", PNG]);
    await world.ok(routes.removeFile, { params: { id: second } });
    expect((await sheet(world, "HIVE-N")).thumbnail).toBeNull();
  });
  it("belong to something that is there", async () => {
    expect((await attach(await bareWorld(), "item", 9)).status).toBe(404);
  });
});
