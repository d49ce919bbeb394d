import { routes } from "@yosegi/contract";
import { type Act, BINS, type History, idOf, noted, PARTS, PRODUCTS, recent } from "./historybasis.ts";

// What comes back from customers, is taken apart, and goes back to suppliers, by chance.

export const sendBack: Act = async (history) => {
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

export const inspectSome = onReturn(async (history, id) => {
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

export const undoInspected = onReturn(async (history, id) => {
  const { inspections } = await history.world.ok(routes.return, { params: { id } });
  if (inspections.length === 0) return;
  const params = { id, inspection: history.chance.pick(inspections).id };
  noted(history, await history.world.call(routes.undoInspection, { params }));
});

/** Takes apart what lies in a bin, or is to be inspected, as its build or its list says; some parts are damaged or missing. */
export const takeApart: Act = async (history) => {
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

export const undoTakenApart: Act = async (history) => {
  const id = recent(history, history.takeAparts);
  if (id !== null) noted(history, await history.world.call(routes.undoTakeApart, { params: { id } }));
};

export const undoReturned = onReturn(async (history, id) => {
  noted(history, await history.world.call(routes.undoReturn, { params: { id } }));
});

/** Sends some of what is in a bin, or is to be inspected of a return, back to a supplier. */
export const returnToSupplier: Act = async (history) => {
  const { world, chance } = history;
  const line = chance.percent(50) ? await ofReturn(history) : await ofStock(history);
  if (line === null) return;
  const body = {
    supplier: chance.pick(history.suppliers),
    day: history.today(),
    reason: "faulty",
    credit: String(chance.int(0, 20)),
    lines: [line],
  };
  const made = noted(history, await world.call(routes.newSupplierReturn, { body }));
  if (made) history.supplierReturns.push(made.id);
};

async function ofStock(history: History) {
  const { world, chance } = history;
  const item = idOf(history, chance.pick(PARTS));
  const { stockByBin } = await world.ok(routes.item, { params: { id: item } });
  const spots = stockByBin.filter(({ kind }) => kind === "store");
  if (spots.length === 0) return null;
  const { store, bin, lot, serial, quantity: there } = chance.pick(spots);
  const quantity = String(Math.min(Math.floor(Number(there)), chance.int(1, 3)));
  return { item, lot, serial, quantity, store, bin };
}

async function ofReturn(history: History) {
  const { world, chance } = history;
  const id = recent(history, history.returns);
  if (id === null) return null;
  const { returned } = await world.ok(routes.return, { params: { id } });
  const open = returned.filter((line) => line.open !== "0");
  if (open.length === 0) return null;
  const { line, item, lot, serial, open: quantity } = chance.pick(open);
  return { item: item.id, lot, serial, quantity, returnLine: { id, line } };
}

export const undoReturnToSupplier: Act = async (history) => {
  const id = recent(history, history.supplierReturns);
  if (id !== null) noted(history, await history.world.call(routes.undoSupplierReturn, { params: { id } }));
};
