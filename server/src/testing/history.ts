import {
  type BuildSheet,
  PLAIN_BUILD,
  PLAIN_FINISH,
  PLAIN_LINE,
  PLAIN_SHIPMENT,
  routes,
} from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { handReceipt } from "./companies.ts";
import {
  inspectSome,
  returnToSupplier,
  sendBack,
  takeApart,
  undoInspected,
  undoReturned,
  undoReturnToSupplier,
  undoTakenApart,
} from "./goodsback.ts";
import {
  type Act,
  amountOf,
  BINS,
  BY_LOT,
  FINE,
  type History,
  happened,
  idOf,
  maybeDay,
  noted,
  PARTS,
  PRODUCTS,
  PRODUCTS_BY_LOT,
  recent,
  SIZE,
  SOLD,
} from "./historybasis.ts";
import type { Reply } from "./open.ts";
import {
  addToRework,
  beginRework,
  endRework,
  takeFromRework,
  undoBegunRework,
  undoEndedRework,
} from "./reworkacts.ts";

export { type History, startHistory } from "./historybasis.ts";

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
  [4, beginRework],
  [6, addToRework],
  [1, takeFromRework],
  [5, endRework],
  [1, undoEndedRework],
  [1, undoBegunRework],
  [5, takeApart],
  [1, undoTakenApart],
  [2, returnToSupplier],
  [1, undoReturnToSupplier],
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
