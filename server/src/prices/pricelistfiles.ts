import {
  codeKey,
  moneyFromScaled,
  type PriceListRow,
  quantityFromScaled,
  quantityToScaled,
} from "@yosegi/core";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import type { Known } from "../items/index.ts";
import { insertSteps } from "./pricelists.ts";
import { PRICE_LIST } from "./tables.ts";

/** Writes rows of a file that were checked; a list that is not there is made. */
export async function writePriceLists(
  ctx: Writing,
  rows: readonly PriceListRow[],
  items: Known,
): Promise<void> {
  if (rows.length === 0) return;
  const keyOf = ({ customer, group }: Pick<PriceListRow, "customer" | "group">) =>
    `${codeKey(customer)}\n${codeKey(group)}`;
  const found = async () => {
    const lists = await ctx.sql.all<{ id: number; customer: string; group: string }>(
      `SELECT l.id, COALESCE(f.code, '') AS customer, l.customer_group AS "group" FROM price_list l LEFT JOIN firm_head f ON f.id = l.customer_id`,
    );
    return new Map(lists.map((list) => [keyOf(list), list.id]));
  };
  const before = await found();
  const missing = new Map(rows.flatMap((row) => (before.has(keyOf(row)) ? [] : [[keyOf(row), row]])));
  const customers = await customerIds(ctx);
  await ctx.sql.insert(
    PRICE_LIST,
    [...missing.values()].map(({ customer, group }) => ({
      customer_id: customer === "" ? null : (customers.get(codeKey(customer)) ?? 0),
      customer_group: group,
      customer_group_key: codeKey(group),
    })),
  );
  const lists = await found();
  await insertSteps(ctx, rows, items, (row) => lists.get(keyOf(row)) ?? 0);
}

/** Ids of customers by the key of their code. */
export async function customerIds(ctx: Reading): Promise<Map<string, number>> {
  const rows = await ctx.sql.all<{ id: number; key: string }>(
    "SELECT id, code_key AS key FROM firm_head WHERE kind = 'customer'",
  );
  return new Map(rows.map((row) => [row.key, row.id]));
}

/** Every price of every list as a file has it. */
export async function priceListRecords(ctx: Reading): Promise<Omit<PriceListRow, "row">[]> {
  const rows = await ctx.sql.all<{
    customer: string;
    group: string;
    item: string;
    from: number;
    price: number;
    price_unit: string;
  }>(
    `SELECT COALESCE(f.code, '') AS customer, l.customer_group AS "group", i.code AS item, s.from_quantity AS "from", s.price, s.price_unit
       FROM price_step s JOIN price_list l ON l.id = s.list_id JOIN item_head i ON i.id = s.item_id LEFT JOIN firm_head f ON f.id = l.customer_id
      ORDER BY l.customer_id IS NOT NULL, l.customer_group_key, f.code_key, i.code_key, s.from_quantity`,
  );
  return rows.map(({ from, price, price_unit, ...row }) => ({
    ...row,
    from: quantityFromScaled(from),
    price: moneyFromScaled(price),
    pricePer: price_unit,
  }));
}

/** Removes prices that an import made; a list without any is gone. */
export async function removePriceSteps(
  ctx: Writing,
  steps: readonly Pick<PriceListRow, "customer" | "group" | "item" | "from">[],
): Promise<void> {
  await ctx.sql.run(
    `DELETE FROM price_step WHERE (list_id, item_id, from_quantity) IN (
       SELECT l.id, i.id, s.value ->> 'from' FROM json_each($steps) s JOIN item_head i ON i.code_key = s.value ->> 'item'
         JOIN price_list l LEFT JOIN firm_head f ON f.id = l.customer_id
        WHERE COALESCE(f.code_key, '') = s.value ->> 'customer' AND l.customer_group_key = s.value ->> 'group')`,
    {
      steps: asJson(
        steps.map(({ customer, group, item, from }) => ({
          customer: codeKey(customer),
          group: codeKey(group),
          item: codeKey(item),
          from: quantityToScaled(from),
        })),
      ),
    },
  );
  await ctx.sql.run("DELETE FROM price_list WHERE id NOT IN (SELECT list_id FROM price_step)");
}
