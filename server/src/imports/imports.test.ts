import { LARGEST_FILE, routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { bareWorld, demoFiles, demoWorld, type World } from "../testing/world.ts";

const ITEMS = "code,name,kind,unit,tracking,cost,price,store,bin";
const LISTS = "product,makes,usual,overhead,part,quantity,unit,waste,once_per_build";
const STOCK = "item,store,bin,quantity,unit_cost,lot,expiry,serial";
const none = { items: null, partsLists: null, stock: null };
const csv = (...rows: string[]) => rows.join("\r\n");

const check = async (world: World, files: object) =>
  await world.ok(routes.checkImport, { body: { ...none, ...files } });
const problems = async (world: World, files: object) =>
  (await check(world, files)).problems.map((p) => `${p.file} ${p.row} ${p.field}: ${p.message}`);

describe("importing the demo company", () => {
  it("says what would come in, writes nothing before it is confirmed, then all of it", async () => {
    const world = await bareWorld();
    const files = await demoFiles();
    const report = await check(world, files);
    expect(report.problems).toEqual([]);
    expect(report.files).toEqual([
      { file: "items", rows: 40, good: 40 },
      { file: "partsLists", rows: 25, good: 25 },
      { file: "stock", rows: 41, good: 41 },
    ]);
    expect(report.adds).toMatchObject({ items: 40, lists: 5, stockRows: 41, stores: ["Yard"] });
    expect((await world.ok(routes.items, {})).total).toBe(0);
    const done = await world.ok(routes.import, {
      body: { ...files, token: report.token, goodRowsOnly: false },
    });
    expect(done.document).toBe("I-1");
    expect((await world.ok(routes.items, {})).total).toBe(40);
    const syrup = await world.ok(routes.item, { params: { id: await world.idOf("SYR-72") } });
    expect([syrup.onHand, syrup.expired, syrup.free]).toEqual(["424.96", "25", "399.96"]);
    const ledger = await world.ok(routes.movements, { query: { document: "i-1", item: syrup.id } });
    expect(ledger.movements.map((m) => `${m.quantity} ${m.to} ${m.lot} ${m.value} ${m.person}`)).toEqual([
      "300 Yard Y1-A HS-118 405.0000 Ines",
      "99.96 Yard Y1-A HS-114 134.9460 Ines",
      "25 Yard Y1-A HS-109 33.7500 Ines",
    ]);
    expect(await world.audit()).toEqual([]);
  });
  it("refuses the same files again, row by row", async () => {
    const world = await demoWorld();
    const report = await check(world, await demoFiles());
    expect(report.adds).toMatchObject({ items: 0, lists: 0, stockRows: 0 });
    // each item, list and row of stock; the four rows with a serial number say twice why not
    expect(report.problems.length).toBe(40 + 5 + 41 + 4);
    const body = { ...(await demoFiles()), token: report.token, goodRowsOnly: true };
    expect((await world.call(routes.import, { body })).error.code).toBe("import-nothing");
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
      "items 3 code: Row 2 has this code already.",
      "items 4 unit: This unit is not known. There are: pc, pair, dozen, job, m, cm, kg, g, hour, min, L, mL.",
      "items 5 kind: The kind is one of: bought, built, service.",
      "items 6 cost: The cost cannot be below zero.",
      "items 7 cost: “six” is not a number. Write it like 12.5.",
      "items 10 bin: This row has 10 fields, the header 9. A comma inside a field needs quotes around it.",
    ]);
    expect((await check(world, { items })).problems.find((p) => p.row === 7)?.value).toBe("six");
  });
  it("comes in only when the good rows are asked for, and then only these", async () => {
    const world = await bareWorld();
    const { token } = await check(world, { items });
    const body = { ...none, items, token, goodRowsOnly: false };
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
    const stock = csv(STOCK, "BOX-D,Yard,,5,,,,", "GLUE-W,Yard,,1,,,,", "BOX-D,Yard,,0.5,,,,");
    const report = await check(world, { items, partsLists, stock });
    expect(report.adds).toMatchObject({ items: 3, lists: 0, stockRows: 1, stores: ["Yard"] });
    expect(
      report.problems.filter((p) => p.file !== "items").map((p) => `${p.row} ${p.field}: ${p.message}`),
    ).toEqual([
      "2 product: Another row of HIVE-N is wrong, so its whole list is held back.",
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
      body: {
        code: "FRM-A",
        name: "Frame",
        kind: "built",
        unit: "pc",
        tracking: "none",
        cost: null,
        price: null,
        store: "",
        bin: "",
      },
    });
    const answer = await world.call(routes.import, { body: { ...none, items, token, goodRowsOnly: true } });
    expect([answer.status, answer.error.code]).toEqual([409, "import-changed"]);
  });
});

describe("what is no such file", () => {
  const fileError = async (files: object) => {
    const world = await bareWorld();
    const { status, error } = await world.call(routes.checkImport, { body: { ...none, ...files } });
    return `${status} ${error.fields[0]?.field}: ${error.fields[0]?.message ?? error.message}`;
  };
  it("a wrong header, with what is missing and what is not known", async () => {
    expect(await fileError({ stock: "item,shop,bin,quantity,unit_cost,lot,expiry\r\n" })).toBe(
      `422 stock: The header is wrong. Missing: store, serial. Not known: shop. Wanted: ${STOCK}.`,
    );
    expect(await fileError({ items: ITEMS.replaceAll(",", ";") })).toContain("Not known: code;name;kind;");
  });
  it("a quote that never ends", async () => {
    expect(await fileError({ items: `${ITEMS}\r\nBOX-D,"Hive box,bought` })).toMatch(
      /^422 items: This is no CSV file: Quote Not Closed/,
    );
  });
  it("a file over the limit, and a body over the server's", async () => {
    expect(await fileError({ items: `${ITEMS}\r\n${"x".repeat(LARGEST_FILE)}` })).toBe(
      "413 items: The file has 5.0 MB; the limit is 5 MB.",
    );
    const world = await bareWorld();
    const huge = await world.call(routes.checkImport, { body: { ...none, items: "x".repeat(20_500_000) } });
    expect([huge.status, huge.error.code]).toEqual([413, "too-large"]);
  });
  it("no file at all", async () => {
    expect(await fileError({})).toBe("422 undefined: Choose at least one file.");
  });
  it("takes a byte order mark, spaces around fields, columns in another order, and line ends of any kind", async () => {
    const world = await bareWorld();
    const items =
      "\ufeffname, code ,kind,unit,tracking,cost,price,store,bin\n Smoker , SMK-S ,bought,pc,,17.20,27.90,,\n\n";
    const report = await check(world, { items });
    expect([report.problems, report.adds.items]).toEqual([[], 1]);
  });
});

it("imports 10,000 items and their stock in one transaction", async () => {
  const world = await bareWorld();
  const rows = Array.from({ length: 10_000 }, (_, i) => i);
  const files = {
    ...none,
    items: csv(ITEMS, ...rows.map((i) => `P-${i},Part ${i},bought,pc,none,1.${i % 100},,,`)),
    stock: csv(STOCK, ...rows.map((i) => `P-${i},Front store,Z-${i % 90},${i + 1},,,,`)),
  };
  const { token } = await check(world, files);
  await world.ok(routes.import, { body: { ...files, token, goodRowsOnly: false } });
  expect((await world.ok(routes.items, { query: { limit: 1 } })).total).toBe(10_000);
  expect(await world.audit()).toEqual([]);
}, 120_000);
