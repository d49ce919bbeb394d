import { routes } from "@yosegi/contract";
import { addDays, type Day } from "@yosegi/core";
import type { Chance } from "./chance.ts";
import type { World } from "./open.ts";

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
  reworks: number[];
  supplierReturns: number[];
  /** Most purchase orders that are sent: each leaves two files. */
  sendMost: number;
  sent: number;
  /** Counts up, for lots and serial numbers that nobody else has. */
  numbers: number;
  /** What was answered, by status: for the caller to look at. */
  statuses: Map<number, number>;
}

export const PARTS = [
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
export const BY_LOT = new Set(["FND-D", "SYR-72", "THY-O", "HON-B"]);
export const FINE = new Set(["PIN-20", "GLUE-W", "SYR-72", "THY-O", "HON-B"]);
export const PRODUCTS = ["FRM-A", "HIVE-N", "HIVE-C", "FEED-12", "HON-4"];
export const PRODUCTS_BY_LOT = new Set(["FEED-12", "HON-4"]);
export const SOLD = [
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
export const SIZE: Record<string, number> = {
  "FRM-A": 60,
  "HIVE-N": 4,
  "HIVE-C": 3,
  "FEED-12": 16,
  "HON-4": 60,
};
export const BINS = ["01-A", "02-B", "03-C", "04-C"];

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
    reworks: [],
    supplierReturns: [],
    sendMost,
    sent: 0,
    numbers: 0,
    statuses: new Map(),
  };
}

export function idOf({ ids }: History, code: string): number {
  const id = ids.get(code);
  if (id === undefined) throw new Error(`The demo has no ${code}`);
  return id;
}

/** Notes an answer's status; gives the answer where it is one. */
export function noted<A>(history: History, { status, answer }: { status: number; answer: A }): A | null {
  history.statuses.set(status, (history.statuses.get(status) ?? 0) + 1);
  return status === 200 ? answer : null;
}

export const maybeDay = ({ chance, today }: History): Day | null =>
  chance.percent(15) ? null : addDays(today(), chance.int(-3, 30));
/** Most of what is recorded happened today, some of it in the days before. */
export const happened = ({ chance, today }: History): Day =>
  chance.percent(85) ? today() : addDays(today(), -chance.int(1, 3));
export const amountOf = ({ chance }: History, code: string, most: number): string =>
  FINE.has(code) ? (chance.int(1, most * 1000) / 1000).toFixed(3) : String(chance.int(1, most));

/** One thing that may be done; each takes the state as it finds it, and some are refused. */
export type Act = (history: History) => Promise<void>;

export const recent = ({ chance }: History, ids: readonly number[]): number | null =>
  ids.length === 0 ? null : chance.pick(ids.slice(-12));
