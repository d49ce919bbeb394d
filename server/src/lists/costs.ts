import {
  type CostFacts,
  type ItemKind,
  moneyFromScaled,
  quantityFromScaled,
  type Rate,
  unitCosts,
} from "@yosegi/core";
import { asJson, type Reading, rateFromScaled, rateOrNull } from "../db/index.ts";
import { loadLists } from "./lists.ts";

/** What a cost depends on, as a query reads it by `COST_COLUMNS` of `i` and `c`, its `item_head` and `item_cost`. */
export interface CostRow {
  item: number;
  kind: ItemKind;
  standard: number | null;
  /** Millionths of the stock unit that the standard cost is for. */
  cost_per: number;
  pooled: number;
  value: number;
  /** Quantity and value of the last issue, where nothing is on hand, as JSON. */
  issued: string | null;
}

export const COST_COLUMNS = `i.id AS item, i.kind, c.standard_cost AS standard, c.cost_per,
  (SELECT COALESCE(SUM(quantity), 0) FROM owned_value WHERE item_id = i.id) AS pooled,
  (SELECT COALESCE(SUM(value), 0) FROM owned_value WHERE item_id = i.id) AS value,
  CASE WHEN NOT EXISTS (SELECT 1 FROM owned_value WHERE item_id = i.id AND quantity > 0) THEN
    (SELECT json_array(quantity, value) FROM stock_movement WHERE item_id = i.id AND to_location IS NULL AND quantity > 0
      ORDER BY id DESC LIMIT 1) END AS issued`;

/**
 * Current unit cost of the stocked items named (docs/rules.md § 5). Only what a cost depends on is read: the list of a
 * product that is in stock, or was, says nothing of its cost.
 */
export async function currentCosts(
  ctx: Reading,
  items: Iterable<number>,
): Promise<(item: number) => Rate | null> {
  return costsFrom(ctx, await costRows(ctx, new Set(items)));
}

/** The same, where what the costs of these items depend on is read already. */
export async function costsFrom(
  ctx: Reading,
  read: readonly CostRow[],
): Promise<(item: number) => Rate | null> {
  const facts = new Map<number, CostFacts>();
  let rows = read;
  // One turn for each level of lists: products, their parts, the parts of these.
  while (rows.length > 0) {
    const neverMade = rows.filter((row) => row.kind === "built" && row.pooled === 0 && row.issued === null);
    const lists = await loadLists(ctx, neverMade.map(idOf));
    for (const row of rows) facts.set(row.item, costFactsOf(row, lists.get(row.item) ?? null));
    const parts = Array.from(lists.values()).flatMap((list) => list.lines.map(idOf));
    rows = await costRows(ctx, new Set(parts.filter((item) => !facts.has(item))));
  }
  return unitCosts((item) => facts.get(item));
}

const idOf = ({ item }: { item: number }) => item;

/** What the costs of these items depend on. */
export async function costRows(ctx: Reading, items: ReadonlySet<number>): Promise<CostRow[]> {
  if (items.size === 0) return [];
  return ctx.sql.all<CostRow>(
    `SELECT ${COST_COLUMNS} FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value
       JOIN item_cost c ON c.item_id = i.id`,
    { ids: asJson(items) },
  );
}

function costFactsOf(row: CostRow, list: CostFacts["list"]): CostFacts {
  return {
    onHand: quantityFromScaled(row.pooled),
    value: moneyFromScaled(row.value),
    lastIssued: row.issued === null ? null : issuedRate(JSON.parse(row.issued)),
    standard: rateOrNull(row.standard, row.cost_per),
    list,
  };
}

const issuedRate = ([quantity, value]: [number, number]): Rate => rateFromScaled(value, quantity);
