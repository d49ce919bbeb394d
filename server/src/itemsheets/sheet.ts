import type { ItemSheet } from "@yosegi/contract";
import { divideRounded, free, moneyFromScaled, quantityFromScaled } from "@yosegi/core";
import { customValues, customValuesByCode } from "../customfields/index.ts";
import { firstOf, type Reading, rateOrNull } from "../db/index.ts";
import { filesOf } from "../files/index.ts";
import { itemById, priceText, suppliersOf } from "../items/index.ts";
import { kitAnswer } from "../kits/index.ts";
import { reservations, stockFigures } from "../ledger/index.ts";
import { listAnswer, mainInForce } from "../lists/index.ts";
import { usesOf } from "./removing.ts";
import { itemRows } from "./rows.ts";
import { stockByBin } from "./stockbybin.ts";

export async function itemSheet(ctx: Reading, id: number): Promise<ItemSheet> {
  const item = await itemById(ctx, id);
  const row = firstOf(await itemRows(ctx, [id]));
  const held = await reservations(ctx, [id]);
  const location = await ctx.sql.one<{ name: string }>(
    "SELECT name FROM location_head WHERE id = $location",
    {
      location: item.home_location_id,
    },
  );
  const list = await ctx.sql.one<{ revision: number | null }>(`SELECT ${mainInForce("$id")} AS revision`, {
    id,
    today: ctx.today,
  });
  const figures = (await stockFigures(ctx, [id]))(id);
  const customOf = await customValuesByCode(ctx, id);
  const priceOf = await serialPrices(ctx, id);
  return {
    ...row,
    version: item.version,
    // A kit's row tells its sets; its own stock there is none of.
    free: item.kind === "kit" ? row.free : free(figures).toFixed(),
    cost: item.standard_cost === null ? null : moneyFromScaled(item.standard_cost).toFixed(),
    lastCost: await lastCost(ctx, id),
    costPer: item.cost_unit,
    ownPrice: priceText(ctx, rateOrNull(item.price, item.price_per)),
    barcode: item.barcode,
    store: location?.name ?? "",
    bin: item.home_bin,
    reorderLevel: item.reorder_level === null ? null : quantityFromScaled(item.reorder_level).toFixed(),
    buildDays: item.build_days,
    shelfLife: item.shelf_life,
    warrantyMonths: item.warranty_months,
    maker: item.maker,
    makerNumber: item.maker_number,
    lotPattern: item.lot_pattern,
    notes: item.notes,
    inUse: await usesOf(ctx, id),
    suppliers: await suppliersOf(ctx, id),
    custom: await customValues(ctx, "item", id),
    files: await filesOf(ctx, "item", id),
    expired: figures.expired.toFixed(),
    stockByBin: (await stockByBin(ctx, id)).map((spot) => ({
      ...spot,
      price: priceOf.get(spot.serial) ?? null,
      custom: customOf(spot),
    })),
    reservedBy: held.map(({ item: _, ...held }) => held),
    incoming: await incomingOf(ctx, id),
    list: list?.revision ? await listAnswer(ctx, list.revision) : null,
    kit: item.kind === "kit" ? await kitAnswer(ctx, item) : null,
  };
}

/** What is on its way to stock: open purchase orders, and what builds can still bring. */
async function incomingOf(ctx: Reading, item: number): Promise<ItemSheet["incoming"]> {
  const rows = await ctx.sql.all<Omit<ItemSheet["incoming"][number], "quantity"> & { quantity: number }>(
    `SELECT build_id AS build, purchase_id AS purchase, number, SUM(quantity) AS quantity, day
       FROM incoming WHERE item_id = $item GROUP BY 1, 2, 3, 5 ORDER BY day IS NULL, day, number`,
    { item },
  );
  return rows.map((row) => ({ ...row, quantity: quantityFromScaled(row.quantity).toFixed() }));
}

/** What one unit cost when it was last bought or taken in. */
async function lastCost(ctx: Reading, id: number): Promise<string | null> {
  const row = await ctx.sql.one<{ quantity: number; value: number }>(
    `SELECT m.quantity, m.value FROM stock_movement m
      WHERE m.item_id = $id AND m.from_location IS NULL AND m.purpose IN ('opening', 'bought') ORDER BY m.id DESC LIMIT 1`,
    { id },
  );
  return row && divideRounded(moneyFromScaled(row.value), quantityFromScaled(row.quantity), 4).toFixed(4);
}

/** The prices of serial numbers that have one of their own. */
async function serialPrices(ctx: Reading, id: number): Promise<Map<string, string>> {
  const rows = await ctx.sql.all<{ serial: string; price: number }>(
    "SELECT serial, price FROM serial_own_price WHERE item_id = $id",
    { id },
  );
  return new Map(
    rows.map(({ serial, price }) => [serial, moneyFromScaled(price).toFixed(ctx.currencyDecimals)]),
  );
}
