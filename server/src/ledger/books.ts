import {
  type Balance,
  type Day,
  moneyFromWhole,
  type Pool,
  poolKey,
  quantityFromWhole,
  type StockState,
  spotKey,
  type Takeable,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";

/** What the tables say where stock belongs to no build. */
export const NO_BUILD = 0;

const owner = (build: number): { build?: number } => (build === NO_BUILD ? {} : { build });

interface BalanceRow {
  item: number;
  lot: string;
  serial: string;
  place: number;
  bin: string;
  build: number;
  quantity: number;
  usable: number;
  expiry: Day | null;
  received: Day | null;
  home: number;
}

/** What the books hold of some items; what of it lies in usable places ready to be taken, and what with builds. */
export async function loadBooks(
  ctx: Reading,
  items: Iterable<number>,
): Promise<{ stock: StockState; ready: Takeable[]; bench: Takeable[] }> {
  const ids = asJson(new Set(items));
  const [pools, rows] = await Promise.all([loadPools(ctx, ids), loadBalances(ctx, ids)]);
  const balances = new Map<string, Balance>();
  const ready: Takeable[] = [];
  const bench: Takeable[] = [];
  for (const { usable, expiry, received, home, build, ...row } of rows) {
    const balance = { ...row, ...owner(build), quantity: quantityFromWhole(row.quantity) };
    balances.set(spotKey(balance), balance);
    if (usable || build !== NO_BUILD)
      (usable ? ready : bench).push({ ...balance, expiry, received: received ?? "", home: home === 1 });
  }
  return { stock: { balances, pools }, ready, bench };
}

async function loadBalances(ctx: Reading, ids: string): Promise<BalanceRow[]> {
  return ctx.sql.all<BalanceRow>(
    `SELECT b.item_id AS item, b.lot, b.serial, b.place_id AS place, b.bin, b.build_id AS build, b.quantity, p.kind = 'store' AS usable,
            l.expiry, COALESCE(l.received, s.received) AS received,
            i.home_place_id IS b.place_id AND i.home_bin = b.bin AS home
       FROM json_each($ids) ids
       JOIN balance b ON b.item_id = ids.value AND b.quantity > 0
       JOIN place p ON p.id = b.place_id
       JOIN item i ON i.id = b.item_id
       LEFT JOIN lot l ON l.item_id = b.item_id AND l.code = b.lot
       LEFT JOIN serial s ON s.item_id = b.item_id AND s.code = b.serial`,
    { ids },
  );
}

async function loadPools(ctx: Reading, ids: string): Promise<Map<string, Pool>> {
  const rows = await ctx.sql.all<{
    item: number;
    lot: string;
    serial: string;
    build: number;
    quantity: number;
    value: number;
  }>(
    `SELECT p.item_id AS item, p.lot, p.serial, p.build_id AS build, p.quantity, p.value
       FROM json_each($ids) ids JOIN pool p ON p.item_id = ids.value`,
    { ids },
  );
  return new Map(
    rows.map(({ build, ...row }) => {
      const amounts = { quantity: quantityFromWhole(row.quantity), value: moneyFromWhole(row.value) };
      const pool: Pool = { ...row, ...owner(build), ...amounts };
      return [poolKey(pool), pool];
    }),
  );
}
