import {
  type BuildSheet,
  PLAIN_BUILD,
  PLAIN_FINISH,
  PLAIN_LINE,
  PLAIN_SHIPMENT,
  routes,
} from "@yosegi/contract";
import { addDays, type Day } from "@yosegi/core";
import type { Chance } from "./chance.ts";
import { handReceipt } from "./companies.ts";
import type { Reply, World } from "./open.ts";

/** What random work knows of the company it works in, and what it has made there. */
export interface History {
  world: World;
  chance: Chance;
  today: () => Day;
  ids: ReadonlyMap<string, number>;
  suppliers: number[];
  customers: number[];
  builds: number[];
  orders: number[];
  purchases: number[];
  shipments: number[];
  returns: number[];
  takeAparts: number[];
  /** Most purchase orders that are sent: each leaves two files. */
  sendMost: number;
  sent: number;
  /** Counts up, for lots and serial numbers that nobody else has. */
  numbers: number;
  /** What was answered, by status: for the caller to look at. */
  statuses: Map<number, number>;
}

const PARTS = [
  "BOX-D",
  "FRM-D",
  "FND-D",
  "PIN-20",
  "GLUE-W",
  "FLR-M",
  "ROOF-M",
  "CRN-B",
  "SYR-72",
  "THY-O",
  "CAN-12",
  "LBL-F",
  "LBL-H",
  "SHEET-S",
  "HON-B",
  "JAR-4",
  "LID-63",
  "SCL-E",
  "SMK-S",
  "HTL-J",
  "GLV-M",
];
const BY_LOT = new Set(["FND-D", "SYR-72", "THY-O", "HON-B"]);
const FINE = new Set(["PIN-20", "GLUE-W", "SYR-72", "THY-O", "HON-B"]);
const PRODUCTS = ["FRM-A", "HIVE-N", "HIVE-C", "FEED-12", "HON-4"];
const PRODUCTS_BY_LOT = new Set(["FEED-12", "HON-4"]);
const SOLD = [
  "FRM-A",
  "HIVE-N",
  "HIVE-C",
  "FEED-12",
  "FEED-12",
  "HON-4",
  "HON-4",
  "SMK-S",
  "HTL-J",
  "KIT-YARD",
  "KIT-TOOL",
  "KIT-CARE",
  "KIT-CLUB",
  "LAB-B",
];
/** About how many of a product are built or sold at once. */
const SIZE: Record<string, number> = { "FRM-A": 60, "HIVE-N": 4, "HIVE-C": 3, "FEED-12": 16, "HON-4": 60 };
const BINS = ["01-A", "02-B", "03-C", "04-C"];

export async function startHistory(
  world: World,
  chance: Chance,
  today: () => Day,
  sendMost = 1_000,
): Promise<History> {
  const { items } = await world.ok(routes.items, { query: { limit: 1000 } });
  const firms = async (kind: "supplier" | "customer") =>
    (await world.ok(routes.firms, { query: { kind } })).firms.map((firm) => firm.id);
  return {
    world,
    chance,
    today,
    ids: new Map(items.map((item) => [item.code, item.id])),
    suppliers: await firms("supplier"),
    customers: await firms("customer"),
    builds: [],
    orders: [],
    purchases: [],
    shipments: [],
    returns: [],
    takeAparts: [],
    sendMost,
    sent: 0,
    numbers: 0,
    statuses: new Map(),
  };
}

function idOf({ ids }: History, code: string): number {
  const id = ids.get(code);
  if (id === undefined) throw new Error(`The demo has no ${code}`);
  return id;
}

/** Notes an answer's status; gives the answer where it is one. */
function noted<A>(history: History, { status, answer }: { status: number; answer: A }): A | null {
  history.statuses.set(status, (history.statuses.get(status) ?? 0) + 1);
  return status === 200 ? answer : null;
}

const maybeDay = ({ chance, today }: History): Day | null =>
  chance.percent(15) ? null : addDays(today(), chance.int(-3, 30));
/** Most of what is recorded happened today, some of it in the days before. */
const happened = ({ chance, today }: History): Day =>
  chance.percent(85) ? today() : addDays(today(), -chance.int(1, 3));
const amountOf = ({ chance }: History, code: string, most: number): string =>
  FINE.has(code) ? (chance.int(1, most * 1000) / 1000).toFixed(3) : String(chance.int(1, most));

/** One thing that may be done; each takes the state as it finds it, and some are refused. */
type Act = (history: History) => Promise<void>;

const receiveByHand: Act = async (history) => {
  const { world, chance } = history;
  const code = chance.pick(PARTS);
  const serial = code === "SCL-E";
  const quantity = serial ? "1" : amountOf(history, code, 80);
  const body = handReceipt(idOf(history, code), quantity, {
    unitCost: chance.percent(30) ? null : (chance.int(5, 4000) / 100).toFixed(2),
    store: chance.pick(["Front store", "Front store", "Yard"]),
    bin: chance.pick(BINS),
    lot: BY_LOT.has(code) ? `L-${++history.numbers}` : "",
    expiry: code === "SYR-72" || code === "THY-O" ? addDays(history.today(), chance.int(5, 200)) : null,
    serial: serial ? `E-${String(++history.numbers).padStart(5, "0")}` : "",
    day: happened(history),
  });
  noted(history, await world.call(routes.receive, { body }));
};

const orderParts: Act = async (history) => {
  const { world, chance } = history;
  const codes = new Set(Array.from({ length: chance.int(1, 4) }, () => chance.pick(PARTS)));
  const body = {
    supplier: chance.pick(history.suppliers),
    note: "",
    lines: [...codes].map((code) => ({
      item: idOf(history, code),
      quantity: amountOf(history, code, 120),
      price: (chance.int(10, 3000) / 100).toFixed(2),
      expected: maybeDay(history),
    })),
  };
  const made = noted(history, await world.call(routes.newPurchase, { body }));
  if (made) history.purchases.push(made.id);
};

const orderWhatIsShort: Act = async (history) => {
  const { world, chance } = history;
  const { rows } = await world.ok(routes.reorder, { query: {} });
  const orders = rows.filter((row) => row.act === "order" && row.supplier !== null);
  if (orders.length === 0) return;
  const lines = orders.slice(0, chance.int(1, 6)).map((row) => ({ item: row.id, quantity: row.quantity }));
  const made = noted(history, await world.call(routes.buyNeeds, { body: { lines } }));
  for (const { id } of made?.purchases ?? []) if (!history.purchases.includes(id)) history.purchases.push(id);
};

/** One of the latest: what is old has mostly ended. */
const recent = ({ chance }: History, ids: readonly number[]): number | null =>
  ids.length === 0 ? null : chance.pick(ids.slice(-12));

const onPurchase =
  (work: (history: History, id: number) => Promise<void>): Act =>
  async (history) => {
    const id = recent(history, history.purchases);
    if (id !== null) await work(history, id);
  };

const sendOrder = onPurchase(async (history, id) => {
  if (history.sent >= history.sendMost) return;
  if (noted(history, await history.world.call(routes.sendPurchase, { params: { id } }))) history.sent++;
});

const receiveOrder = onPurchase(async (history, id) => {
  const { world, chance } = history;
  const { orderLines } = await world.ok(routes.purchase, { params: { id } });
  const lines = orderLines
    .filter((line) => line.open !== "0" && chance.percent(75))
    .map((line) => {
      const open = Number(line.open);
      const share = chance.percent(60) ? open : Math.floor(open * chance.next() * 1000) / 1000;
      const quantity = FINE.has(line.item.code) ? share : Math.floor(share);
      const lot = `P-${++history.numbers}`;
      return {
        line: line.id,
        quantity: String(quantity),
        price: chance.percent(20) ? (chance.int(10, 3000) / 100).toFixed(2) : null,
        bin: chance.pick(BINS),
        lots: BY_LOT.has(line.item.code) && quantity > 0 ? [{ lot, quantity: String(quantity) }] : [],
        serials:
          line.item.tracking === "serial" && quantity > 0
            ? Array.from({ length: quantity }, () => `E-${String(++history.numbers).padStart(5, "0")}`)
            : [],
        close: chance.percent(8),
      };
    });
  if (lines.length === 0) return;
  noted(
    history,
    await world.call(routes.receivePurchase, { params: { id }, body: { day: happened(history), lines } }),
  );
});

const undoReceiving = onPurchase(async (history, id) => {
  const { receipts } = await history.world.ok(routes.purchase, { params: { id } });
  const open = receipts.filter((receipt) => receipt.undone === null);
  if (open.length === 0) return;
  noted(
    history,
    await history.world.call(routes.undoReceipt, { params: { id: history.chance.pick(open).id } }),
  );
});

const cancelOrdered = onPurchase(async (history, id) => {
  noted(history, await history.world.call(routes.cancelPurchase, { params: { id } }));
});

const changeExpectedDay = onPurchase(async (history, id) => {
  const { orderLines } = await history.world.ok(routes.purchase, { params: { id } });
  const lines = orderLines.map((line) => ({ line: line.id, expected: maybeDay(history) }));
  noted(history, await history.world.call(routes.changeExpected, { params: { id }, body: { lines } }));
});

function orderLine(history: History) {
  const { chance } = history;
  const code = chance.pick(SOLD);
  return { item: idOf(history, code), quantity: String(chance.int(1, SIZE[code] ?? 4)) };
}

const takeOrder: Act = async (history) => {
  const { world, chance } = history;
  const lines = Array.from({ length: chance.int(1, 3) }, () => orderLine(history));
  const body = { customer: chance.pick(history.customers), due: maybeDay(history), lines };
  const made = noted(history, await world.call(routes.newOrder, { body }));
  if (made) history.orders.push(made.id);
};

const onOrder =
  (work: (history: History, id: number) => Promise<void>): Act =>
  async (history) => {
    const id = recent(history, history.orders);
    if (id !== null) await work(history, id);
  };

const changeAnOrder = onOrder(async (history, id) => {
  const { world, chance } = history;
  const order = await world.ok(routes.order, { params: { id } });
  const kept = order.orderLines
    .filter(() => chance.percent(90))
    .map((line) => {
      const more = Math.max(1, Number(line.quantity) + chance.int(-6, 4));
      return { id: line.id, item: line.item.id, quantity: String(more), price: line.price };
    });
  const lines = chance.percent(25) || kept.length === 0 ? [...kept, orderLine(history)] : kept;
  const body = { customer: order.customer.id, due: maybeDay(history), lines };
  noted(history, await world.call(routes.changeOrder, { params: { id }, body }));
});

const cancelAnOrder = onOrder(async (history, id) => {
  noted(history, await history.world.call(routes.cancelOrder, { params: { id } }));
});

const buildMissing = onOrder(async (history, id) => {
  const made = noted(history, await history.world.call(routes.buildForOrder, { params: { id }, body: {} }));
  history.builds.push(...(made?.builds ?? []).map((build) => build.id));
});

const planBuild: Act = async (history) => {
  const { world, chance } = history;
  const code = chance.pick(PRODUCTS);
  const body = {
    ...PLAIN_BUILD,
    product: idOf(history, code),
    quantity: String(chance.int(1, SIZE[code] ?? 4)),
    due: maybeDay(history),
    priority: chance.int(1, 3),
    costTag: chance.percent(20) ? "spring" : "",
  };
  const made = noted(history, await world.call(routes.newBuild, { body }));
  if (made) history.builds.push(made.id);
};

const onBuild =
  (work: (history: History, id: number) => Promise<Reply<never> | unknown>): Act =>
  async (history) => {
    const id = recent(history, history.builds);
    if (id !== null) await work(history, id);
  };

/** A step of a build that says nothing but which build. */
const step = (
  route: typeof routes.queueBuild | typeof routes.unqueueBuild | typeof routes.cancelBuild,
): Act => onBuild(async (history, id) => noted(history, await history.world.call(route, { params: { id } })));

const handOutParts = onBuild(async (history, id) => {
  const body = { day: happened(history), some: history.chance.percent(60) };
  noted(history, await history.world.call(routes.handOut, { params: { id }, body }));
});

const returnParts = onBuild(async (history, id) => {
  noted(
    history,
    await history.world.call(routes.returnToStock, { params: { id }, body: { day: history.today() } }),
  );
});

const finishSome = onBuild(async (history, id) => {
  const { world, chance } = history;
  const build = await world.ok(routes.build, { params: { id } });
  if (build.stage !== "queued" && build.stage !== "on the bench") return;
  const open = Number(build.open);
  const worked = chance.percent(45) ? open : chance.int(1, Math.max(1, open));
  const rejected = chance.percent(25) ? chance.int(0, Math.min(2, worked)) : 0;
  const good = worked - rejected;
  const { code } = build.product;
  const body = {
    ...PLAIN_FINISH,
    good: String(good),
    rejected: String(rejected),
    reason: rejected > 0 ? "cracked" : "",
    day: happened(history),
    store: "Front store",
    bin: chance.pick(BINS),
    lot: PRODUCTS_BY_LOT.has(code) && good > 0 ? `F-${++history.numbers}` : "",
    expiry: code === "FEED-12" && good > 0 ? addDays(history.today(), 300) : null,
    serials: code === "HIVE-C" ? Array.from({ length: good }, () => `H-${++history.numbers}`) : [],
    lines: chance.percent(35) ? otherFigures(history, build, worked) : [],
    extra: chance.percent(10)
      ? [{ ...PLAIN_LINE, item: idOf(history, "LBL-H"), insteadOf: null, used: String(chance.int(1, 3)) }]
      : [],
    returnToStock: chance.percent(20),
    closeRest: chance.percent(15),
  };
  noted(history, await world.call(routes.finishBuild, { params: { id }, body }));
});

/** What was really used of one line, a little more or less than planned. */
function otherFigures({ chance }: History, build: BuildSheet, worked: number) {
  const stocked = build.lines.filter(
    (line) => line.stocked && line.item.tracking !== "serial" && !line.added,
  );
  if (stocked.length === 0) return [];
  const line = chance.pick(stocked);
  const planned = (Number(line.need) * worked) / Number(build.quantity);
  const used = Math.max(0, planned * (0.8 + chance.next() * 0.5));
  return [{ ...PLAIN_LINE, line: line.line, used: used.toFixed(Math.min(line.decimals, 3)) }];
}

const undoMade = onBuild(async (history, id) => {
  const body = { all: history.chance.percent(20) };
  noted(history, await history.world.call(routes.undoFinish, { params: { id }, body }));
});

const splitOff = onBuild(async (history, id) => {
  const body = { quantity: String(history.chance.int(1, 6)) };
  const made = noted(history, await history.world.call(routes.splitBuild, { params: { id }, body }));
  if (made) history.builds.push(made.id);
});

const join = onBuild(async (history, id) => {
  const other = recent(history, history.builds);
  if (other !== null && other !== id)
    noted(history, await history.world.call(routes.joinBuilds, { params: { id }, body: { other } }));
});

const copy = onBuild(async (history, id) => {
  const { world, chance } = history;
  const body = { quantity: String(chance.int(1, 8)), due: maybeDay(history), actual: chance.percent(50) };
  const made = noted(history, await world.call(routes.copyBuild, { params: { id }, body }));
  if (made) history.builds.push(made.id);
});

const link = onBuild(async (history, id) => {
  const { world, chance } = history;
  const { lines } = await world.ok(routes.linkableOrders, { params: { id } });
  if (lines.length === 0) return;
  const body = { line: chance.pick(lines).line, quantity: chance.percent(60) ? null : "1" };
  noted(history, await world.call(routes.linkOrder, { params: { id }, body }));
});

const unlink = onBuild(async (history, id) => {
  const { orders } = await history.world.ok(routes.build, { params: { id } });
  if (orders.length === 0) return;
  const body = { line: history.chance.pick(orders).line };
  noted(history, await history.world.call(routes.unlinkOrder, { params: { id }, body }));
});

const replan = onBuild(async (history, id) => {
  const { world, chance } = history;
  const build = await world.ok(routes.build, { params: { id } });
  const body = {
    ...PLAIN_BUILD,
    quantity: build.stage === "draft" ? String(chance.int(1, 20)) : build.wanted,
    list: build.list?.main === false ? build.list.id : null,
    due: maybeDay(history),
    priority: chance.int(1, 5),
  };
  noted(history, await world.call(routes.changeBuild, { params: { id }, body }));
});

/** Gives a build parts of its own, by chance: other quantities, a part dropped, one added; or lets it follow its list again. */
const ownParts = onBuild(async (history, id) => {
  const { world, chance } = history;
  const build = await world.ok(routes.build, { params: { id } });
  if (build.ownParts && chance.percent(30)) {
    noted(history, await world.call(routes.followList, { params: { id } }));
    return;
  }
  const kept = build.lines
    .filter(() => chance.percent(85))
    .map(({ line, item, need, note }) => {
      const quantity = chance.percent(30) ? amountOf(history, item.code, 20) : need;
      return { line, item: item.id, quantity, note };
    });
  const added = chance.percent(40) ? [chance.pick(PARTS)] : [];
  const parts = [
    ...kept,
    ...added.map((code) => ({
      line: null,
      item: idOf(history, code),
      quantity: amountOf(history, code, 5),
      note: "",
    })),
  ];
  noted(history, await world.call(routes.changeParts, { params: { id }, body: { parts } }));
});

const shipSome = onOrder(async (history, id) => {
  const { world, chance } = history;
  const { orderLines } = await world.ok(routes.order, { params: { id } });
  const lines = orderLines
    .filter((line) => Number(line.ready) > 0 && chance.percent(80))
    .map((line) => ({
      line: line.id,
      quantity: String(chance.percent(70) ? Number(line.ready) : Math.ceil(Number(line.ready) / 2)),
      pieces: [],
      only: [],
    }));
  if (lines.length === 0) return;
  const body = { ...PLAIN_SHIPMENT, day: history.today(), lines, goOn: true, takeFromOthers: true };
  const made = noted(history, await world.call(routes.shipOrder, { params: { id }, body }));
  if (made) history.shipments.push(made.id);
});

const undoShipped: Act = async (history) => {
  const id = recent(history, history.shipments);
  if (id !== null)
    noted(
      history,
      await history.world.call(routes.undoShipment, { params: { id }, body: { finishes: false } }),
    );
};

const sendBack: Act = async (history) => {
  const { world, chance } = history;
  const shipment = recent(history, history.shipments);
  if (shipment === null) return;
  const found = await world.call(routes.returnable, { params: { id: shipment } });
  if (found.status !== 200) return;
  const lines = found.answer.pieces
    .filter(({ shipped, returned }) => Number(shipped) > Number(returned) && chance.percent(60))
    .map(({ orderLine, item, lot, serial, shipped, returned }) => {
      const open = Number(shipped) - Number(returned);
      const quantity = String(chance.percent(60) ? open : Math.ceil(open / 2));
      return { orderLine, item: item.id, lot, serial, quantity, credit: null };
    });
  if (lines.length === 0) return;
  const body = { shipment, day: history.today(), reason: "sent back", lines };
  const made = noted(history, await world.call(routes.newReturn, { body }));
  if (made) history.returns.push(made.id);
};

const onReturn =
  (work: (history: History, id: number) => Promise<unknown>): Act =>
  async (history) => {
    const id = recent(history, history.returns);
    if (id !== null) await work(history, id);
  };

const inspectSome = onReturn(async (history, id) => {
  const { world, chance } = history;
  const { returned } = await world.ok(routes.return, { params: { id } });
  const lines = returned
    .filter(({ quantity, inspected }) => Number(quantity) > Number(inspected) && chance.percent(70))
    .map(({ line, quantity, inspected }) => ({
      line,
      outcome: chance.percent(75) ? ("stock" as const) : ("scrap" as const),
      quantity: String(Math.ceil((Number(quantity) - Number(inspected)) / (chance.percent(70) ? 1 : 2))),
      store: "Front store",
      bin: chance.pick(BINS),
      reason: "as it looks",
    }));
  if (lines.length === 0) return;
  const body = { day: history.today(), lines };
  noted(history, await world.call(routes.inspectReturn, { params: { id }, body }));
});

const undoInspected = onReturn(async (history, id) => {
  const { inspections } = await history.world.ok(routes.return, { params: { id } });
  if (inspections.length === 0) return;
  const params = { id, inspection: history.chance.pick(inspections).id };
  noted(history, await history.world.call(routes.undoInspection, { params }));
});

/** Takes apart what lies in a bin, or is to be inspected, as its build or its list says; some parts are damaged or missing. */
const takeApart: Act = async (history) => {
  const { world, chance } = history;
  const item = idOf(history, chance.pick(PRODUCTS));
  const { stockByBin } = await world.ok(routes.item, { params: { id: item } });
  const spots = stockByBin.filter(({ kind }) => kind === "store");
  if (spots.length === 0) return;
  const { store, bin, lot, serial, quantity: there } = chance.pick(spots);
  const quantity = String(Math.min(Math.floor(Number(there)), chance.int(1, 3)));
  const found = await world.call(routes.takeApartProposal, { query: { item, lot, serial, quantity } });
  if (found.status !== 200 || found.answer.parts.length === 0) return;
  const parts = found.answer.parts.map((part) => {
    const bad = chance.percent(25) ? (chance.percent(50) ? "damaged" : "missing") : "good";
    return {
      item: part.item.id,
      lot: part.lot,
      serial: part.serial,
      expected: part.expected,
      good: "0",
      damaged: "0",
      missing: "0",
      [bad]: part.expected,
      store: "Front store",
      bin: chance.pick(BINS),
    };
  });
  const body = {
    item,
    lot,
    serial,
    quantity,
    store,
    bin,
    build: found.answer.build?.id ?? null,
    day: history.today(),
    parts,
  };
  const made = noted(history, await world.call(routes.newTakeApart, { body }));
  if (made) history.takeAparts.push(made.id);
};

const undoTakenApart: Act = async (history) => {
  const id = recent(history, history.takeAparts);
  if (id !== null) noted(history, await history.world.call(routes.undoTakeApart, { params: { id } }));
};

const undoReturned = onReturn(async (history, id) => {
  noted(history, await history.world.call(routes.undoReturn, { params: { id } }));
});

/** What is done, and how often of a hundred or so. */
const WORK: readonly (readonly [number, Act])[] = [
  [9, receiveByHand],
  [4, orderParts],
  [3, orderWhatIsShort],
  [6, sendOrder],
  [8, receiveOrder],
  [1, undoReceiving],
  [1, cancelOrdered],
  [1, changeExpectedDay],
  [7, takeOrder],
  [3, changeAnOrder],
  [2, cancelAnOrder],
  [4, buildMissing],
  [8, planBuild],
  [12, step(routes.queueBuild)],
  [1, step(routes.unqueueBuild)],
  [1, step(routes.cancelBuild)],
  [8, handOutParts],
  [2, returnParts],
  [14, finishSome],
  [3, undoMade],
  [3, splitOff],
  [1, join],
  [1, copy],
  [3, link],
  [1, unlink],
  [2, replan],
  [4, ownParts],
  [9, shipSome],
  [1, undoShipped],
  [5, sendBack],
  [4, inspectSome],
  [1, undoInspected],
  [1, undoReturned],
  [5, takeApart],
  [1, undoTakenApart],
];
const WEIGHTS = WORK.reduce((total, [weight]) => total + weight, 0);

/** Does one thing, by chance; what cannot be done is refused by the server and changes nothing. */
export async function doSomething(history: History): Promise<void> {
  let at = history.chance.next() * WEIGHTS;
  for (const [weight, act] of WORK) {
    at -= weight;
    if (at < 0) return act(history);
  }
}
