import { type PurchaseSheet, type ReceiveBody, routes } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, fieldsOf, finishOf } from "../testing/world.ts";

const firm = async (world: World, code: string) => {
  const { firms } = await world.ok(routes.firms, { query: { kind: "supplier", search: code } });
  const found = firms.find((f) => f.code === code);
  if (!found) throw new Error(`no supplier ${code}`);
  return found.id;
};

/** A sent order of Norrfold: floors and boxes, with what they are for. */
async function sentOrder(
  world: World,
  lines: [code: string, quantity: string, more?: object][],
): Promise<PurchaseSheet> {
  const body = {
    supplier: await firm(world, "NORR"),
    lines: await Promise.all(
      lines.map(async ([code, quantity, more = {}]) => ({ item: await world.idOf(code), quantity, ...more })),
    ),
  };
  const draft = await world.ok(routes.newPurchase, { body });
  return world.ok(routes.sendPurchase, { params: { id: draft.id } });
}

const receiveOf = (
  lines: (Partial<ReceiveBody["lines"][number]> & { line: number; quantity: string })[],
  more: object = {},
) => ({
  day: TODAY,
  lines,
  ...more,
});

const receive = (
  world: World,
  order: PurchaseSheet,
  lines: Parameters<typeof receiveOf>[0],
  more: object = {},
) => world.ok(routes.receivePurchase, { params: { id: order.id }, body: receiveOf(lines, more) });

const lineOf = (order: PurchaseSheet, code: string) => {
  const line = order.orderLines.find((l) => l.item.code === code);
  if (!line) throw new Error(`no line of ${code}`);
  return line;
};

describe("a purchase order", () => {
  it("takes price, day and pack from what the supplier asks, unless told otherwise", async () => {
    const world = await demoWorld();
    const draft = await world.ok(routes.newPurchase, {
      body: {
        supplier: await firm(world, "NORR"),
        lines: [
          { item: await world.idOf("FRM-D"), quantity: "150", pack: "Pack" },
          {
            item: await world.idOf("FLR-M"),
            quantity: "6",
            price: "13.9",
            expected: "2026-12-24",
            costTag: "spring",
          },
        ],
      },
    });
    expect(draft).toMatchObject({
      number: "P-1",
      stage: "draft",
      total: "210.90",
      expected: addDays(TODAY, 9),
    });
    expect(lineOf(draft, "FRM-D")).toMatchObject({
      price: "0.85",
      total: "127.50",
      expected: addDays(TODAY, 9),
      open: "0",
      theirCode: "N-frm-d",
      pack: { name: "pack", size: "50", count: "3" },
    });
    expect(lineOf(draft, "FLR-M")).toMatchObject({
      price: "13.9",
      total: "83.40",
      expected: "2026-12-24",
      costTag: "spring",
    });
  });
  it.each([
    ["half a piece", { quantity: "0.5" }, "lines.0.quantity decimals"],
    ["a pack it does not have", { pack: "crate" }, "lines.0.pack pack-unknown"],
    ["no quantity", { quantity: "0" }, "lines.0.quantity invalid-input"],
    ["an item that is not there", { item: 9999 }, "lines.0.item not-found"],
  ])("is refused for %s, at its field", async (_, change, field) => {
    const world = await demoWorld();
    const line = { item: await world.idOf("FLR-M"), quantity: "6", ...change };
    const { error } = await world.call(routes.newPurchase, {
      body: { supplier: await firm(world, "NORR"), lines: [line] },
    });
    expect(fieldsOf(error)).toEqual([field]);
  });
  it("tells what was agreed beside its price, and takes another over for the next order", async () => {
    const world = await demoWorld();
    const [item, strange, supplier] = await Promise.all([
      world.idOf("FLR-M"),
      world.idOf("THY-O"),
      firm(world, "NORR"),
    ]);
    const order = (code: number, price: string | null) =>
      world.ok(routes.newPurchase, { body: { supplier, lines: [{ item: code, quantity: "6", price }] } });
    const draft = await order(item, "13.9");
    const before = lineOf(draft, "FLR-M").agreed;
    expect(before).toEqual({ price: "14.2", pricePer: "" });
    const params = { id: draft.id };
    const agree = (code: number, price: string, pricePer = "") =>
      world.call(routes.agreePrice, { params, body: { item: code, price, pricePer } });
    expect(lineOf((await agree(item, "13.9")).answer, "FLR-M").agreed).toEqual({
      price: "13.9",
      pricePer: "",
    });
    expect(lineOf(await order(item, null), "FLR-M").price).toBe("13.9");
    // The other terms stay, and who is preferred.
    const { suppliers } = await world.ok(routes.item, { params: { id: item } });
    expect(suppliers.find((s) => s.supplier === "NORR")).toMatchObject({ preferred: true, leadDays: 9 });
    expect((await agree(strange, "1")).status).not.toBe(200);
    expect((await agree(item, "1", "barrel")).status).toBe(422);
    // A supplier without terms for it has this one, and is not preferred to who has been supplying it.
    const other = await world.ok(routes.newPurchase, {
      body: { supplier, lines: [{ item: strange, quantity: "6", price: "80" }] },
    });
    expect(lineOf(other, "THY-O").agreed).toBeNull();
    await world.ok(routes.agreePrice, {
      params: { id: other.id },
      body: { item: strange, price: "80", pricePer: "" },
    });
    const thymol = await world.ok(routes.item, { params: { id: strange } });
    expect(thymol.suppliers.filter((s) => s.preferred).map((s) => s.supplier)).not.toContain("NORR");
  });
  it("counts as incoming once it is sent, by its expected day, and no longer when it is cancelled", async () => {
    const world = await demoWorld();
    const hive = await world.idOf("HIVE-N");
    const floors = async () => (await world.check(hive, "30")).parts.find((p) => p.code === "FLR-M");
    const order = await sentOrder(world, [["FLR-M", "20"]]);
    // 17 floors are there and 20 come
    expect(await floors()).toMatchObject({
      shortNow: "13",
      shortOnDay: "0",
      incomingTotal: "20",
      day: addDays(TODAY, 9),
    });
    const line = lineOf(order, "FLR-M").id;
    await world.ok(routes.changeExpected, {
      params: { id: order.id },
      body: { lines: [{ line, expected: "2027-01-08" }] },
    });
    expect((await floors())?.day).toBe("2027-01-08");
    expect((await world.ok(routes.cancelPurchase, { params: { id: order.id } })).stage).toBe("cancelled");
    expect((await floors())?.incomingTotal).toBe("0");
  });
  it("gathers needs on one draft a supplier, each need linked; the same part grows", async () => {
    const world = await demoWorld();
    const [bars, boxes, foundation, hive] = await Promise.all(
      ["FRM-D", "BOX-D", "FND-D", "HIVE-N"].map(world.idOf),
    );
    const build = await world.queued("HIVE-N", "2");
    const lines = [
      { item: bars, quantity: "100", for: [{ product: hive, quantity: "80" }] },
      { item: foundation, quantity: "60" },
      { item: boxes, quantity: "10", for: [{ build, quantity: "4" }] },
    ];
    const { purchases } = await world.ok(routes.buyNeeds, { body: { lines } });
    expect(purchases.map((p) => [p.supplier.code, p.lines, p.stage])).toEqual([
      // foundation is expected first
      ["LIND", 1, "draft"],
      ["NORR", 2, "draft"],
    ]);
    await world.ok(routes.buyNeeds, {
      body: { lines: [{ item: bars, quantity: "50", for: [{ build, quantity: "20" }] }] },
    });
    const draft = await world.ok(routes.purchase, { params: { id: purchases[1]?.id ?? 0 } });
    expect(
      draft.orderLines.map((l) => [
        l.item.code,
        l.quantity,
        l.for.map((f) => [f.build?.number ?? f.product?.code, f.quantity]),
      ]),
    ).toEqual([
      [
        "FRM-D",
        "150",
        [
          ["HIVE-N", "80"],
          ["B-1", "20"],
        ],
      ],
      ["BOX-D", "10", [["B-1", "4"]]],
    ]);
    const refused = await world.call(routes.buyNeeds, {
      body: { lines: [{ item: await world.idOf("STRIP-T"), quantity: "4" }] },
    });
    expect(fieldsOf(refused.error)).toEqual(["lines.0.supplier supplier-none"]);
  });
  it("is changed while it is a draft, keeping what its lines are for, and not afterwards", async () => {
    const world = await demoWorld();
    const floor = await world.idOf("FLR-M");
    const { purchases } = await world.ok(routes.buyNeeds, {
      body: {
        lines: [
          { item: floor, quantity: "4", for: [{ product: await world.idOf("HIVE-N"), quantity: "4" }] },
        ],
      },
    });
    const id = purchases[0]?.id ?? 0;
    const [line] = (await world.ok(routes.purchase, { params: { id } })).orderLines;
    const roof = await world.idOf("ROOF-M");
    const body = {
      note: "By van",
      lines: [
        { item: roof, quantity: "2" },
        { id: line?.id, item: floor, quantity: "9" },
      ],
    };
    const changed = await world.ok(routes.changePurchase, { params: { id }, body });
    expect(changed.orderLines.map((l) => [l.item.code, l.quantity, l.for.length])).toEqual([
      ["ROOF-M", "2", 0],
      ["FLR-M", "9", 1],
    ]);
    await world.ok(routes.sendPurchase, { params: { id } });
    const { status, error } = await world.call(routes.changePurchase, { params: { id }, body });
    expect([status, error.code]).toEqual([409, "stage-wrong"]);
  });
});

describe("an item on order", () => {
  it("is told where it is used, and keeps what its orders depend on", async () => {
    const world = await demoWorld();
    const { id } = await world.ok(routes.newItem, {
      body: { code: "ROPE-1", name: "Rope", kind: "bought", unit: "m", cost: "0.80" },
    });
    const order = await world.ok(routes.newPurchase, {
      body: { supplier: await firm(world, "NORR"), lines: [{ item: id, quantity: "2.125" }] },
    });
    const uses = async () =>
      (await world.ok(routes.whereUsed, { params: { id } })).uses.map(
        (u) => `${u.what} ${u.code} ${u.detail} ${u.quantity}`,
      );
    expect(await uses()).toEqual(["purchase P-1 draft 2.125"]);
    const change = async (body: object) => {
      const item = await world.ok(routes.item, { params: { id } });
      return fieldsOf(
        (
          await world.call(routes.changeItem, {
            params: { id },
            body: { ...item, price: item.ownPrice, ...body },
          })
        ).error,
      );
    };
    expect(await change({ unit: "kg" })).toEqual(["unit in-use"]);
    expect((await world.call(routes.removeItem, { params: { id } })).error.code).toBe("item-used");
    const metre = { name: "metre", dimension: "length", factor: "100", decimals: 2, rec20: "MTR" };
    const { error } = await world.call(routes.changeUnit, { params: { code: "m" }, body: metre });
    expect(error.message).toContain("purchase order P-1 (2.125 m)");
    await world.ok(routes.sendPurchase, { params: { id: order.id } });
    expect(await change({ state: "archived" })).toEqual(["state archive-used"]);
    await world.ok(routes.cancelPurchase, { params: { id: order.id } });
    expect([await change({ state: "archived" }).catch(() => []), await uses()]).toEqual([[], []]);
  });
});

describe("a receipt", () => {
  it("takes in some now and the rest later, at the price it has, and the check sees it at once", async () => {
    const world = await demoWorld();
    const order = await sentOrder(world, [
      ["FLR-M", "20"],
      ["ROOF-M", "5"],
    ]);
    const [floor, roof] = [lineOf(order, "FLR-M").id, lineOf(order, "ROOF-M").id];
    const some = await receive(world, order, [{ line: floor, quantity: "8", price: "14.6", bin: "07-B" }], {
      note: "two crates",
    });
    expect(some).toMatchObject({
      stage: "part received",
      receipts: [{ number: "RC-1", value: "116.80", note: "two crates" }],
    });
    expect(lineOf(some, "FLR-M")).toMatchObject({ received: "8", open: "12" });
    const item = await world.ok(routes.item, { params: { id: await world.idOf("FLR-M") } });
    // 17 at 14.20 and 8 at 14.60
    expect([item.onHand, item.value]).toEqual(["25", "358.2000"]);
    expect(
      (await world.check(await world.idOf("HIVE-N"), "30")).parts.find((p) => p.code === "FLR-M"),
    ).toMatchObject({
      free: "25",
      incomingTotal: "12",
      shortNow: "5",
    });
    const rest = await receive(world, some, [
      { line: floor, quantity: "12" },
      { line: roof, quantity: "3", close: true },
    ]);
    expect([rest.stage, lineOf(rest, "ROOF-M").closed, rest.linesDone]).toEqual(["received", true, 2]);
    expect(await world.audit()).toEqual([]);
  });
  it("asks where more came than was ordered, and keeps it when told to", async () => {
    const world = await demoWorld();
    const order = await sentOrder(world, [["FLR-M", "4"]]);
    const line = lineOf(order, "FLR-M").id;
    const { status, error } = await world.call(routes.receivePurchase, {
      params: { id: order.id },
      body: receiveOf([{ line, quantity: "6" }]),
    });
    expect([status, error.message]).toEqual([
      409,
      "2 pc more than ordered. Tick “Accept the extra quantity” to keep them.",
    ]);
    const kept = await receive(world, order, [{ line, quantity: "6" }], { more: true });
    expect([kept.stage, lineOf(kept, "FLR-M").received, lineOf(kept, "FLR-M").open]).toEqual([
      "received",
      "6",
      "0",
    ]);
  });
  it("takes lots with their expiry and serials one by one, and refuses what cannot be", async () => {
    const world = await demoWorld();
    const body = (supplier: number, item: number, quantity: string) => ({
      supplier,
      lines: [{ item, quantity }],
    });
    const make = async (supplier: string, code: string, quantity: string) => {
      const draft = await world.ok(routes.newPurchase, {
        body: body(await firm(world, supplier), await world.idOf(code), quantity),
      });
      return world.ok(routes.sendPurchase, { params: { id: draft.id } });
    };
    const syrup = await make("HALM", "SYR-72", "200");
    const line = syrup.orderLines[0]?.id ?? 0;
    const lots = [
      { lot: "HS-201", expiry: "2027-06-30", quantity: "125.5" },
      { lot: "HS-202", expiry: "2027-07-31", quantity: "74.5" },
    ];
    const wrong = await world.call(routes.receivePurchase, {
      params: { id: syrup.id },
      body: receiveOf([{ line, quantity: "200", lots: lots.slice(0, 1) }]),
    });
    expect(fieldsOf(wrong.error)).toEqual(["lines.0.lots lots-sum"]);
    await receive(world, syrup, [{ line, quantity: "200", lots }]);
    const { stockByBin: lying } = await world.ok(routes.item, { params: { id: await world.idOf("SYR-72") } });
    expect(
      lying.filter((l) => l.lot.startsWith("HS-20")).map((l) => [l.lot, l.expiry, l.quantity, l.store]),
    ).toEqual([
      ["HS-201", "2027-06-30", "125.5", "Yard"],
      ["HS-202", "2027-07-31", "74.5", "Yard"],
    ]);

    const scales = await make("SENS", "SCL-E", "2");
    const at = scales.orderLines[0]?.id ?? 0;
    const serials = (given: string[]) =>
      world.call(routes.receivePurchase, {
        params: { id: scales.id },
        body: receiveOf([{ line: at, quantity: "2", serials: given }]),
      });
    expect(fieldsOf((await serials(["SC-3001"])).error)).toEqual(["lines.0.serials serial-count"]);
    expect(fieldsOf((await serials(["SC-3001", "SC-2041"])).error)).toEqual(["lines.0.serials serial-taken"]);
    expect((await serials(["SC-3001", "SC-3002"])).status).toBe(200);
    expect(await world.audit()).toEqual([]);
  });
  it("is taken back exactly, lots and serials too, so that they may come in anew", async () => {
    const world = await demoWorld();
    const draft = await world.ok(routes.newPurchase, {
      body: {
        supplier: await firm(world, "HALM"),
        lines: [{ item: await world.idOf("SYR-72"), quantity: "50" }],
      },
    });
    const order = await world.ok(routes.sendPurchase, { params: { id: draft.id } });
    const before = await world.ok(routes.item, { params: { id: await world.idOf("SYR-72") } });
    const line = order.orderLines[0]?.id ?? 0;
    const lots = [{ lot: "HS-300", expiry: "2027-05-01", quantity: "50" }];
    const came = await receive(world, order, [{ line, quantity: "50", lots, price: "1.41" }]);
    const undo = () => world.call(routes.undoReceipt, { params: { id: came.receipts[0]?.id ?? 0 } });
    const undone = (await undo()).answer;
    expect([undone.stage, undone.orderLines[0]?.open, undone.receipts[0]?.undone?.person]).toEqual([
      "sent",
      "50",
      "Ines",
    ]);
    const after = await world.ok(routes.item, { params: { id: await world.idOf("SYR-72") } });
    expect([after.onHand, after.value, after.stockByBin]).toEqual([
      before.onHand,
      before.value,
      before.stockByBin,
    ]);
    expect((await undo()).error.code).toBe("receipt-undone");
    // the same lot with the right expiry this time
    await receive(world, undone, [
      { line, quantity: "50", lots: [{ ...lots[0], lot: "HS-300", expiry: "2027-06-01", quantity: "50" }] },
    ]);
    expect(await world.audit()).toEqual([]);
  });
  it("cannot be taken back when its stock has moved on; the message names what is in the way", async () => {
    const world = await demoWorld();
    const order = await sentOrder(world, [["FLR-M", "20"]]);
    const came = await receive(world, order, [
      { line: lineOf(order, "FLR-M").id, quantity: "20", bin: "07-X" },
    ]);
    const build = await world.queued("HIVE-N", "2");
    await world.ok(routes.finishBuild, { params: { id: build }, body: finishOf("2") });
    // Home first: the floors left from 07-A, and all of the receipt still lies in 07-X.
    expect((await world.call(routes.undoReceipt, { params: { id: came.receipts[0]?.id ?? 0 } })).status).toBe(
      200,
    );
    const again = await receive(world, order, [
      { line: lineOf(order, "FLR-M").id, quantity: "1", price: "900", bin: "07-X" },
    ]);
    const more = await world.queued("HIVE-N", "9");
    await world.ok(routes.finishBuild, { params: { id: more }, body: finishOf("9") });
    const { status, error } = await world.call(routes.undoReceipt, {
      params: { id: again.receipts.at(-1)?.id ?? 0 },
    });
    // The 900 were averaged over all floors; what is left is worth less than that.
    expect([status, error.code, error.message]).toEqual([
      409,
      "undo-blocked",
      "This can no longer be undone: FLR-M has moved since, in B-2.",
    ]);
    expect(await world.audit()).toEqual([]);
  });
});

describe("the reorder view", () => {
  it("says what falls below its level or zero, by when to act, and what each supplier asks", async () => {
    const world = await demoWorld();
    const build = await world.ok(routes.newBuild, {
      body: { product: await world.idOf("FEED-12"), quantity: "40", due: addDays(TODAY, 10), note: "" },
    });
    await world.ok(routes.queueBuild, { params: { id: build.id } });
    const { rows } = await world.ok(routes.reorder, {});
    const row = (code: string) => rows.find((r) => r.code === code);
    // 33 labels, 42 needed the day before the due day: 9 short then; back to the level of 50 take 59, sold by 500
    expect(row("LBL-F")).toMatchObject({
      free: "-9",
      projected: "-9",
      level: "50",
      firstShort: addDays(TODAY, 9),
      act: "order",
      quantity: "500",
      by: addDays(TODAY, 4),
      supplier: { code: "PETA" },
    });
    // 14 gloves, level 10: nothing to do
    expect(row("GLV-M")).toBeUndefined();
    const smoker = await world.idOf("SMK-S");
    const item = await world.ok(routes.item, { params: { id: smoker } });
    await world.ok(routes.changeItem, {
      params: { id: smoker },
      body: { ...item, cost: item.cost, price: item.ownPrice, reorderLevel: "30" },
    });
    const offers = (await world.ok(routes.reorder, {})).rows.find((r) => r.code === "SMK-S")?.offers;
    expect(offers?.map((o) => [o.supplier.code, o.price, o.quantity, o.cost, o.arrives])).toEqual([
      ["CALD", "17.2", "12", "206.40", addDays(TODAY, 12)],
      ["NORR", "18.1", "12", "217.20", addDays(TODAY, 9)],
    ]);
  });
  it("suggests builds for what is built, asks to bring forward what comes too late, and knows nothing of the rest", async () => {
    const world = await demoWorld();
    for (const [code, quantity, due] of [
      ["HIVE-C", "3", 20],
      ["HIVE-N", "10", 3],
    ] as const) {
      const body = { product: await world.idOf(code), quantity, due: addDays(TODAY, due), note: "" };
      const { id } = await world.ok(routes.newBuild, { body });
      await world.ok(routes.queueBuild, { params: { id } });
    }
    await sentOrder(world, [["ROOF-M", "9", { expected: addDays(TODAY, 30) }]]);
    const roofs = await world.queued("HIVE-N", "12");
    const { rows } = await world.ok(routes.reorder, {});
    const row = (code: string) => rows.find((r) => r.code === code);
    // 2 hives are there, 3 are needed, 10 and 12 are being built, 10 of them in time
    expect(row("HIVE-N")).toBeUndefined();
    // 266 frames are there, 440 are needed: 174 to be built
    expect(row("FRM-A")).toMatchObject({ act: "build", quantity: "174", supplier: null });
    // 20 roofs, 22 needed: 10 on a day, the others on none, and 9 come
    expect([row("ROOF-M"), roofs > 0]).toEqual([undefined, true]);
    await world.ok(routes.changeBuild, {
      params: { id: (await draft(world)).id },
      body: { quantity: "15", due: addDays(TODAY, 6), note: "" },
    });
    const { builds } = await world.ok(routes.builds, {});
    await world.ok(routes.queueBuild, { params: { id: builds.find((b) => b.stage === "draft")?.id ?? 0 } });
    expect((await world.ok(routes.reorder, {})).rows.find((r) => r.code === "ROOF-M")).toMatchObject({
      comesTooLate: false,
      act: "order",
    });
  });
});

const draft = async (world: World) =>
  world.ok(routes.newBuild, {
    body: { product: await world.idOf("HIVE-N"), quantity: "1", due: null, note: "" },
  });

describe("the outbox", () => {
  it("keeps the order as PDF and CSV until it is marked sent", async () => {
    const world = await demoWorld();
    const order = await sentOrder(world, [
      ["FLR-M", "20"],
      ["FRM-D", "150", { pack: "pack", note: "=dry" }],
    ]);
    const { messages } = await world.ok(routes.outbox, {});
    expect(messages).toMatchObject([
      { document: "P-1", to: "orders@norrfold.example", sent: null, purchase: order.id },
    ]);
    const message = await world.ok(routes.outboxMessage, { params: { id: messages[0]?.id ?? 0 } });
    expect(message.text).toContain("Dear Petra Aldane");
    const read = async (id: number) => (await world.app.inject({ url: `/api/files/${id}` })).rawPayload;
    const [pdf, csv] = await Promise.all(message.files.map((file) => read(file.id)));
    expect(pdf?.subarray(0, 5).toString()).toBe("%PDF-");
    expect(csv?.toString("utf8").split("\r\n").slice(1, 3)).toEqual([
      `P-1,1,FLR-M,N-flr-m,Mesh floor,20,pc,,,14.2,pc,284.00,EUR,${addDays(TODAY, 9)},`,
      `P-1,2,FRM-D,N-frm-d,Deep frame bars,150,pc,3,pack,0.85,pc,127.50,EUR,${addDays(TODAY, 9)},'=dry`,
    ]);
    const sent = await world.ok(routes.markSent, { params: { id: message.id } });
    expect(sent.sent?.person).toBe("Ines");
  });
});
