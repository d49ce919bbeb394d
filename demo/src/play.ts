import { readFile } from "node:fs/promises";
import { IMPORT_KINDS, IMPORT_NAMES, type ImportFile } from "@yosegi/contract";
import { addDays, decimal, weekday } from "@yosegi/core";
import {
  addPart,
  addPerson,
  addStep,
  cancelBuild,
  checkImport,
  fetchPick,
  importFiles,
  Job,
  markSent,
  newReturn,
  newRework,
  newTakeApart,
  receive,
  receivePurchase,
  roundSheet,
  type Store,
  sendPurchase,
  setStockTarget,
  setUp,
  startRound,
  writeRecurring,
} from "@yosegi/server";
import { Player, TIME_ZONE } from "./player.ts";

/** The files of the demo company, as a person would choose them in the page. */
async function demoFiles(folder: URL): Promise<ImportFile[]> {
  return Promise.all(
    IMPORT_KINDS.map(async (kind) => {
      const name = `${IMPORT_NAMES[kind]}.csv`;
      return {
        kind,
        name,
        content: await readFile(new URL(name, folder), "base64"),
        columns: {},
        decimal: null,
      };
    }),
  );
}

/** Plays the last two weeks of the demo company through the server's own use cases, into a new database file. */
export async function playDemo(file: string, folder: URL, started: Date): Promise<Store> {
  const player = await Player.open(file, started);
  const people = await begin(player, folder);
  const { jarsOrder, frames } = await lastWeek(player, people);
  await receiveJars(player, people.maren, jarsOrder);
  await yesterday(player, people, frames);
  player.daysAgo = 0;
  return player.store;
}

interface People {
  ines: number;
  tobias: number;
  maren: number;
}

/** Two weeks ago: the company, its people, and everything that its files say. */
async function begin(player: Player, folder: URL): Promise<People> {
  player.daysAgo = 14;
  const { person } = await player.first((ctx) =>
    setUp(ctx, {
      name: "Brackenmere Bee Supply",
      currency: "EUR",
      timeZone: TIME_ZONE,
      taxRate: decimal("20"),
      store: "Front store",
      person: "Ines",
    }),
  );
  const ines = person.id;
  player.owner = ines;
  const tobias = await player.as(ines, (ctx) => addPerson(ctx, "Tobias"));
  const maren = await player.as(ines, (ctx) => addPerson(ctx, "Maren"));
  player.builder = tobias.id;
  const files = await demoFiles(folder);
  await player.as(ines, async (ctx) => {
    const body = { files, update: false, job: "demo" };
    const { token } = await checkImport(ctx, body, new Job());
    return importFiles(ctx, { ...body, token, goodRowsOnly: false }, new Job());
  });
  return { ines, tobias: tobias.id, maren: maren.id };
}

/** Jars and hive parts are ordered; feed, frames and jars of honey are built, some of them in part. */
async function lastWeek(
  player: Player,
  { ines, tobias }: People,
): Promise<{ jarsOrder: number; frames: number }> {
  player.daysAgo = 10;
  const jarsOrder = await player.order("PETA", [
    ["JAR-4", "480", -3, { pack: "tray" }],
    ["LID-63", "400", -3, { pack: "bag" }],
  ]);
  await player.as(ines, (ctx) => sendPurchase(ctx, jarsOrder));
  player.daysAgo = 9;
  const feed = await player.make("FEED-12", "8", -5);
  const frames = await player.make("FRM-A", "400", -3, {
    note: "For the spring hives",
    costTag: "spring",
    assigned: tobias,
  });
  await player.queue(feed);
  await player.queue(frames);
  player.daysAgo = 8;
  const hiveParts = await player.order(
    "NORR",
    [
      ["FLR-M", "12", 4, { costTag: "spring" }],
      ["ROOF-M", "12", 4, { costTag: "spring" }],
      ["FRM-D", "200", 4, { pack: "pack" }],
    ],
    "Please call before you deliver.",
  );
  await player.as(ines, (ctx) => sendPurchase(ctx, hiveParts));
  await player.as(ines, (ctx) => markSent(ctx, 1));
  player.daysAgo = 6;
  await player.finish(feed, { good: "8", bin: "04-C", lot: "AF-01", expires: 300 });
  const jars = await player.make("HON-4", "60", -4);
  await player.queue(jars);
  player.daysAgo = 4;
  await player.finish(frames, {
    good: "100",
    bin: "02-B",
    used: [
      [3, "1.05"],
      [5, "420"],
    ],
  });
  await player.finish(jars, {
    good: "58",
    rejected: "2",
    reason: "jars cracked",
    bin: "08-C",
    lot: "HN-2611",
    expires: 500,
    used: [[2, "62"]],
  });
  const wrong = await player.make("FRM-A", "50", null);
  await player.as(ines, (ctx) => cancelBuild(ctx, wrong));
  return { jarsOrder, frames };
}

/** Of what was ordered of the jars' supplier, the jars come. */
async function receiveJars(player: Player, maren: number, jarsOrder: number): Promise<void> {
  await player.as(maren, async (ctx) => {
    const [jar] = await ctx.sql.all<{ id: number }>(
      "SELECT id FROM purchase_line WHERE purchase_id = $id ORDER BY position",
      { id: jarsOrder },
    );
    return receivePurchase(ctx, jarsOrder, {
      day: ctx.today,
      note: "Lids are late",
      more: false,
      lines: [
        {
          line: jar?.id ?? 0,
          quantity: decimal(480),
          price: null,
          pricePer: "",
          store: "",
          bin: "Y3-A",
          lots: [],
          expiry: null,
          madeOn: null,
          serials: [],
          close: false,
        },
      ],
    });
  });
}

/** What is ordered, sold and begun just now. */
async function yesterday(player: Player, { ines, tobias, maren }: People, frames: number): Promise<void> {
  player.daysAgo = 1;
  const wax = await player.order("LIND", [["FND-D", "120", 5]]);
  await player.as(ines, (ctx) => sendPurchase(ctx, wax));
  await player.order("CALD", [["SMK-S", "12", 12]]);
  const hives = await player.make("HIVE-N", "3", 4, { assigned: tobias });
  await player.queue(hives);
  const honey = await player.make("HON-4", "240", 0, {
    note: "Ashgrove Farm Shop collects at noon",
    assigned: maren,
    priority: 2,
  });
  await player.queue(honey);
  // One order that a build works for, one that misses some, and one that is all there.
  await player.link(honey, await player.sell("ASHG", 0, [["HON-4", "240"]], { reference: "Winter honey" }));
  await player.link(
    hives,
    await player.sell("TARN", 6, [["HIVE-N", "8"]], { note: "For the beginners’ course" }),
  );
  await player.sell("MILL", 5, [["KIT-CARE", "6"]], { reference: "MG-118" });
  await player.make("HIVE-C", "4", 9, { customer: await player.as(ines, (ctx) => player.idOf(ctx, "UPPE")) });
  // The frames that are overdue: a round fetched what there is of their parts, and is still open for the rest.
  await fetchFrames(player, maren, frames);
  await sendBack(player, maren);
  await repairExtractor(player, tobias);
  await takeCrushedApart(player, tobias);
  await player.as(ines, async (ctx) => {
    await setStockTarget(ctx, {
      product: await player.idOf(ctx, "FEED-12"),
      target: decimal(10),
      batch: decimal(8),
    });
    await setStockTarget(ctx, {
      product: await player.idOf(ctx, "FRM-A"),
      target: decimal(60),
      batch: decimal(100),
    });
    const days = [2, 4].map((from) => weekday(addDays(ctx.today, from)));
    await writeRecurring(ctx, null, {
      product: await player.idOf(ctx, "FRM-A"),
      quantity: decimal(12),
      weekdays: days,
      assigned: tobias,
      starts: addDays(ctx.today, 2),
      note: "For the shop",
    });
  });
}

/** A return that waits to be inspected; nobody knows any more what it was shipped with. */
async function sendBack(player: Player, maren: number): Promise<void> {
  await player.as(maren, async (ctx) => {
    const came = async (code: string, credit: string) => ({
      orderLine: null,
      item: await player.idOf(ctx, code),
      lot: "",
      serial: "",
      quantity: decimal(1),
      credit: decimal(credit),
    });
    await newReturn(ctx, {
      shipment: null,
      customer: await player.idOf(ctx, "TARN"),
      day: ctx.today,
      reason: "Too large",
      note: "",
      costTag: "",
      fee: decimal(0),
      lines: [await came("SUIT-L", "58.00"), await came("GLV-L", "14.50")],
    });
  });
}

/** A customer's own extractor in for rework: one step is done here, the next is a subcontractor's, and a part is planned for it. */
async function repairExtractor(player: Player, tobias: number): Promise<void> {
  await player.as(tobias, async (ctx) => {
    const due = addDays(ctx.today, 6);
    const id = await newRework(ctx, {
      item: await player.idOf(ctx, "EXT-2"),
      customer: await player.idOf(ctx, "TARN"),
      isTheirs: true,
      at: null,
      plan: null,
      due,
      assigned: tobias,
      reason: "Gear worn, drum runs out of true",
      costTag: "",
      day: ctx.today,
      units: [{ lot: "", serial: "TB-12", quantity: decimal(1), store: "", bin: "", returnLine: null }],
    });
    const step = {
      person: null,
      supplier: null,
      service: null,
      hour: "",
      actual: null,
      unit: null,
      charge: null,
    };
    await addStep(ctx, id, {
      ...step,
      what: "Straighten the drum",
      person: tobias,
      due: ctx.today,
      planned: decimal(16),
      state: "done",
      charge: decimal(24),
    });
    await addStep(ctx, id, {
      ...step,
      what: "Cut a new gear",
      supplier: await player.idOf(ctx, "CALD"),
      service: await player.idOf(ctx, "LAB-O"),
      due: addDays(ctx.today, 3),
      planned: decimal(25),
      state: "waiting",
      charge: decimal(38),
    });
    await addPart(ctx, id, {
      item: await player.idOf(ctx, "BELT-X"),
      text: "",
      amount: decimal(0),
      quantity: decimal(1),
      lot: "",
      serial: "",
      store: "",
      bin: "",
      unit: null,
      step: null,
      charge: decimal("9.50"),
      day: ctx.today,
    });
  });
}

/** A hive that came back from a fair is crushed in the yard, and taken apart: its crown board is whole, its roof is gone. */
async function takeCrushedApart(player: Player, tobias: number): Promise<void> {
  await player.as(tobias, async (ctx) => {
    const part = async (code: string, quantity: number, becomes: "good" | "damaged" | "missing") => {
      const counts = { good: decimal(0), damaged: decimal(0), missing: decimal(0) };
      const place = becomes === "good" ? { store: "Front store", bin: "08-A" } : { store: "", bin: "" };
      const expected = decimal(quantity);
      return {
        ...counts,
        [becomes]: expected,
        ...place,
        item: await player.idOf(ctx, code),
        lot: "",
        serial: "",
        expected,
      };
    };
    const hive = await player.idOf(ctx, "HIVE-N");
    await receive(ctx, {
      day: ctx.today,
      reason: "Back from the fair",
      costTag: "",
      lines: [
        {
          item: hive,
          store: "Yard",
          bin: "Y6-A",
          quantity: decimal(1),
          unitCost: decimal(148),
          costPer: "pc",
          lot: "",
          expiry: null,
          madeOn: null,
          serial: "",
        },
      ],
    });
    await newTakeApart(ctx, {
      item: hive,
      lot: "",
      serial: "",
      quantity: decimal(1),
      store: "Yard",
      bin: "Y6-A",
      returnLine: null,
      build: null,
      revision: null,
      day: ctx.today,
      reason: "Crushed by a lorry in the yard",
      costTag: "",
      work: await player.idOf(ctx, "LAB-B"),
      minutes: decimal(20),
      charge: false,
      parts: [
        await part("BOX-D", 2, "damaged"),
        await part("FRM-A", 20, "damaged"),
        await part("FLR-M", 1, "damaged"),
        await part("ROOF-M", 1, "missing"),
        await part("CRN-B", 1, "good"),
      ],
    });
  });
}

/** A pick half done: all that is in stock was fetched, the rest is still to come. */
async function fetchFrames(player: Player, maren: number, frames: number): Promise<void> {
  const round = await player.as(maren, (ctx) =>
    startRound(ctx, { documents: [{ kind: "build", id: frames }] }),
  );
  const { stops } = await player.as(maren, (ctx) => roundSheet(ctx, round));
  for (const { location, bin, item, lot, serial, quantity } of stops)
    await player.as(maren, (ctx) =>
      fetchPick(ctx, round, {
        location,
        bin,
        item: item.id,
        lot,
        serial,
        quantity: decimal(quantity),
        there: null,
        more: false,
        reason: "",
        day: ctx.today,
      }),
    );
}
