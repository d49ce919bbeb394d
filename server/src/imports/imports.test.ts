import { IMPORT_KINDS, type ImportFile, type ImportKind, LARGEST_FILE, routes } from "@yosegi/contract";
import { readSheet } from "read-excel-file/node";
import { describe, expect, it } from "vitest";
import writeXlsx from "write-excel-file/node";
import { demoFiles, demoText, fileOf } from "../testing/demo.ts";
import type { World } from "../testing/open.ts";
import { bareWorld, demoWorld, statementsOf } from "../testing/world.ts";

const ITEMS = "code,name,kind,unit,tracking,cost,price,store,bin";

const LISTS = "product,makes,usual,overhead,part,quantity,unit,waste,once_per_build";

const STOCK = "item,store,bin,quantity,unit_cost,cost_per,lot,expiry,serial";

const csv = (...rows: string[]) => rows.join("\r\n");

type Texts = Partial<Record<ImportKind, string>>;

const bodyOf = (texts: Texts | ImportFile[], update = false) => ({
  files: Array.isArray(texts)
    ? texts
    : Object.entries(texts).map(([kind, text]) => fileOf(kind as ImportKind, text)),
  update,
  job: "test",
});

const check = async (world: World, texts: Texts | ImportFile[], update = false) =>
  world.ok(routes.checkImport, { body: bodyOf(texts, update) });

const bring = async (world: World, texts: Texts | ImportFile[], update = false) => {
  const { token } = await check(world, texts, update);
  return world.ok(routes.import, { body: { ...bodyOf(texts, update), token, goodRowsOnly: false } });
};

const problems = async (world: World, texts: Texts) =>
  (await check(world, texts)).problems.map((p) => `${p.kind} ${p.row} ${p.field}: ${p.message}`);

/** What an export gives, as the file that an import takes. */
const exported = async (world: World, kind: ImportKind, format: "csv" | "xlsx"): Promise<ImportFile> => {
  const answer = await world.app.inject({ url: `/api/exports/${kind}?format=${format}` });
  return fileOf(kind, answer.rawPayload, { name: `${kind}.${format}` });
};

describe("importing the demo company", () => {
  it("says what would come in, writes nothing before it is confirmed, then all of it", async () => {
    const world = await bareWorld();
    await world.ok(routes.addPerson, { body: { name: "Tobias" } });
    const files = await demoFiles();
    const report = await check(world, files);
    expect(report.problems).toEqual([]);
    expect(report.files.map((f) => `${f.kind} ${f.rows} ${f.fresh} ${f.changed}`)).toEqual([
      "suppliers 7 7 0",
      "customers 4 4 0",
      "items 44 44 0",
      "prices 31 31 0",
      "priceLists 5 5 0",
      "partsLists 31 31 0",
      "kits 15 15 0",
      "stock 41 41 0",
    ]);
    expect(report.adds.fresh).toEqual({
      suppliers: 7,
      customers: 4,
      items: 44,
      prices: 31,
      priceLists: 5,
      partsLists: 6,
      kits: 4,
      stock: 41,
    });
    expect(report.adds.stores).toEqual(["Yard"]);
    expect(report.adds.groups).toContain("Clothing");
    expect((await world.ok(routes.items, {})).total).toBe(0);
    const body = { ...bodyOf(files), token: report.token, goodRowsOnly: false };
    const done = await world.ok(routes.import, { body });
    expect(done.document).toBe("I-1");
    expect((await world.ok(routes.items, {})).total).toBe(44);
    const syrup = await world.ok(routes.item, { params: { id: await world.idOf("SYR-72") } });
    expect([syrup.onHand, syrup.expired, syrup.free, syrup.group]).toEqual([
      "424.96",
      "25",
      "399.96",
      "Feed",
    ]);
    const ledger = await world.ok(routes.movements, { query: { document: "i-1", item: syrup.id } });
    expect(ledger.movements.map((m) => `${m.quantity} ${m.to} ${m.lot} ${m.value} ${m.person}`)).toEqual([
      "300 Yard Y1-A HS-118 405.0000 Ines",
      "99.96 Yard Y1-A HS-114 134.9460 Ines",
      "25 Yard Y1-A HS-109 33.7500 Ines",
    ]);
    expect(await world.audit()).toEqual([]);
  });
  it("finds all of it there the second time, and nothing to do", async () => {
    const world = await demoWorld();
    const report = await check(world, await demoFiles(), true);
    expect(report.files.map((f) => f.rows - f.same)).toEqual([0, 0, 0, 0, 0, 0, 0, 0]);
    expect([report.problems, report.changes]).toEqual([[], []]);
    const body = { ...bodyOf(await demoFiles()), token: report.token, goodRowsOnly: true };
    expect((await world.call(routes.import, { body })).error.code).toBe("import-nothing");
  });
});

describe("what is taken out and brought in again", () => {
  it.each(["csv", "xlsx"] as const)("changes nothing, as %s", async (format) => {
    const world = await demoWorld();
    const files = await Promise.all(IMPORT_KINDS.map((kind) => exported(world, kind, format)));
    const report = await check(world, files, true);
    expect([report.problems, report.changes]).toEqual([[], []]);
    expect(report.files.map((f) => [f.kind, f.fresh])).toEqual(IMPORT_KINDS.map((kind) => [kind, 0]));
  });
  it("makes the same company in an empty database", async () => {
    const from = await demoWorld();
    const to = await bareWorld();
    await to.ok(routes.addPerson, { body: { name: "Tobias" } });
    const out = (world: World) => Promise.all(IMPORT_KINDS.map((kind) => exported(world, kind, "csv")));
    const files = await out(from);
    await bring(to, files);
    expect(await out(to)).toEqual(files);
    expect(await to.audit()).toEqual([]);
  });
  it("gives a template with the header alone", async () => {
    const world = await demoWorld();
    const csvFile = await world.app.inject({ url: "/api/exports/kits?empty=true" });
    expect(csvFile.body.trim().split("\n").length).toBe(1);
    expect(csvFile.headers["content-disposition"]).toContain("kits.csv");
    const xlsx = await world.app.inject({ url: "/api/exports/stock?empty=true&format=xlsx" });
    expect(await readSheet(xlsx.rawPayload)).toEqual([STOCK.split(",")]);
  });
});

describe("what is there already", () => {
  const row = "SMK-S,Smoker with guard,bought,pc,none,17.90,27.90,Front store,10-A";
  it("is listed field by field, and changed only where that is asked for", async () => {
    const world = await demoWorld();
    const items = csv(ITEMS, row, "NEW-1,New part,bought,pc,none,1,,,");
    const report = await check(world, { items });
    expect(report.changes.map((c) => `${c.row} ${c.what} ${c.field}: ${c.before} → ${c.after}`)).toEqual([
      "2 SMK-S name: Smoker → Smoker with guard",
      "2 SMK-S cost: 17.2 → 17.9",
    ]);
    expect([report.adds.fresh.items, report.adds.changed.items]).toEqual([1, 0]);
    await bring(world, { items });
    expect((await world.ok(routes.item, { params: { id: await world.idOf("SMK-S") } })).name).toBe("Smoker");
    await bring(world, { items }, true);
    const sheet = await world.ok(routes.item, { params: { id: await world.idOf("SMK-S") } });
    // What the file has no column for stays.
    expect([sheet.name, sheet.cost, sheet.barcode, sheet.group]).toEqual([
      "Smoker with guard",
      "17.9",
      "2900001000017",
      "Tools",
    ]);
  });
  it("keeps the unit that its history is told in", async () => {
    const world = await demoWorld();
    const items = csv("code,name,kind,unit", "SMK-S,Smoker,bought,kg");
    expect(await problems(world, { items })).toEqual([
      "items 2 unit: You can't change the unit of SMK-S: it has stock movements. Copy it to a new item and change that.",
    ]);
  });
  it("of a locked parts list gets a next revision that is in force", async () => {
    const world = await demoWorld();
    const params = { id: await world.idOf("HON-4") };
    const before = (await world.ok(routes.item, { params })).list;
    if (!before) throw new Error("the demo has this list");
    const { makes, usual, overhead } = before;
    const lines = before.lines.map((line) => ({ ...line, part: line.part.code }));
    const instructions = "Warm the honey to 40 °C.";
    await world.ok(routes.saveList, { params, body: { makes, usual, overhead, lines, instructions } });
    await world.queued("HON-4", "1");
    const partsLists = (await demoText("partsLists"))
      .split("\n")
      .filter((line, i) => i === 0 || line.startsWith("HON-4"))
      .join("\n")
      .replace("1.5,no", "2,no");
    const report = await check(world, { partsLists }, true);
    expect(report.changes.map((c) => `${c.field} ${c.before} → ${c.after}`)).toEqual(["HON-B waste 1.5 → 2"]);
    await bring(world, { partsLists }, true);
    const { list } = await world.ok(routes.item, { params });
    expect([list?.revision.number, list?.revision.state, list?.lines[0]?.waste]).toEqual([2, "locked", "2"]);
    // A file says nothing of instructions.
    expect(list?.instructions).toBe(instructions);
  });
});

describe("a file with bad rows", () => {
  const items = csv(
    ITEMS,
    "BOX-D,Hive box,bought,pc,none,9.40,,Front store,01-A",
    "box-d,Hive box again,bought,pc,none,9.40,,,",
    "GLUE-W,Wood glue,bought,bottle,none,7.60,,,",
    "FLR-M,Mesh floor,bougt,pc,none,14.20,,,",
    "ROOF-M,Roof,bought,pc,none,-18.60,,,",
    "CRN-B,Crown board,bought,pc,none,six,,,",
    "FRM-A,Frame,built,pc,none,,5.90,,",
    "HIVE-N,Hive,built,pc,none,,164.00,,",
    'SUIT-M,"Suit, with ""veil""",bought,pc,none,36,,,,one too many',
  );
  it("lists each with row, field, value and reason", async () => {
    const world = await bareWorld();
    expect(await problems(world, { items })).toEqual([
      "items 3 code: Same code as row 2.",
      "items 4 unit: Unknown unit. Use one of: pc, pair, dozen, job, m, cm, kg, g, hour, min, L, mL.",
      "items 5 kind: The kind is one of: bought, built, kit, service.",
      "items 6 cost: The cost cannot be below zero.",
      "items 7 cost: “six” is not a number. Write it like 12.5.",
      "items 10 bin: This row has 10 fields, the header 9. A comma inside a field needs quotes around it.",
    ]);
    expect((await check(world, { items })).problems.find((p) => p.row === 7)?.value).toBe("six");
  });
  it("comes in only when the good rows are asked for, and then only these", async () => {
    const world = await bareWorld();
    const { token } = await check(world, { items });
    const body = { ...bodyOf({ items }), token, goodRowsOnly: false };
    expect((await world.call(routes.import, { body })).error.code).toBe("import-problems");
    expect((await world.ok(routes.items, {})).total).toBe(0);
    await world.ok(routes.import, { body: { ...body, goodRowsOnly: true } });
    expect((await world.ok(routes.items, {})).items.map((i) => i.code)).toEqual(["BOX-D", "FRM-A", "HIVE-N"]);
  });
  it("holds back a whole parts list for one wrong row, and stock of items that do not come in", async () => {
    const world = await bareWorld();
    const partsLists = csv(
      LISTS,
      "HIVE-N,,,,BOX-D,2,pc,,",
      "HIVE-N,,,,FRM-A,twenty,pc,,",
      "FRM-A,,,,BOX-D,1,pc,,maybe",
    );
    const stock = csv(STOCK, "BOX-D,Yard,,5,,,,,", "GLUE-W,Yard,,1,,,,,", "BOX-D,Yard,,0.5,,,,,");
    const report = await check(world, { items, partsLists, stock });
    expect(report.adds.fresh).toMatchObject({ items: 3, partsLists: 0, stock: 1 });
    expect(report.adds.stores).toEqual(["Yard"]);
    expect(
      report.problems.filter((p) => p.kind !== "items").map((p) => `${p.row} ${p.field}: ${p.message}`),
    ).toEqual([
      "2 product: HIVE-N was skipped because another of its rows has an error.",
      "3 quantity: “twenty” is not a number. Write it like 12.5.",
      "4 once_per_build: Write yes or no.",
      "3 item: GLUE-W is not in the catalog.",
      "4 quantity: A quantity in pc is a whole number.",
    ]);
  });
  it("refuses a confirmation of something else than was shown", async () => {
    const world = await bareWorld();
    const { token } = await check(world, { items });
    await world.ok(routes.newItem, {
      body: { code: "FRM-A", name: "Frame of another kind", kind: "built", unit: "pc" },
    });
    const body = { ...bodyOf({ items }), token, goodRowsOnly: true };
    const answer = await world.call(routes.import, { body });
    expect([answer.status, answer.error.code]).toEqual([409, "import-changed"]);
  });
  it("says what is wrong in cells of several things", async () => {
    const world = await bareWorld();
    const items = csv("code,name,kind,unit,packs", "A-1,A,bought,pc,box = many", "A-2,B,bought,pc,box = 1.5");
    expect(await problems(world, { items })).toEqual([
      "items 2 packs: “box = many” is no pack. Write it like pack = 2; several with ; between.",
      "items 3 packs.0.quantity: A quantity in pc is a whole number.",
    ]);
  });
});

describe("columns", () => {
  it("are found by name whatever their case, order and marks; others by hand, or left out", async () => {
    const world = await bareWorld();
    const items = csv(
      "Part no.,Description,KIND,Unit,Reorder Level,Colour",
      "A-1,Oak strip,bought,pc,5,brown",
    );
    const first = await check(world, { items });
    expect([first.files[0]?.missing, first.adds.fresh.items]).toEqual([["code", "name"], 0]);
    expect(first.files[0]?.columns).toEqual({ KIND: "kind", Unit: "unit", "Reorder Level": "reorder_level" });
    const columns = { "Part no.": "code", Description: "name" };
    await bring(world, [fileOf("items", items, { columns })]);
    const { items: made } = await world.ok(routes.items, {});
    expect(made.map((i) => `${i.code} ${i.name}`)).toEqual(["A-1 Oak strip"]);
  });
  it("that are missing leave units, tracking and store to the group", async () => {
    const world = await bareWorld();
    await world.ok(routes.newGroup, {
      body: { name: "Honey", unit: "kg", tracking: "lot", drawnAt: "finish", store: "Front store" },
    });
    await bring(world, { items: csv("code,name,kind,group", "HON-C,Honey,bought,honey") });
    const [item] = (await world.ok(routes.items, {})).items;
    expect([item?.unit, item?.tracking, item?.drawnAt]).toEqual(["kg", "lot", "finish"]);
  });
  it("may be parted by semicolons, with commas for decimals", async () => {
    const world = await bareWorld();
    await bring(world, { items: csv("code;name;kind;unit;cost", "A-1;Oak, planed;bought;m;1.234,5") });
    const sheet = await world.ok(routes.item, { params: { id: await world.idOf("A-1") } });
    expect([sheet.name, sheet.cost]).toEqual(["Oak, planed", "1234.5"]);
  });
  it("of an XLSX file are read as they are shown: numbers, days, yes and no", async () => {
    const world = await demoWorld();
    const text = (value: string) => ({ value, type: String });
    const sheet = await writeXlsx([
      ["item", "store", "bin", "quantity", "unit_cost", "lot", "expiry"].map(text),
      [
        text("SYR-72"),
        text("Yard"),
        text("Y1-A"),
        { value: 0.1 + 0.2, type: Number },
        { value: 1.35, type: Number },
        text("HS-200"),
        { value: new Date("2027-03-31T00:00:00Z"), type: Date, format: "yyyy-mm-dd" },
      ],
    ]).toBuffer();
    const report = await check(world, [fileOf("stock", sheet, { name: "stock.xlsx" })]);
    expect(report.problems.map((p) => p.message)).toEqual([
      "SYR-72 already has stock movements; opening stock is only for new items.",
    ]);
    const bare = await bareWorld();
    await bring(bare, { items: csv("code,name,kind,unit,tracking", "SYR-72,Syrup,bought,L,lot") });
    await bring(bare, [fileOf("stock", sheet, { name: "stock.xlsx" })]);
    const { stockByBin: lying } = await bare.ok(routes.item, { params: { id: await bare.idOf("SYR-72") } });
    expect(lying.map((l) => [l.quantity, l.expiry])).toEqual([["0.3", "2027-03-31"]]);
  });
});

describe("what is no such file", () => {
  const fileError = async (files: ImportFile[]) => {
    const world = await bareWorld();
    const { status, error } = await world.call(routes.checkImport, { body: bodyOf(files) });
    return `${status} ${error.fields[0]?.field}: ${error.fields[0]?.message ?? error.message}`;
  };
  it("a quote that never ends", async () => {
    expect(await fileError([fileOf("items", `${ITEMS}\r\nBOX-D,"Hive box,bought`)])).toMatch(
      /^422 items: This file can't be read: Quote Not Closed/,
    );
  });
  it("text in another encoding, and a broken spreadsheet", async () => {
    const latin = Buffer.from("code,name,kind\r\nA-1,Käfig,bought", "latin1");
    expect(await fileError([fileOf("items", latin)])).toContain("This file is not in UTF-8.");
    const broken = Buffer.concat([Buffer.from("PK\x03\x04"), Buffer.alloc(300, 7)]);
    expect(await fileError([fileOf("items", broken)])).toMatch(/^422 items: /);
  });
  it("a file over the limit, two of one kind, and none at all", async () => {
    expect(await fileError([fileOf("items", `${ITEMS}\r\n${"x".repeat(LARGEST_FILE)}`)])).toBe(
      "413 items: The file has 10.0 MB; the limit is 10 MB.",
    );
    expect(await fileError([fileOf("items", ITEMS), fileOf("items", ITEMS)])).toContain("two files");
    expect(await fileError([])).toContain("Choose at least one file.");
  });
});

describe("ten thousand rows", () => {
  const rows = Array.from({ length: 10_000 }, (_, i) => i);
  const texts = {
    items: csv(ITEMS, ...rows.map((i) => `P-${i},Part ${i},bought,pc,none,1.${i % 100},,,`)),
    stock: csv(STOCK, ...rows.map((i) => `P-${i},Front store,Z-${i % 90},${i + 1},,,,,`)),
  };
  it("come in with their stock in one transaction", async () => {
    const world = await bareWorld();
    await bring(world, texts);
    expect((await world.ok(routes.items, { query: { limit: 1 } })).total).toBe(10_000);
    expect(await world.audit()).toEqual([]);
  });
  it("tell how far they have come, and leave nothing when they are cancelled", async () => {
    const world = await bareWorld();
    const { token } = await check(world, texts);
    const body = { ...bodyOf(texts), job: "long", token, goodRowsOnly: false };
    let ended = false;
    const running = world.call(routes.import, { body }).finally(() => {
      ended = true;
    });
    const seen = new Set<string>();
    let cancelled = false;
    while (!cancelled && !ended) {
      // Asking takes no turn of the event loop by itself, which the import needs to get on.
      await new Promise((resolve) => setImmediate(resolve));
      const { progress } = await world.ok(routes.jobProgress, { params: { job: "long" } });
      if (progress) seen.add(progress.step);
      if (progress?.step === "Writing items")
        ({ cancelled } = await world.ok(routes.cancelJob, { params: { job: "long" } }));
    }
    const { status, error } = await running;
    expect([status, error.code]).toEqual([409, "cancelled"]);
    expect([...seen]).toContain("Reading items");
    expect((await world.ok(routes.items, {})).total).toBe(0);
    expect((await world.ok(routes.jobProgress, { params: { job: "long" } })).progress).toBeNull();
    // Its number was not used up either: the next import is the first.
    expect((await bring(world, { items: csv(ITEMS, "A-1,A,bought,pc,none,1,,,") })).document).toBe("I-1");
  });
});

describe("many lists and kits in one file", () => {
  const partsLists = (products: number, list = "") => ({
    items: csv(
      ITEMS,
      "PART,Part,bought,pc,none,1,,,",
      ...Array.from({ length: products }, (_, i) => `MADE-${i},Made ${i},built,pc,none,,,,`),
      ...Array.from({ length: products }, (_, i) => `KIT-${i},Kit ${i},kit,pc,none,,9,,`),
    ),
    partsLists: csv(
      "product,list,makes,part,quantity,unit",
      ...Array.from({ length: products }, (_, i) => `MADE-${i},${list},1,PART,${i + 1},pc`),
    ),
    kits: csv(
      "kit,content,quantity",
      ...Array.from({ length: products }, (_, i) => `KIT-${i},PART,${i + 1}`),
    ),
  });

  it("are written together: thirty take no more statements than two", async () => {
    const counts: number[] = [];
    for (const products of [2, 30]) {
      const world = await demoWorld();
      const texts = partsLists(products);
      const { token } = await check(world, texts);
      const body = { ...bodyOf(texts), token, goodRowsOnly: false };
      counts.push(await statementsOf(() => world.ok(routes.import, { body })));
      const last = await world.idOf(`MADE-${products - 1}`);
      const { lists } = await world.ok(routes.lists, { params: { id: last } });
      const { lines } = await world.ok(routes.revision, { params: { id: lists[0]?.revisions[0]?.id ?? 0 } });
      expect(lines.map((line) => [line.part.code, line.quantity])).toEqual([["PART", String(products)]]);
    }
    expect(counts[1]).toBe(counts[0]);
  });

  it("a main list that is named in some rows and not in others is one list", async () => {
    const world = await demoWorld();
    const texts = {
      items: csv(
        ITEMS,
        "PART,Part,bought,pc,none,1,,,",
        "GLUE,Glue,bought,pc,none,1,,,",
        "MADE,Made,built,pc,none,,,,",
      ),
      partsLists: csv(
        "product,list,makes,part,quantity,unit",
        "MADE,,1,PART,1,pc",
        "MADE,main,1,GLUE,2,pc",
        "MADE,Spare,1,PART,3,pc",
      ),
    };
    expect((await check(world, texts)).adds.fresh.partsLists).toBe(2);
    await bring(world, texts);
    const lists = await world.ok(routes.lists, { params: { id: await world.idOf("MADE") } });
    expect(lists.lists.map((list) => [list.name, list.main])).toEqual([
      ["Main", true],
      ["Spare", false],
    ]);
  });
});

it("names longer than the database keeps are problems of their rows, not failures", async () => {
  const world = await demoWorld();
  const long = (letters: number) => "n".repeat(letters);
  const texts = {
    items: csv(
      `${ITEMS},packs`,
      `A,A,bought,pc,none,1,,,,${long(41)} = 2`,
      `B,B,bought,pc,none,1,,${long(121)},,`,
    ),
    partsLists: csv("product,list,makes,part,quantity,unit", `FEED-12,${long(61)},1,SYR-72,1,L`),
    stock: csv(STOCK, `SYR-72,${long(121)},,1,1,,HS-1,,`),
  };
  expect((await problems(world, texts)).map((problem) => problem.replace(/^(\w+ \d+ \w+).*/, "$1"))).toEqual([
    "items 2 packs",
    "items 3 store",
    "partsLists 2 list",
    "stock 2 store",
  ]);
});
