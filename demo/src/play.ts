import { readFile } from "node:fs/promises";
import {
  type FinishBody,
  IMPORT_KINDS,
  IMPORT_NAMES,
  type ImportFile,
  type NewBuild,
  PLAIN_BUILD,
  PLAIN_FINISH,
  PLAIN_LINE,
  parseAmounts,
  routes,
} from "@yosegi/contract";
import { addDays, dayIn, decimal, weekday } from "@yosegi/core";
import {
  addPerson,
  cancelBuild,
  change,
  checkImport,
  finishBuild,
  handOut,
  importFiles,
  Job,
  linkOrder,
  markSent,
  newBuild,
  newOrder,
  newPurchase,
  openStore,
  queueBuild,
  receivePurchase,
  type Store,
  sendPurchase,
  setStockTarget,
  setUp,
  type Writing,
  writeRecurring,
} from "@yosegi/server";

const MS_PER_MINUTE = 60_000;
const TIME_ZONE = "Europe/Vienna";
/** The working day of the demo begins at this time (UTC), and something happens every few minutes. */
const MORNING = "07:00";
const BETWEEN = 7;

/** The files of the demo company, as a person would choose them in the page. */
export async function demoFiles(folder: URL): Promise<ImportFile[]> {
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
  let daysAgo = 14;
  let steps = 0;
  // Counted from the company's own day: late in the evening, UTC is a day behind it.
  const today = dayIn(TIME_ZONE, started.toISOString());
  const now = () =>
    new Date(Date.parse(`${addDays(today, -daysAgo)}T${MORNING}:00Z`) + steps * BETWEEN * MS_PER_MINUTE);
  const store = await openStore(file, now);
  const as = <T>(person: number, work: (ctx: Writing) => Promise<T>) => {
    steps++;
    return change(store, person, work);
  };

  const { person: ines } = await change(store, null, (ctx) =>
    setUp(ctx, {
      name: "Brackenmere Bee Supply",
      currency: "EUR",
      timeZone: TIME_ZONE,
      store: "Front store",
      person: "Ines",
    }),
  );
  const tobias = await as(ines.id, (ctx) => addPerson(ctx, "Tobias"));
  const maren = await as(ines.id, (ctx) => addPerson(ctx, "Maren"));
  const files = await demoFiles(folder);
  await as(ines.id, async (ctx) => {
    const body = { files, update: false, job: "demo" };
    const { token } = await checkImport(ctx, body, new Job());
    return importFiles(ctx, { ...body, token, goodRowsOnly: false }, new Job());
  });

  const make = (code: string, quantity: string, due: number | null, more: Partial<NewBuild> = {}) =>
    as(ines.id, async (ctx) => {
      const item = await ctx.sql.one<{ id: number }>("SELECT id FROM item WHERE code = $code", { code });
      if (!item) throw new Error(`The demo has no ${code}`);
      const day = due === null ? null : addDays(ctx.today, due + daysAgo);
      const body = { ...PLAIN_BUILD, product: item.id, quantity, due: day, ...more };
      return newBuild(ctx, parseAmounts(routes.newBuild.body, body));
    });
  const queue = (build: number) => as(ines.id, (ctx) => queueBuild(ctx, build));
  const finish = (
    build: number,
    body: Partial<FinishBody> & { used?: [number, string][]; expires?: number },
  ) =>
    as(tobias.id, (ctx) => {
      const { used = [], expires, ...rest } = body;
      const whole: FinishBody = {
        ...PLAIN_FINISH,
        good: "0",
        day: ctx.today,
        store: "Front store",
        lines: used.map(([line, quantity]) => ({ ...PLAIN_LINE, line, used: quantity })),
        expiry: expires === undefined ? null : addDays(ctx.today, expires),
        ...rest,
      };
      return finishBuild(ctx, build, parseAmounts(routes.finishBuild.body, whole));
    });

  const idOf = async (ctx: Writing, code: string) => {
    const row = await ctx.sql.one<{ id: number }>(
      "SELECT id FROM item WHERE code = $code UNION ALL SELECT id FROM firm WHERE code = $code",
      { code },
    );
    if (!row) throw new Error(`The demo has no ${code}`);
    return row.id;
  };
  type Ordered = [
    code: string,
    quantity: string,
    expected: number,
    more?: { pack?: string; costTag?: string },
  ];
  const order = async (supplier: string, lines: Ordered[], note = "") =>
    as(ines.id, async (ctx) =>
      newPurchase(ctx, {
        supplier: await idOf(ctx, supplier),
        note,
        lines: await Promise.all(
          lines.map(async ([code, quantity, expected, { pack = "", costTag = "" } = {}]) => ({
            id: null,
            item: await idOf(ctx, code),
            quantity: decimal(quantity),
            pack,
            price: null,
            pricePer: "",
            costTag,
            note: "",
            expected: addDays(ctx.today, expected + daysAgo),
          })),
        ),
      }),
    );
  const sell = async (
    customer: string,
    due: number,
    lines: [code: string, quantity: string][],
    more: { reference?: string; note?: string } = {},
  ) =>
    as(ines.id, async (ctx) =>
      newOrder(ctx, {
        customer: await idOf(ctx, customer),
        due: addDays(ctx.today, due + daysAgo),
        reference: "",
        note: "",
        lines: await Promise.all(
          lines.map(async ([code, quantity]) => ({
            id: null,
            item: await idOf(ctx, code),
            quantity: decimal(quantity),
            price: null,
            pricePer: "",
          })),
        ),
        ...more,
      }),
    );
  /** Lets a build work for the first line of an order, as far as both go. */
  const link = (build: number, order: number) =>
    as(ines.id, async (ctx) => {
      const line = await ctx.sql.one<{ id: number }>(
        "SELECT id FROM sales_line WHERE order_id = $order ORDER BY line",
        { order },
      );
      if (!line) throw new Error(`Order ${order} has no line`);
      return linkOrder(ctx, build, { line: line.id, quantity: null });
    });
  const send = (purchase: number) => as(ines.id, (ctx) => sendPurchase(ctx, purchase));

  daysAgo = 10;
  const jarsOrder = await order("PETA", [
    ["JAR-4", "480", -3, { pack: "tray" }],
    ["LID-63", "400", -3, { pack: "bag" }],
  ]);
  await send(jarsOrder);
  daysAgo = 9;
  const feed = await make("FEED-12", "8", -5);
  const frames = await make("FRM-A", "400", -3, {
    note: "For the spring hives",
    costTag: "spring",
    assigned: tobias.id,
  });
  await queue(feed);
  await queue(frames);
  daysAgo = 8;
  const hiveParts = await order(
    "NORR",
    [
      ["FLR-M", "12", 4, { costTag: "spring" }],
      ["ROOF-M", "12", 4, { costTag: "spring" }],
      ["FRM-D", "200", 4, { pack: "pack" }],
    ],
    "Please call before you deliver.",
  );
  await send(hiveParts);
  await as(ines.id, (ctx) => markSent(ctx, 1));
  daysAgo = 6;
  await finish(feed, { good: "8", bin: "04-C", lot: "AF-01", expires: 300 });
  const jars = await make("HON-4", "60", -4);
  await queue(jars);
  daysAgo = 4;
  await finish(frames, {
    good: "100",
    bin: "02-B",
    used: [
      [3, "1.05"],
      [5, "420"],
    ],
  });
  await finish(jars, {
    good: "58",
    rejected: "2",
    reason: "jars cracked",
    bin: "08-C",
    lot: "HN-2611",
    expires: 500,
    used: [[2, "62"]],
  });
  const wrong = await make("FRM-A", "50", null);
  await as(ines.id, (ctx) => cancelBuild(ctx, wrong));
  await as(maren.id, async (ctx) => {
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
          serials: [],
          close: false,
        },
      ],
    });
  });
  daysAgo = 1;
  const wax = await order("LIND", [["FND-D", "120", 5]]);
  await send(wax);
  await order("CALD", [["SMK-S", "12", 12]]);
  const hives = await make("HIVE-N", "3", 4, { assigned: tobias.id });
  await queue(hives);
  const honey = await make("HON-4", "240", 0, {
    note: "Ashgrove Farm Shop collects at noon",
    assigned: maren.id,
    priority: 2,
  });
  await queue(honey);
  // One order that a build works for, one that misses some, and one that is all there.
  await link(honey, await sell("ASHG", 0, [["HON-4", "240"]], { reference: "Winter honey" }));
  await link(hives, await sell("TARN", 6, [["HIVE-N", "8"]], { note: "For the beginners’ course" }));
  await sell("MILL", 5, [["KIT-CARE", "6"]], { reference: "MG-118" });
  await make("HIVE-C", "4", 9, { customer: await as(ines.id, (ctx) => idOf(ctx, "UPPE")) });
  // The frames that are overdue: what there is of their parts lies on the bench.
  await as(tobias.id, (ctx) => handOut(ctx, frames, { day: ctx.today, some: true }));
  await as(ines.id, async (ctx) => {
    await setStockTarget(ctx, await idOf(ctx, "FEED-12"), { target: decimal(10), batch: decimal(8) });
    await setStockTarget(ctx, await idOf(ctx, "FRM-A"), { target: decimal(60), batch: decimal(100) });
    const days = [2, 4].map((from) => weekday(addDays(ctx.today, from)));
    await writeRecurring(ctx, null, {
      product: await idOf(ctx, "FRM-A"),
      quantity: decimal(12),
      weekdays: days,
      assigned: tobias.id,
      starts: addDays(ctx.today, 2),
      note: "For the shop",
    });
  });
  daysAgo = 0;
  return store;
}
