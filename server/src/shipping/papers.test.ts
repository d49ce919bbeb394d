import { type AnswerOf, PAPER_WORDS, PERSON_HEADER, PLAIN_ORDER_LINE, routes } from "@yosegi/contract";
import { extractText } from "unpdf";
import { beforeEach, describe, expect, it } from "vitest";
import { leaving, orderOf, shipmentOf } from "../testing/ordering.ts";
import { demoWorld, fieldsOf, type World } from "../testing/world.ts";

let world: World;
beforeEach(async () => {
  world = await demoWorld();
});

/** What a PDF says, as a reader would copy it. */
async function textOf(url: string): Promise<string> {
  const response = await world.app.inject({ url, headers: { [PERSON_HEADER]: "1" } });
  expect([response.statusCode, response.headers["content-type"]]).toEqual([200, "application/pdf"]);
  const { text } = await extractText(new Uint8Array(response.rawPayload), { mergePages: true });
  return text.replace(/\s+/g, " ");
}

const confirmation = (order: { id: number }) => textOf(`/api/orders/${order.id}/paper`);
const note = (shipment: { id: number }) => textOf(`/api/shipments/${shipment.id}/paper`);
const bill = (shipment: { id: number }) => textOf(`/api/shipments/${shipment.id}/paper?kind=bill`);
const shipAll = (order: AnswerOf<typeof routes.order>) =>
  world.ok(routes.shipOrder, {
    params: { id: order.id },
    body: shipmentOf(
      order.orderLines.map((line) => leaving(line)),
      { parcels: 2, weight: "31.5" },
    ),
  });

/** Each kit of the demo, what a customer may read of it, and what stands on no paper of it. */
const KITS: [kit: string, seen: string[], hidden: string[]][] = [
  [
    "KIT-YARD",
    ["First-year set", "1 pc Complete hive", "1 pc Suit with veil, size M", "1 pair Gloves, size M"],
    [],
  ],
  ["KIT-TOOL", ["Tool set", "1 pc Smoker", "1 pc Hive tool", "1 pair Gloves, size M"], []],
  [
    "KIT-CARE",
    ["Autumn care set"],
    ["Care strip", "Drip tray", "Syringe", "Care card", "STRIP-T", "TRAY-D", "SYRG-5", "CARD-C"],
  ],
  ["KIT-CLUB", ["Club evening set"], ["Gloves", "Smoker", "Care card", "GLV-M", "SMK-S", "CARD-C"]],
];

describe("papers say what the customer may see", () => {
  it.each(KITS)("of %s on the confirmation, the delivery note and the bill", async (kit, seen, hidden) => {
    const order = await orderOf(world, [[kit, "1"]]);
    const shipment = await shipAll(order);
    const papers = [await confirmation(order), await note(shipment), await bill(shipment)];
    for (const paper of papers) {
      for (const words of seen) expect(paper).toContain(words);
      for (const words of hidden) expect(paper).not.toContain(words);
    }
    // Inside, all of it is seen.
    expect(shipment.shipped[0]?.components.length).toBeGreaterThan(1);
  });

  it("of what leaves in single pieces of a set whose contents are not shown: that a part of it does", async () => {
    const order = await orderOf(world, [["KIT-CARE", "1"]]);
    const [line] = order.orderLines;
    const tray = line?.takes.find(({ item }) => item.code === "TRAY-D")?.item.id ?? 0;
    const shipment = await world.ok(routes.shipOrder, {
      params: { id: order.id },
      body: shipmentOf([leaving(line, "0", { pieces: [{ item: tray, quantity: "1" }] })]),
    });
    const paper = await note(shipment);
    expect(paper).toContain("Autumn care set");
    expect(paper).toContain("in part");
    expect(paper).not.toContain("tray");
    expect(paper).toContain("Still to follow: 1 pc Autumn care set");
  });

  it("with lots, serials, parcels and weight, prices, discount, tax once for each rate, and the terms", async () => {
    const order = await orderOf(world, [
      ["SYR-72", "2.5", "3.33"],
      ["EXT-2", "1", "420.00"],
    ]);
    const shipment = await shipAll(order);
    const delivered = await note(shipment);
    for (const words of [
      "Delivery note S-1",
      "Lot HS-114",
      "Serial number EX-0077",
      "Parcels 2",
      "Weight 31.5 kg",
      "Order O-1",
    ])
      expect(delivered).toContain(words);
    expect(delivered).not.toContain("420");
    const billed = await bill(shipment);
    for (const words of [
      "Pro forma bill S-1",
      "3.33 / L",
      "8.33",
      "420.00",
      "428.33",
      "This is not a tax invoice.",
    ])
      expect(billed).toContain(words);
  });

  it("in the company's own words and date style, in its own letters", async () => {
    const { words, version } = await world.ok(routes.paperSettings, {});
    expect(words).toEqual(PAPER_WORDS);
    const own = {
      "confirmation title": "Auftragsbestätigung",
      sender: "Brackenmere, Żółta 7, Köln\nŘehoř & Đặng",
      date: "Datum",
    };
    await world.ok(routes.setPapers, { body: { dates: "23.11.2026", words: own }, version });
    const late = await world.call(routes.setPapers, { body: { dates: "23.11.2026", words: {} }, version });
    expect(late.error.code).toBe("stale");
    const order = await orderOf(world, [["SMK-S", "1"]]);
    const paper = await confirmation(order);
    for (const text of ["Auftragsbestätigung O-1", "Żółta 7, Köln", "Řehoř & Đặng", "Datum 23.11.2026"])
      expect(paper).toContain(text);
    const wrong = await world.call(routes.setPapers, { body: { dates: "tomorrow", words: {} } });
    expect(fieldsOf(wrong.error)).toEqual(["dates invalid-input"]);
  });

  it("of a quote: that it is one, and until when; with the lines of text in their places", async () => {
    const { firms } = await world.ok(routes.firms, { query: { kind: "customer" } });
    const quote = await world.ok(routes.newOrder, {
      body: {
        customer: firms[0]?.id ?? 0,
        validUntil: "2026-12-15",
        lines: [{ ...PLAIN_ORDER_LINE, item: await world.idOf("SMK-S"), quantity: "2" }],
        texts: [
          { before: 0, text: "For the spring course" },
          { before: 9, text: "Collected by the club" },
        ],
      },
    });
    expect(await confirmation(quote)).toMatch(
      /Quote Q-1 .*Valid until 15 Dec 2026.*For the spring course.*Smoker.*Collected by the club/,
    );
  });
});

describe("the outbox", () => {
  it("takes the confirmation, and both papers of a shipment, with a letter", async () => {
    const order = await orderOf(world, [["KIT-CARE", "1"]]);
    const confirmed = await world.ok(routes.sendOrder, { params: { id: order.id } });
    expect(confirmed).toMatchObject({ document: order.number, order: order.id, shipment: null });
    expect(confirmed.files.map((file) => file.name)).toEqual([`Order confirmation ${order.number}.pdf`]);
    const shipment = await shipAll(order);
    const sent = await world.ok(routes.sendShipment, {
      params: { id: shipment.id },
      body: { papers: ["delivery note", "bill"] },
    });
    expect(sent.files.map((file) => file.name)).toEqual(["Delivery note S-1.pdf", "Pro forma bill S-1.pdf"]);
    expect(sent.text).toContain(`shipment S-1 of your order ${order.number}.`);
    const { messages } = await world.ok(routes.orderShipments, { params: { id: order.id } });
    expect(messages.map((message) => message.id)).toEqual([confirmed.id, sent.id]);
    const none = await world.call(routes.sendShipment, { params: { id: shipment.id }, body: { papers: [] } });
    expect(fieldsOf(none.error)).toEqual(["papers invalid-input"]);
  });

  it("takes no paper of a shipment that was undone", async () => {
    const order = await orderOf(world, [["SMK-S", "1"]]);
    const shipment = await shipAll(order);
    await world.ok(routes.undoShipment, { params: { id: shipment.id }, body: {} });
    const { error } = await world.call(routes.sendShipment, {
      params: { id: shipment.id },
      body: { papers: ["bill"] },
    });
    expect(error.code).toBe("shipment-undone");
  });
});
