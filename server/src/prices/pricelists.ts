import { type AnswerOf, type ParsedBody, type PriceListSheet, Refusal, type routes } from "@yosegi/contract";
import {
  checkPriceLists,
  codeKey,
  moneyFromScaled,
  moneyToScaled,
  type PriceListRow,
  pricedQuantity,
  quantityFromScaled,
  quantityToScaled,
} from "@yosegi/core";
import { countChange, type PageQuery, pageOf, type Reading, type Writing } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { briefs, checkCurrency, type Known, knownItems, loadUnits } from "../items/index.ts";
import { refuseProblems } from "../problems.ts";
import { PRICE_LIST, PRICE_STEP } from "./tables.ts";

interface ListRow {
  id: number;
  version: number;
  group: string;
  customer: number | null;
  code: string | null;
  name: string | null;
  prices: number;
}

const LIST = `SELECT l.id, l.version, l.customer_group AS "group", f.id AS customer, f.code, f.name,
  (SELECT COUNT(*) FROM price_step s WHERE s.list_id = l.id) AS prices
  FROM price_list l LEFT JOIN firm_head f ON f.id = l.customer_id`;

const headOf = ({ id, group, customer, code, name, prices }: ListRow) => ({
  id,
  group,
  customer: customer === null ? null : { id: customer, code: code ?? "", name: name ?? "" },
  prices,
});

/** A page of price lists: those of groups, then those of customers, by name. */
export async function findPriceLists(
  ctx: Reading,
  query: PageQuery,
): Promise<AnswerOf<typeof routes.priceLists>> {
  const rows = await ctx.sql.all<ListRow>(
    `${LIST} ORDER BY l.customer_id IS NOT NULL, l.customer_group_key, f.name COLLATE NOCASE, l.id`,
  );
  const {
    rows: found,
    total,
    next,
  } = pageOf(rows, query, ({ group, code, name }) => [group, code, name].filter(Boolean).join(" "));
  return { lists: found.map(headOf), total, next };
}

async function listById(ctx: Reading, id: number): Promise<ListRow> {
  const row = await ctx.sql.one<ListRow>(`${LIST} WHERE l.id = $id`, { id });
  if (!row) throw new Refusal("not-found", { what: "price list", id });
  return row;
}

/** One price list with its prices, by item and quantity. */
export async function priceListSheet(ctx: Reading, id: number): Promise<PriceListSheet> {
  const row = await listById(ctx, id);
  const steps = await ctx.sql.all<{ item: number; from: number; price: number; price_unit: string }>(
    `SELECT s.item_id AS item, s.from_quantity AS "from", s.price, s.price_unit
       FROM price_step s JOIN item_head i ON i.id = s.item_id WHERE s.list_id = $id ORDER BY i.code_key, s.from_quantity`,
    { id },
  );
  const brief = await briefs(
    ctx,
    steps.map((step) => step.item),
  );
  return {
    ...headOf(row),
    version: row.version,
    steps: steps.map(({ item, from, price, price_unit }) => ({
      item: brief(item),
      from: quantityFromScaled(from).toFixed(),
      price: moneyFromScaled(price).toFixed(ctx.currencyDecimals),
      pricePer: price_unit,
    })),
  };
}

type StepsBody = ParsedBody<typeof routes.changePriceList>["steps"];

/** Makes the price list of a customer, or of a group of customers. Gives its id. */
export async function newPriceList(
  ctx: Writing,
  { customer, group, steps }: ParsedBody<typeof routes.newPriceList>,
): Promise<number> {
  if ((customer === null) === (group === "")) throw Refusal.at("customer", "customer-or-group");
  if (customer !== null) await refuseFirm(ctx, "customer", "customer", { id: customer });
  const there = await ctx.sql.one<{ id: number }>(
    "SELECT id FROM price_list WHERE customer_id = $customer OR (customer_group_key <> '' AND customer_group_key = $key)",
    { customer, key: codeKey(group) },
  );
  if (there) {
    const field = customer === null ? "group" : "customer";
    const { name } = await listById(ctx, there.id);
    throw Refusal.at(field, "price-list-there", { who: name ?? group });
  }
  const row = await ctx
    .model(PRICE_LIST)
    .create({ customer_id: customer, customer_group: group, customer_group_key: codeKey(group) });
  const { id } = row.get({ plain: true });
  await writeSteps(ctx, id, steps);
  return id;
}

/** Writes the prices of a price list anew. */
export async function changePriceList(ctx: Writing, id: number, steps: StepsBody): Promise<void> {
  await listById(ctx, id);
  await ctx.model(PRICE_STEP).destroy({ where: { list_id: id } });
  await writeSteps(ctx, id, steps);
  await countChange(ctx, PRICE_LIST, id);
}

export async function removePriceList(ctx: Writing, id: number): Promise<Record<string, never>> {
  await listById(ctx, id);
  await ctx.model(PRICE_LIST).destroy({ where: { id } });
  return {};
}

async function writeSteps(ctx: Writing, list: number, steps: StepsBody): Promise<void> {
  const brief = await briefs(
    ctx,
    steps.map((step) => step.item),
  );
  const codes = steps.map(({ item }) => brief(item).code);
  const items = await knownItems(ctx, codes);
  const units = await loadUnits(ctx);
  const rows = steps.map(({ from, price, pricePer }, row) => ({
    row,
    customer: "",
    group: "any",
    item: codes[row] ?? "",
    from,
    price,
    pricePer,
  }));
  for (const { row, price } of rows) checkCurrency(ctx, `steps.${row}.price`, price);
  const { problems } = checkPriceLists(rows, { items, units }, new Set(), await kitsThatFollow(ctx));
  refuseProblems(problems, ({ row, field }) => `steps.${row}.${field}`);
  await insertSteps(ctx, rows, items, () => list);
}

/** Kits whose price is the sum of their contents, by the keys of their codes: no list prices them. */
export async function kitsThatFollow(ctx: Reading): Promise<ReadonlySet<string>> {
  const rows = await ctx.sql.all<{ key: string }>(
    "SELECT i.code_key AS key FROM kit_head k JOIN item_head i ON i.id = k.item_id WHERE k.price_rule = 'sum'",
  );
  return new Set(rows.map((row) => row.key));
}

/** Writes prices that were checked, or writes them anew where one is there from the same quantity on. */
export async function insertSteps(
  ctx: Writing,
  rows: readonly PriceListRow[],
  items: Known,
  listOf: (row: PriceListRow) => number,
): Promise<void> {
  const units = await loadUnits(ctx);
  await ctx.sql.upsert(
    PRICE_STEP,
    ["list_id", "item_id", "from_quantity"],
    rows.map((row) => {
      const item = items.get(codeKey(row.item));
      const per = item && pricedQuantity(row.pricePer, units.get(item.unit), units.values(), item.packs);
      if (!item || !per) throw new Error(`${row.item} was checked and is not there`);
      return {
        list_id: listOf(row),
        item_id: item.id,
        from_quantity: quantityToScaled(row.from),
        price: moneyToScaled(row.price),
        price_per: quantityToScaled(per),
        price_unit: row.pricePer,
      };
    }),
  );
}
