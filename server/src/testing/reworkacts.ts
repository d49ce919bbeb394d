import { routes } from "@yosegi/contract";
import { type Act, BINS, type History, idOf, noted, PARTS, PRODUCTS, recent } from "./historybasis.ts";

// Reworks by chance: units go in, parts and steps are added, and each unit comes out, is scrapped, or gives parts.

/** What lies in a store of one of these items, by chance; null where nothing does. */
async function someStock({ world, chance, ids }: History, codes: readonly string[]) {
  const item = ids.get(chance.pick(codes)) ?? 0;
  const { stockByBin } = await world.ok(routes.item, { params: { id: item } });
  const spots = stockByBin.filter(({ kind, quantity }) => kind === "store" && Number(quantity) >= 1);
  return spots.length === 0 ? null : { item, ...chance.pick(spots) };
}

export const beginRework: Act = async (history) => {
  const { world, chance } = history;
  const isTheirs = chance.percent(35);
  const found = await someStock(history, [...PRODUCTS, "SCL-E"]);
  const theirs = { serial: `O-${++history.numbers}`, quantity: "1" };
  if (!isTheirs && !found) return;
  const body = {
    item: isTheirs ? idOf(history, "SCL-E") : (found?.item ?? 0),
    customer: isTheirs ? chance.pick(history.customers) : null,
    isTheirs,
    day: history.today(),
    units: [
      isTheirs || !found
        ? theirs
        : { lot: found.lot, serial: found.serial, quantity: "1", store: found.store, bin: found.bin },
    ],
  };
  const made = noted(history, await world.call(routes.newRework, { body }));
  if (made) history.reworks.push(made.id);
};

const onRework =
  (work: (history: History, id: number) => Promise<void>): Act =>
  async (history) => {
    const id = recent(history, history.reworks);
    if (id !== null) await work(history, id);
  };

export const addToRework = onRework(async (history, id) => {
  const { world, chance } = history;
  const found = await someStock(history, PARTS);
  const plain = { day: history.today(), unit: chance.percent(50) ? 1 : null };
  const body =
    found && chance.percent(70)
      ? {
          ...plain,
          item: found.item,
          quantity: "1",
          lot: found.lot,
          serial: found.serial,
          store: found.store,
          bin: found.bin,
        }
      : { ...plain, item: null, text: "solder", amount: (chance.int(1, 900) / 100).toFixed(2) };
  noted(history, await world.call(routes.addReworkPart, { params: { id }, body }));
  const step = { what: "mend it", planned: (chance.int(0, 9000) / 100).toFixed(2), state: "done" as const };
  if (chance.percent(40))
    noted(history, await world.call(routes.addReworkStep, { params: { id }, body: step }));
});

export const takeFromRework = onRework(async (history, id) => {
  const { parts } = await history.world.ok(routes.rework, { params: { id } });
  if (parts.length === 0) return;
  const params = { id, part: history.chance.pick(parts).id };
  noted(history, await history.world.call(routes.removeReworkPart, { params }));
});

export const endRework = onRework(async (history, id) => {
  const { world, chance } = history;
  const { isTheirs, units } = await world.ok(routes.rework, { params: { id } });
  const bin = chance.pick(BINS);
  const store = "Front store";
  const parts = [{ item: idOf(history, "FRM-D"), quantity: "2", store, bin }];
  const body = {
    day: history.today(),
    units: units.map(({ unit }) => {
      if (isTheirs) return { unit, outcome: "good" as const };
      if (chance.percent(60)) return { unit, outcome: "good" as const, store, bin };
      return chance.percent(50)
        ? { unit, outcome: "scrap" as const, reason: "past mending" }
        : { unit, outcome: "parts" as const, reason: "past mending", parts };
    }),
  };
  noted(history, await world.call(routes.finishRework, { params: { id }, body }));
});

export const undoEndedRework = onRework(async (history, id) => {
  noted(history, await history.world.call(routes.undoFinishRework, { params: { id } }));
});

export const undoBegunRework = onRework(async (history, id) => {
  noted(history, await history.world.call(routes.undoRework, { params: { id } }));
});
