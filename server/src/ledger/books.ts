import {
  type Balance,
  type Day,
  type LocationKind,
  moneyFromScaled,
  type PickableStock,
  type Pool,
  poolKey,
  quantityFromScaled,
  type StockState,
  spotKey,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { type OwnerColumns, ownerOf } from "./owners.ts";

interface BalanceRow extends OwnerColumns {
  item: number;
  lot: string;
  serial: string;
  location: number;
  bin: string;
  quantity: number;
  kind: LocationKind;
  expiry: Day | null;
  received: Day | null;
  home: number;
  walk: number | null;
}

/** What the books hold of some items; what of it is in usable locations ready to be taken, what with builds, and what is packed for orders. */
export async function loadBooks(
  ctx: Reading,
  items: Iterable<number>,
): Promise<Record<"ready" | "bench" | "packed", PickableStock[]> & { stock: StockState }> {
  const ids = asJson(new Set(items));
  const [pools, rows] = await Promise.all([loadPools(ctx, ids), loadBalances(ctx, ids)]);
  const balances = new Map<string, Balance>();
  const ready: PickableStock[] = [];
  const bench: PickableStock[] = [];
  const packed: PickableStock[] = [];
  for (const { kind, expiry, received, home, walk, owner, owner_id, ...row } of rows) {
    const whose = ownerOf({ owner, owner_id });
    const balance = { ...row, ...whose, quantity: quantityFromScaled(row.quantity) };
    balances.set(spotKey(balance), balance);
    const takeable = { ...balance, expiry, received: received ?? "", home: home === 1, walk };
    if (owner === "build") bench.push(takeable);
    else if (owner === "company" && kind === "store") ready.push(takeable);
    else if (owner === "company" && kind === "packed") packed.push(takeable);
  }
  return { stock: { balances, pools }, ready, bench, packed };
}

async function loadBalances(ctx: Reading, ids: string): Promise<BalanceRow[]> {
  return ctx.sql.allAtOnce<BalanceRow>(
    [
      "item",
      "lot",
      "serial",
      "location",
      "bin",
      "owner",
      "owner_id",
      "quantity",
      "kind",
      "expiry",
      "received",
      "home",
      "walk",
    ],
    `SELECT b.item_id AS item, b.lot, b.serial, b.location_id AS location, b.bin, b.owner, b.owner_id, b.quantity, p.kind,
            COALESCE(l.expiry, s.expiry) AS expiry, COALESCE(l.received, s.received) AS received,
            i.home_location_id IS b.location_id AND i.home_bin = b.bin AS home, w.walk
       FROM json_each($ids) ids
       JOIN balance b ON b.item_id = ids.value AND b.quantity > 0
       JOIN location p ON p.id = b.location_id
       JOIN item_head i ON i.id = b.item_id
       LEFT JOIN bin w ON w.location_id = b.location_id AND w.code = b.bin
       LEFT JOIN lot l ON l.item_id = b.item_id AND l.code = b.lot
       LEFT JOIN serial s ON s.item_id = b.item_id AND s.code = b.serial`,
    { ids },
  );
}

async function loadPools(ctx: Reading, ids: string): Promise<Map<string, Pool>> {
  const rows = await ctx.sql.all<
    OwnerColumns & {
      item: number;
      lot: string;
      serial: string;
      quantity: number;
      value: number;
    }
  >(
    `SELECT p.item_id AS item, p.lot, p.serial, p.owner, p.owner_id, p.quantity, p.value
       FROM json_each($ids) ids JOIN pool p ON p.item_id = ids.value`,
    { ids },
  );
  return new Map(
    rows.map(({ owner, owner_id, ...row }) => {
      const amounts = { quantity: quantityFromScaled(row.quantity), value: moneyFromScaled(row.value) };
      const pool: Pool = { ...row, ...ownerOf({ owner, owner_id }), ...amounts };
      return [poolKey(pool), pool];
    }),
  );
}
