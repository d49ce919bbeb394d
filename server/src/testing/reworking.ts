import { type ReworkBody, type ReworkOutBody, routes } from "@yosegi/contract";
import { read } from "../db/index.ts";
import { takeIn } from "./companies.ts";
import { TODAY, type World } from "./world.ts";

type Unit = ReworkBody["units"][number];
type Out = ReworkOutBody["units"][number];

export const unit = (serial: string, more: Partial<Unit> = {}) => ({
  serial,
  quantity: "1",
  store: "Yard",
  bin: "Y5-A",
  ...more,
});

/** Two extractors at 310.00 and 290.00 go into one rework. */
export async function twoExtractors(world: World, more: Partial<ReworkBody> = {}) {
  const item = await world.idOf("EXT-2");
  await takeIn(world, item, "1", { serial: "EX-0078", unitCost: "290.00", store: "Yard", bin: "Y5-A" });
  const body = { item, day: TODAY, reason: "drum bent", units: [unit("EX-0077"), unit("EX-0078")], ...more };
  return world.ok(routes.newRework, { body });
}

export const part = async (world: World, id: number, code: string, quantity: string, more: object = {}) =>
  world.ok(routes.addReworkPart, {
    params: { id },
    body: { item: await world.idOf(code), quantity, store: "Yard", bin: "Y4-A", day: TODAY, ...more },
  });

export const step = (world: World, id: number, more: object = {}) =>
  world.ok(routes.addReworkStep, {
    params: { id },
    body: { what: "Straighten the drum", planned: "40.00", state: "done", ...more },
  });

export const good = (of: number, more: Partial<Out> = {}) => ({
  unit: of,
  outcome: "good" as const,
  store: "Yard",
  bin: "Y5-A",
  ...more,
});

export const finish = (world: World, id: number, units: object[]) =>
  world.call(routes.finishRework, { params: { id }, body: { day: TODAY, units } as ReworkOutBody });

export const worth = async (world: World) => (await world.ok(routes.stockPlaces, { query: {} })).value;
export const freeOf = async (world: World, code: string) =>
  (await world.ok(routes.item, { params: { id: await world.idOf(code) } })).free;

/** All balances and pools, to compare the books before and after. */
export const books = (world: World) =>
  read(world.store, ({ sql }) =>
    sql.all(
      `SELECT item_id, lot, serial, location_id, bin, owner, owner_id, quantity FROM balance WHERE quantity > 0
        UNION ALL SELECT item_id, lot, serial, value, '', owner, owner_id, quantity FROM pool WHERE quantity > 0 ORDER BY 1, 2, 3, 4, 5, 6`,
      {},
    ),
  );
