import { type ImportKind, routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import type { World } from "../testing/open.ts";
import { bareWorld, demoFiles, demoText, demoWorld, fileOf } from "../testing/world.ts";

const bodyOf = (texts: Partial<Record<ImportKind, string>>, update: boolean, columns = {}) => ({
  files: Object.entries(texts).map(([kind, text]) => fileOf(kind as ImportKind, text, { columns })),
  update,
  job: "test",
});

async function bring(world: World, body: Omit<ReturnType<typeof bodyOf>, never>): Promise<void> {
  const { token } = await world.ok(routes.checkImport, { body });
  await world.ok(routes.import, { body: { ...body, token, goodRowsOnly: false } });
}

const latest = async (world: World) => {
  const [run] = (await world.ok(routes.importRuns)).imports;
  if (!run) throw new Error("nothing was imported");
  return run;
};

const undo = async (world: World) =>
  world.call(routes.undoImport, { params: { id: (await latest(world)).id } });

const total = async (world: World, state: string) =>
  (await world.ok(routes.items, { query: { state } })).total;

describe("undoing an import", () => {
  it("of everything leaves nothing but what the ledger knows, and it can come in again", async () => {
    const world = await bareWorld();
    await world.ok(routes.addPerson, { body: { name: "Tobias" } });
    const body = { files: await demoFiles(), update: true, job: "test" };
    await bring(world, body);
    const before = await total(world, "all");
    const { answer } = await undo(world);
    expect([answer.number, answer.removed + answer.archived, answer.restored]).toEqual(["I-1", before, 0]);
    expect([await total(world, "active"), await total(world, "archived")]).toEqual([0, answer.archived]);
    expect((await world.ok(routes.firms, { query: { kind: "supplier" } })).total).toBe(0);
    expect((await world.ok(routes.item, { params: { id: await archivedId(world, "BOX-D") } })).onHand).toBe(
      "0",
    );
    expect((await undo(world)).error.code).toBe("import-undone");
    expect((await latest(world)).undone?.person).toBe("Ines");
    expect(await world.audit()).toEqual([]);
    await bring(world, body);
    expect([await total(world, "active"), await total(world, "archived")]).toEqual([before, 0]);
    expect((await world.check(await world.idOf("FEED-12"), "40")).demand.makesNow).toBe("31");
    expect(await world.audit()).toEqual([]);
  });
  it("puts back what it changed: items, prices with the preferred supplier, and a locked list", async () => {
    const world = await demoWorld();
    await world.queued("HON-4", "1");
    const read = async (code: string) => {
      const sheet = await world.ok(routes.item, { params: { id: await world.idOf(code) } });
      return [
        sheet.name,
        sheet.price,
        sheet.list?.lines[0]?.waste,
        sheet.suppliers.map((s) => [s.supplier, s.price, s.preferred]),
      ];
    };
    const codes = ["HON-4", "BOX-D", "SMK-S"];
    const before = await Promise.all(codes.map(read));
    const lists = (await demoText("partsLists"))
      .split("\n")
      .filter((line, i) => i === 0 || line.startsWith("HON-4"))
      .join("\n")
      .replace("1.5,no", "2,no");
    await bring(
      world,
      bodyOf(
        {
          items:
            "code,name,kind,unit,tracking\nBOX-D,Deep box,bought,pc,none\nNEW-1,New part,bought,pc,none\n",
          prices: "item,supplier,price,lead_days,preferred\nBOX-D,CALD,8.10,3,yes\n",
          partsLists: lists,
        },
        true,
      ),
    );
    expect(await Promise.all(codes.map(read))).not.toEqual(before);
    const { answer } = await undo(world);
    expect([answer.removed, answer.archived]).toEqual([1, 0]);
    expect(await Promise.all(codes.map(read))).toEqual(before);
    const { lists: all } = await world.ok(routes.lists, { params: { id: await world.idOf("HON-4") } });
    expect(all[0]?.revisions.map((r) => `${r.number} ${r.state} ${r.inForce}`)).toEqual(["1 locked true"]);
  });
  it("is refused once something was done with it, and says with what; nothing is half undone", async () => {
    const world = await demoWorld();
    const items =
      "code,name,kind,unit,tracking\nNEW-1,New part,bought,pc,none\nNEW-2,New part,bought,pc,none\n";
    const stock = "item,store,bin,quantity,unit_cost\nNEW-1,Front store,01-A,10,1.00\n";
    await bring(world, bodyOf({ items, stock }, false));
    const id = await world.idOf("NEW-1");
    const { id: build } = await world.ok(routes.newBuild, {
      body: {
        product: await world.idOf("HIVE-N"),
        quantity: "1",
        due: null,
        note: "",
        parts: [{ item: id, quantity: "4", note: "" }],
      },
    });
    const used = await undo(world);
    expect([used.status, used.error.message]).toEqual([
      409,
      "I-2 can't be undone any more: NEW-1 was used since.",
    ]);
    expect((await world.ok(routes.item, { params: { id } })).onHand).toBe("10");
    await world.ok(routes.queueBuild, { params: { id: build } });
    await world.ok(routes.handOut, { params: { id: build }, body: { day: "2026-11-23", some: false } });
    expect((await undo(world)).status).toBe(409);
    await bring(
      world,
      bodyOf({ items: "code,name,kind,unit,tracking\nNEW-3,New part,bought,pc,none\n" }, false),
    );
    const other = await world.idOf("NEW-3");
    const item = await world.ok(routes.item, { params: { id: other } });
    await world.ok(routes.changeItem, {
      params: { id: other },
      body: { ...item, name: "Other name", price: null, cost: null },
    });
    expect((await undo(world)).error.message).toBe("I-3 can't be undone any more: NEW-3 changed since.");
    expect(await world.audit()).toEqual([]);
  });
});

async function archivedId(world: World, code: string): Promise<number> {
  const { items } = await world.ok(routes.items, { query: { search: code, state: "archived" } });
  return items.find((item) => item.code === code)?.id ?? 0;
}

describe("matches of columns", () => {
  it("that were made by hand are remembered for the next file, and can be mended", async () => {
    const world = await bareWorld();
    const file = "Artikel,name,kind,unit,Bemerkung\nX-1,First,bought,pc,old\n";
    await bring(world, bodyOf({ items: file }, false, { Artikel: "code", Bemerkung: "" }));
    const read = async (text: string, columns = {}) => {
      const { files } = await world.ok(routes.checkImport, { body: bodyOf({ items: text }, false, columns) });
      return files[0]?.columns;
    };
    const plain = { name: "name", kind: "kind", unit: "unit" };
    expect(await read(file)).toEqual({ Artikel: "code", ...plain });
    expect(await read(file, { Bemerkung: "notes" })).toEqual({
      Artikel: "code",
      Bemerkung: "notes",
      ...plain,
    });
    // A column with the very name goes before one that was matched with it once.
    expect(await read(`code,${file.replace("\n", "\nY-1,")}`)).toEqual({ code: "code", ...plain });
  });
});
