import { routes } from "@yosegi/contract";
import {
  addDays,
  decimal,
  issueValue,
  lost,
  type Movement,
  type Owner,
  poolOf,
  type Spot,
} from "@yosegi/core";
import { expect, it } from "vitest";
import { change, read } from "../db/index.ts";
import { Chance } from "../testing/chance.ts";
import { firmId } from "../testing/companies.ts";
import { doSomething, type History, startHistory } from "../testing/history.ts";
import { TODAY, type World } from "../testing/open.ts";
import { ledgerFaults } from "../testing/replay.ts";
import { demoWorld, finishOf, usedOf } from "../testing/world.ts";
import { loadBooks } from "./books.ts";
import { type Posting, record, undo } from "./record.ts";

const ACTS = 320;

const LATER = addDays(TODAY, 25);

/** Puts the price of one of the received lines right. */
async function correct({ world, chance }: History): Promise<void> {
  const { purchases } = await world.ok(routes.purchases, {});
  const sheets = await Promise.all(
    purchases.slice(-8).map(({ id }) => world.ok(routes.purchase, { params: { id } })),
  );
  const receipts = sheets.flatMap((sheet) => sheet.receipts).filter((receipt) => receipt.undone === null);
  if (receipts.length === 0) return;
  const receipt = chance.pick(receipts);
  const { line } = chance.pick(receipt.lines);
  const price = (chance.int(1, 4000) / 100).toFixed(2);
  const body = { line, price, pricePer: "", reason: "the bill" };
  const { status } = await world.call(routes.correctPrice, { params: { id: receipt.id }, body });
  expect([200, 422]).toContain(status);
}

type Kind = "to rework" | "from rework" | "ship" | "scrap";

/** One of the postings that the areas to come will make: stock of other owners, out of the house, lost; now and then undone. */
async function others({ world, chance, ids }: History, open: number[]): Promise<void> {
  const undone = chance.percent(25) ? open.pop() : undefined;
  const items = [...ids.values()];
  const item = chance.pick(items);
  await change(world.store, 1, async (ctx) => {
    if (undone !== undefined) {
      const what = {
        kind: "split" as const,
        document: "X-1",
        reason: "",
        undoes: undone,
      };
      await undo(ctx, what);
      return;
    }
    const { ready } = await loadBooks(ctx, [item]);
    const from = ready.find((balance) => balance.quantity.gt(0));
    if (!from) return;
    const quantity = from.quantity.lt(1) ? from.quantity : decimal(1);
    const at: Spot = { location: from.location, bin: from.bin };
    const owner: Owner = { kind: "rework", id: chance.int(1, 3) };
    const key = { item, lot: from.lot, serial: from.serial, quantity, value: null };
    const kind = chance.pick<Kind>(["to rework", "from rework", "ship", "scrap"]);
    const movements: Movement[] =
      kind === "to rework"
        ? [{ ...key, purpose: "handed out", from: at, to: { ...at, owner } }]
        : kind === "from rework"
          ? [
              { ...key, purpose: "handed out", from: at, to: { ...at, owner } },
              { ...key, purpose: "returned to stock", from: { ...at, owner }, to: at },
            ]
          : [{ ...key, purpose: kind === "ship" ? "shipped" : "scrapped", from: at, to: null }];
    const posting: Posting = {
      kind: "split",
      document: "X-1",
      day: addDays(LATER, -chance.int(0, 9)),
      reason: "",
      lots: [],
      movements,
    };
    const value = await worthOf(ctx, posting);
    const recorded = await record(ctx, {
      ...posting,
      entries: kind === "scrap" ? lost("scrapped", value, "dropped") : [],
    });
    open.push(recorded.id);
  }).catch((error) => {
    if (!["too-early", "undo-blocked", "below-zero"].includes(error.code)) throw error;
  });
}

/** What a movement out of the company's stock takes in value. */
async function worthOf(ctx: Parameters<typeof loadBooks>[0], { movements }: Posting) {
  const [movement] = movements;
  if (!movement) throw new Error("a posting has movements");
  const { stock } = await loadBooks(ctx, [movement.item]);
  return issueValue(poolOf(stock.pools, movement, undefined), movement.quantity);
}

/** Kinds of postings, and of what stands beside them, that random work came by. */
const met = new Set<string>();

it.each([11, 12, 13])(
  "balances in every posting, has a serial in one place and no day below zero, after random work, seed %i",
  async (seed) => {
    const world = await demoWorld();
    // Weeks after the opening stock, so that there are days to date back to.
    world.store.now = () => new Date(`${LATER}T09:00:00Z`);
    const chance = new Chance(seed);
    const history = await startHistory(world, chance, () => addDays(LATER, -chance.int(0, 12)), 15);
    const open: number[] = [];
    for (let n = 0; n < ACTS; n++) {
      if (chance.percent(12)) await correct(history);
      else if (chance.percent(15)) await others(history, open);
      else await doSomething(history);
    }
    expect([...history.statuses].filter(([status]) => status >= 500)).toEqual([]);
    expect(await ledgerFaults(world)).toEqual([]);
    expect(await world.audit()).toEqual([]);
    const kinds = await read(world.store, (ctx) =>
      ctx.sql.all<{ kind: string }>(
        "SELECT DISTINCT kind FROM posting UNION SELECT DISTINCT what FROM posting_entry",
      ),
    );
    for (const { kind } of kinds) met.add(kind);
  },
  120_000,
);

it("came by each kind of posting in that work", () => {
  const kinds = [
    "correction",
    "finish",
    "hand out",
    "work",
    "shipment",
    "return",
    "inspection",
    "take-apart",
    "rework",
    "rework step",
    "given back to a customer",
  ];
  expect([...met]).toEqual(expect.arrayContaining([...kinds, "damaged", "missing", "work put in"]));
});

/** All that the books hold, lots and serial numbers too. */
const books = (world: World) =>
  read(world.store, (ctx) =>
    ctx.sql.all(
      `SELECT 'balance' AS what, json_array(item_id, lot, serial, location_id, bin, owner, owner_id, quantity) AS row
         FROM balance WHERE quantity > 0
        UNION ALL SELECT 'pool', json_array(item_id, lot, serial, owner, owner_id, quantity, value) FROM pool WHERE quantity > 0
        UNION ALL SELECT 'lot', json_array(item_id, code, expiry) FROM lot
        UNION ALL SELECT 'serial', json_array(item_id, code) FROM serial ORDER BY 1, 2`,
    ),
  );

it.each([1, 2, 3, 4])(
  "is back at the first state, lots and serials too, when everything is undone, order %i",
  async (seed) => {
    const world = await demoWorld();
    const chance = new Chance(seed);
    const first = await books(world);
    const supplier = await firmId(world, "supplier", "NORR");
    const buy = async (code: string, more: object) => {
      const lines = [{ item: await world.idOf(code), quantity: "3", price: "2", pricePer: "" }];
      const { id } = await world.ok(routes.newPurchase, { body: { supplier, note: "", lines } });
      const order = await world.ok(routes.sendPurchase, { params: { id } });
      const line = order.orderLines[0]?.id ?? 0;
      const body = { day: TODAY, lines: [{ line, quantity: "3", ...more }] };
      const sheet = await world.ok(routes.receivePurchase, { params: { id }, body });
      return sheet.receipts[0]?.id ?? 0;
    };
    const scales = await buy("SCL-E", { serials: ["E-1", "E-2", "E-3"] });
    const syrup = await buy("SYR-72", { lots: [{ lot: "NEW", quantity: "3", expiry: "2027-01-31" }] });
    const price = { line: 1, price: "70", pricePer: "", reason: "the bill" };
    await world.ok(routes.correctPrice, { params: { id: scales }, body: price });
    const hives = await world.queued("HIVE-C", "2");
    const feed = await world.queued("FEED-12", "8");
    const made: (() => Promise<unknown>)[] = [
      () =>
        world.ok(routes.finishBuild, {
          params: { id: hives },
          body: finishOf("1", {
            rejected: "1",
            reason: "warped",
            serials: ["H-1"],
            lines: [usedOf(2, "2", { only: ["E-2", "E-3"] })],
          }),
        }),
      () => world.ok(routes.handOut, { params: { id: feed }, body: { day: TODAY, some: false } }),
      () =>
        world.ok(routes.finishBuild, {
          params: { id: feed },
          body: finishOf("3", { lot: "AF-9", expiry: "2027-09-30", lines: [usedOf(1, "3", { only: [] })] }),
        }),
    ];
    // The hives before the feed or after it; what is done last is not undone first.
    for (const step of chance.percent(50) ? made : [...made.slice(1), ...made.slice(0, 1)]) await step();
    const undoing: (() => Promise<unknown>)[] = [
      () => world.ok(routes.undoFinish, { params: { id: hives }, body: { all: true } }),
      async () => {
        await world.ok(routes.undoFinish, { params: { id: feed }, body: { all: true } });
        await world.ok(routes.returnToStock, { params: { id: feed }, body: { day: TODAY } });
      },
    ];
    for (const step of chance.percent(50) ? undoing : undoing.reverse()) await step();
    for (const id of [hives, feed]) await world.ok(routes.cancelBuild, { params: { id } });
    for (const id of chance.percent(50) ? [scales, syrup] : [syrup, scales])
      await world.ok(routes.undoReceipt, { params: { id } });
    expect(await books(world)).toEqual(first);
    expect(await ledgerFaults(world)).toEqual([]);
    expect(await world.audit()).toEqual([]);
  },
);
