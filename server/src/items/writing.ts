import {
  codeKey,
  type Decimal,
  type ItemInput,
  moneyToScaled,
  pricedQuantity,
  quantityToScaled,
  searchText,
  type Units,
} from "@yosegi/core";
import { asJson, type NewRow, type Writing } from "../db/index.ts";
import { ITEM, PACK } from "./tables.ts";

const wholeMoney = (value: Decimal | null) => (value === null ? null : moneyToScaled(value));

/** Ids that the names in an item stand for. */
export interface ItemNames {
  storeId: (name: string) => number | null;
  groupId: (name: string) => number | null;
  units: Units;
}

/** Columns of an item from what was typed, all but its picture. */
export function itemColumns(
  item: Omit<ItemInput, "row">,
  { storeId, groupId, units }: ItemNames,
): NewRow<typeof ITEM> {
  const per = (unit: string) => {
    const quantity = pricedQuantity(unit, units.get(item.unit), units.values(), item.packs);
    if (quantity === null)
      throw new Error(`The prices of ${item.code} were checked, and ${unit} is no unit of it`);
    return quantityToScaled(quantity);
  };
  return {
    code: item.code,
    code_key: codeKey(item.code),
    name: item.name,
    search: searchText(item.code, item.name, item.barcode, item.makerNumber),
    kind: item.kind,
    unit: item.unit,
    tracking: item.tracking,
    group_id: item.group === "" ? null : groupId(item.group),
    barcode: item.barcode,
    standard_cost: wholeMoney(item.cost),
    cost_per: per(item.costPer),
    cost_unit: item.costPer,
    price: wholeMoney(item.price),
    price_per: per(item.pricePer),
    price_unit: item.pricePer,
    home_location_id: item.store === "" ? null : storeId(item.store),
    home_bin: item.bin,
    reorder_level: item.reorderLevel === null ? null : quantityToScaled(item.reorderLevel),
    build_days: item.buildDays,
    shelf_life: item.shelfLife,
    warranty_months: item.warrantyMonths,
    maker: item.maker,
    maker_number: item.makerNumber,
    lot_pattern: item.lotPattern,
    state: item.state,
    not_stock_tracked: item.notStockTracked ? 1 : 0,
    not_for_sale: item.notForSale ? 1 : 0,
    always_build: item.alwaysBuild ? 1 : 0,
    finish_when_shipped: item.finishWhenShipped ? 1 : 0,
    lot_fixed: item.lotFixed ? 1 : 0,
    tax_rate: item.taxRate === null ? null : quantityToScaled(item.taxRate),
    notes: item.notes,
  };
}

/** Makes items or writes them anew where their code is there, one from a form or thousands from a file. */
export async function writeItems(
  ctx: Writing,
  items: readonly Omit<ItemInput, "row">[],
  names: ItemNames,
): Promise<void> {
  const rows = items.map((item) => itemColumns(item, names));
  await ctx.sql.upsert(ITEM, ["code_key"], rows);
  const ids = await idsByCode(ctx, items);
  await ctx.sql.run("DELETE FROM pack WHERE item_id IN (SELECT value FROM json_each($ids))", {
    ids: asJson(ids.values()),
  });
  await ctx.sql.insert(
    PACK,
    items.flatMap((item) =>
      item.packs.map((pack, position) => ({
        item_id: ids.get(codeKey(item.code)) ?? 0,
        position,
        name: pack.name,
        quantity: quantityToScaled(pack.quantity),
      })),
    ),
  );
}

async function idsByCode(ctx: Writing, items: readonly { code: string }[]): Promise<Map<string, number>> {
  const rows = await ctx.sql.all<{ id: number; code_key: string }>(
    "SELECT i.id, i.code_key FROM json_each($keys) k JOIN item i ON i.code_key = k.value",
    { keys: asJson(items.map((item) => codeKey(item.code))) },
  );
  return new Map(rows.map((row) => [row.code_key, row.id]));
}
