import {
  codeKey,
  type Decimal,
  type ItemRow as ItemInput,
  moneyToWhole,
  pricedQuantity,
  quantityToWhole,
  searchText,
  type Units,
} from "@yosegi/core";
import { asJson, type ItemTableRow, type Writing } from "../db/index.ts";

const wholeMoney = (value: Decimal | null) => (value === null ? null : moneyToWhole(value));

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
): Omit<ItemTableRow, "id" | "picture_id"> {
  const per = (unit: string) => {
    const quantity = pricedQuantity(unit, units.get(item.unit), units.values(), item.packs);
    if (quantity === null)
      throw new Error(`The prices of ${item.code} were checked, and ${unit} is no unit of it`);
    return quantityToWhole(quantity);
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
    reorder_level: item.reorderLevel === null ? null : quantityToWhole(item.reorderLevel),
    build_days: item.buildDays,
    shelf_life: item.shelfLife,
    warranty_months: item.warrantyMonths,
    maker: item.maker,
    maker_number: item.makerNumber,
    lot_pattern: item.lotPattern,
    state: item.state,
    not_stock_tracked: item.notCounted ? 1 : 0,
    notes: item.notes,
  };
}

const COLUMNS = [
  "code",
  "code_key",
  "name",
  "search",
  "kind",
  "unit",
  "tracking",
  "group_id",
  "barcode",
  "standard_cost",
  "cost_per",
  "cost_unit",
  "price",
  "price_per",
  "price_unit",
  "home_location_id",
  "home_bin",
  "reorder_level",
  "build_days",
  "shelf_life",
  "warranty_months",
  "maker",
  "maker_number",
  "lot_pattern",
  "state",
  "not_stock_tracked",
  "notes",
] as const satisfies readonly (keyof ReturnType<typeof itemColumns>)[];

/** Makes items or writes them anew where their code is there, one from a form or thousands from a file. */
export async function writeItems(
  ctx: Writing,
  items: readonly Omit<ItemInput, "row">[],
  names: ItemNames,
): Promise<void> {
  const rows = items.map((item) => itemColumns(item, names));
  await ctx.sql.run(
    `INSERT INTO item (${COLUMNS.join(", ")})
     SELECT ${COLUMNS.map((column) => `value ->> '${column}'`).join(", ")} FROM json_each($rows) WHERE true
         ON CONFLICT (code_key) DO UPDATE SET ${COLUMNS.map((c) => `${c} = excluded.${c}`).join(", ")}`,
    { rows: asJson(rows) },
  );
  const packs = items.flatMap((item) =>
    item.packs.map((pack, position) => [
      codeKey(item.code),
      position,
      pack.name,
      quantityToWhole(pack.quantity),
    ]),
  );
  await ctx.sql.run(
    `DELETE FROM pack WHERE item_id IN (SELECT i.id FROM json_each($keys) k JOIN item i ON i.code_key = k.value)`,
    { keys: asJson(items.map((item) => codeKey(item.code))) },
  );
  await ctx.sql.run(
    `INSERT INTO pack (item_id, position, name, quantity)
     SELECT i.id, r.value ->> 1, r.value ->> 2, r.value ->> 3 FROM json_each($packs) r JOIN item i ON i.code_key = r.value ->> 0`,
    { packs: asJson(packs) },
  );
}
