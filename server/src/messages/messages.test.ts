import { type LineRead, routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { demoWorld, fieldsOf, type World } from "../testing/world.ts";

async function club(world: World): Promise<number> {
  const { firms } = await world.ok(routes.firms, { query: { kind: "customer", search: "TARN" } });
  return firms[0]?.id ?? 0;
}

const read = async (world: World, text: string, customer: number | null = null) =>
  (await world.ok(routes.readMessage, { body: { customer, text } })).lines;

/** "quantity code" of a certain line, "quantity ? codes" of one to be settled. */
const said = (lines: readonly LineRead[]) =>
  lines.map(({ quantity, certain, items, changes }) =>
    [
      quantity ?? "?",
      ...(certain ? [] : ["?"]),
      ...(changes.length > 0
        ? changes.map((change) => `with ${change.swapped.code}`)
        : items.map((item) => item.code)),
    ].join(" "),
  );

describe("a customer's message", () => {
  it("is matched by code and name; a slip, a change, and what is unknown are for a person", async () => {
    const world = await demoWorld();
    const lines = await read(
      world,
      "Hello Ines,\nplease send 12 first-year sets, 3 with large suits\nHTL-J x 4\n5 hive tols\n2 garden chairs",
    );
    expect(said(lines)).toEqual([
      "? ?",
      "12 KIT-YARD",
      "3 ? with SUIT-L with GLV-L with SUIT-X",
      "4 HTL-J",
      expect.stringMatching(/^5 \? HTL-J/),
      "2 ?",
    ]);
    const [change] = lines[2]?.changes ?? [];
    expect([
      change?.line,
      change?.instead.code,
      change?.contents.map((content) => content.item.code),
    ]).toEqual([1, "SUIT-M", ["HIVE-N", "SUIT-L", "GLV-M", "SMK-S", "HTL-J"]]);
  });

  it("counts in units and packs of the item, and takes no quantity that may mean two", async () => {
    const world = await demoWorld();
    // A word before the name that is no unit of the item may be a wish.
    expect(said(await read(world, "2 big smokers\n2 crates of smokers"))).toEqual(["2 ? SMK-S", "2 ? SMK-S"]);
    expect(said(await read(world, "2 packs of deep frame bars\n3 pair GLV-M\n1.200 hive tools"))).toEqual([
      "100 FRM-D",
      "3 GLV-M",
      "? ? HTL-J",
    ]);
  });

  it("of the next time is read as it was settled, for this customer alone, until it is forgotten", async () => {
    const world = await demoWorld();
    const customer = await club(world);
    const item = await world.idOf("HTL-J");
    expect(said(await read(world, "5 big pliers", customer))[0]).toMatch(/^5 \?/);
    const words = [{ words: "big pliers", item }];
    await world.ok(routes.rememberWords, { params: { id: customer }, body: { words } });
    expect(said(await read(world, "5 big plier", customer))).toEqual(["5 HTL-J"]);
    expect(said(await read(world, "5 big pliers"))[0]).toMatch(/^5 \?/);
    await world.ok(routes.rememberWords, {
      params: { id: customer },
      body: { words: [{ words: "Big Pliers", item: await world.idOf("SMK-S") }] },
    });
    expect(said(await read(world, "5 big pliers", customer))).toEqual(["5 SMK-S"]);
    const forget = () =>
      world.call(routes.forgetWords, { params: { id: customer }, body: { words: "big pliers" } });
    expect((await forget()).answer.words).toEqual([]);
    expect((await forget()).error.code).toBe("not-found");
    const twice = [...words, { words: "BIG PLIERS", item }];
    const refused = await world.call(routes.rememberWords, {
      params: { id: customer },
      body: { words: twice },
    });
    expect(fieldsOf(refused.error)).toEqual(["words.1 invalid-input"]);
  });

  it("offers nothing that is archived or not for sale", async () => {
    const world = await demoWorld();
    const id = await world.idOf("HTL-J");
    const item = await world.ok(routes.item, { params: { id } });
    await world.ok(routes.changeItem, {
      params: { id },
      version: item.version,
      body: { ...item, price: "9.60", notForSale: true },
    });
    expect(said(await read(world, "4 HTL-J"))[0]).not.toContain("HTL-J");
  });
});

describe("a list", () => {
  it("is read from pasted rows, and from a file as an order was taken out", async () => {
    const world = await demoWorld();
    expect(said(await read(world, "code;pieces\nHTL-J;12\nsmoker;2\n"))).toEqual(["12 HTL-J", "2 SMK-S"]);
    // A quote that never ends makes it a message, and a row among lines of text is one of them.
    expect(said(await read(world, '"HTL-J;2'))).toEqual(["2 HTL-J"]);
    expect(said(await read(world, "KIT-YARD; 2\n3 with large suits"))[0]).toBe("2 KIT-YARD");
    expect(said(await read(world, "0 HTL-J"))).toEqual(["0 ? HTL-J"]);
    const order = await world.ok(routes.newOrder, {
      body: {
        customer: await club(world),
        lines: [
          { item: await world.idOf("HTL-J"), quantity: "12", price: "9.10", discount: "5" },
          { item: await world.idOf("FRM-D"), quantity: "150", price: "40.00", pricePer: "pack" },
          { item: await world.idOf("HON-B"), quantity: "2.25", price: null },
        ],
      },
    });
    for (const format of ["csv", "xlsx"]) {
      const file = await world.app.inject({ url: `/api/orders/${order.id}/export?format=${format}` });
      const { lines } = await world.ok(routes.readMessage, {
        body: { file: { name: `${order.number}.${format}`, content: file.rawPayload.toString("base64") } },
      });
      expect(
        lines.map(({ items, certain, quantity, price, pricePer, discount }) => [
          items[0]?.code,
          certain,
          quantity,
          price,
          pricePer,
          discount,
        ]),
      ).toEqual([
        ["HTL-J", true, "12", "9.10", "", "5"],
        ["FRM-D", true, "150", "40.00", "pack", "0"],
        ["HON-B", true, "2.25", null, "", "0"],
      ]);
    }
  });
  it("that is too long, too large or broken is refused", async () => {
    const world = await demoWorld();
    const refused = async (body: object) => fieldsOf((await world.call(routes.readMessage, { body })).error);
    expect(await refused({ text: "1 HTL-J\n".repeat(501) })).toEqual(["text message-too-long"]);
    const file = (content: string | Buffer) => ({
      file: { name: "list.csv", content: Buffer.from(content).toString("base64") },
    });
    expect(await refused(file(Buffer.from([0xff, 0xfe, 0x41])))).toEqual(["file file-encoding"]);
    expect(await refused(file("PK\x03\x04 no workbook"))).toEqual(["file file-shape"]);
    expect(await refused(file("x".repeat(2_000_001)))).toEqual(["file file-too-large"]);
  });
});
