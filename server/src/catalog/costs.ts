import {
  type CostFacts,
  costOfContents,
  type Decimal,
  MONEY_DECIMALS,
  moneyFromWhole,
  quantityFromWhole,
  roundMoney,
  unitCosts,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { loadKits } from "./kits.ts";
import { loadLists, mainInForce } from "./lists.ts";

interface Row {
  item: number;
  standard: number | null;
  on_hand: number;
  value: number;
}

/** Current unit cost of the items named, and of all that they are made of (docs/rules.md § 5); of a kit, its contents'. */
export async function currentCosts(
  ctx: Reading,
  items: Iterable<number>,
): Promise<(item: number) => Decimal | null> {
  const rows = await ctx.sql.all<Row>(
    `WITH RECURSIVE wanted (id) AS (
       SELECT value FROM json_each($ids)
        UNION SELECT l.item_id FROM wanted w JOIN revision_line l ON l.revision_id = ${mainInForce("w.id")}
        UNION SELECT c.item_id FROM wanted w JOIN kit_content c ON c.kit_id = w.id)
     SELECT i.id AS item, i.standard_cost AS standard,
            (SELECT COALESCE(SUM(quantity), 0) FROM pool WHERE item_id = i.id) AS on_hand,
            (SELECT COALESCE(SUM(value), 0) FROM pool WHERE item_id = i.id) AS value
       FROM wanted JOIN item i ON i.id = wanted.id`,
    { ids: asJson(new Set(items)), today: ctx.today },
  );
  const issued = await lastIssued(
    ctx,
    rows.filter((row) => row.on_hand === 0).map((row) => row.item),
  );
  const lists = await loadLists(
    ctx,
    rows.map((row) => row.item),
  );
  const facts = new Map<number, CostFacts>(
    rows.map((row) => [
      row.item,
      {
        onHand: quantityFromWhole(row.on_hand),
        value: moneyFromWhole(row.value),
        lastIssued: issued.get(row.item) ?? null,
        standard: row.standard === null ? null : moneyFromWhole(row.standard),
        list: lists.get(row.item) ?? null,
      },
    ]),
  );
  const unitCost = unitCosts((item) => facts.get(item));
  const kits = await loadKits(ctx, facts.keys());
  return (item) => {
    const kit = kits.get(item);
    if (!kit) return unitCost(item);
    return costOfContents(
      kit.contents.map((content) => ({ ...content, price: null, cost: unitCost(content.item) })),
    );
  };
}

/** Unit cost of the last units issued of each item that ever was. */
async function lastIssued(ctx: Reading, items: readonly number[]): Promise<Map<number, Decimal>> {
  const rows = await ctx.sql.all<{ item: number; quantity: number; value: number }>(
    `SELECT m.item_id AS item, m.quantity, m.value
       FROM json_each($ids) ids
       JOIN movement m ON m.id = (SELECT MAX(id) FROM movement WHERE item_id = ids.value AND to_place IS NULL)`,
    { ids: asJson(items) },
  );
  return new Map(
    rows.map((row) => [
      row.item,
      roundMoney(moneyFromWhole(row.value).div(quantityFromWhole(row.quantity)), MONEY_DECIMALS),
    ]),
  );
}
