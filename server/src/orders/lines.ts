import { type ItemRow, type OrderInput, Refusal } from "@yosegi/contract";
import {
  checkDecimals,
  type Day,
  type Decimal,
  decimal,
  ONE,
  type Problem,
  type Rate,
  reasonNotSelectable,
  reporter,
  type Units,
  ZERO,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { checkCurrency, loadUnits, pricedRate, unitNamed } from "../items/index.ts";
import { itemRows } from "../itemsheets/index.ts";
import { loadKits } from "../kits/index.ts";
import { refuseProblems } from "../problems.ts";

/** A line of an order as it may be written. */
export interface CheckedLine {
  id: number | null;
  item: number;
  /** The item as it is now. */
  sold: ItemRow;
  quantity: Decimal;
  price: Rate | null;
  pricePer: string;
  /** Percent. */
  discount: Decimal;
  /** The day promised to the customer. */
  promised: Day | null;
  /** What one takes from stock. */
  takes: Map<number, Decimal>;
}

/** Checks the lines of an order and says what each takes: itself, or what is in the kit now; work takes nothing. */
export async function checkLines(
  ctx: Reading,
  lines: readonly (Omit<OrderInput["lines"][number], "promised"> & { promised?: Day | null })[],
): Promise<CheckedLine[]> {
  const found = await ctx.sql.all<{ id: number }>(
    "SELECT DISTINCT i.id FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value",
    { ids: asJson(lines.map((line) => line.item)) },
  );
  const wanted = found.map((item) => item.id);
  const items = new Map((await itemRows(ctx, wanted)).map((item) => [item.id, item]));
  const kits = await loadKits(ctx, wanted);
  const units = await loadUnits(ctx);
  const problems: Problem[] = [];
  const checked = lines.map((line, i): CheckedLine => {
    const item = items.get(line.item);
    if (!item) throw Refusal.at(`lines.${i}.item`, "not-found", { what: "item", id: line.item });
    const why = reasonNotSelectable("selling", item);
    if (why) throw Refusal.at(`lines.${i}.item`, why, { code: item.code, kind: item.kind });
    const quantity = line.quantity;
    checkDecimals("quantity", quantity, unitNamed(units, item.unit), reporter(i, problems));
    const takes = new Map<number, Decimal>();
    const kit = kits.get(item.id);
    if (kit)
      for (const content of kit.contents.filter((c) => c.stocked))
        takes.set(content.item, (takes.get(content.item) ?? ZERO).plus(content.quantity));
    else if (item.kind !== "service" && !item.notStockTracked) takes.set(item.id, ONE);
    const { id, discount, promised = null } = line;
    return {
      id,
      promised,
      item: item.id,
      sold: item,
      quantity,
      discount,
      ...priceOf(ctx, line, item, units, i),
      takes,
    };
  });
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
  return checked;
}

/** The price of a line as it was typed, else the item's own. */
function priceOf(
  ctx: Reading,
  { price, pricePer }: Pick<OrderInput["lines"][number], "price" | "pricePer">,
  item: ItemRow,
  units: Units,
  at: number,
): { price: Rate | null; pricePer: string } {
  const own = item.price === null ? null : decimal(item.price);
  const [amount, per] = price === null ? [own, item.pricePer] : [price, pricePer];
  if (amount === null) return { price: null, pricePer: "" };
  checkCurrency(ctx, `lines.${at}.price`, amount);
  return { price: pricedRate(`lines.${at}.pricePer`, amount, per, item, units), pricePer: per };
}
