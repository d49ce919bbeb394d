import type { Decimal } from "../amounts/index.ts";
import { checkDecimals, type Facts, pricedQuantity } from "../items/index.ts";
import { codeKey } from "../keys.ts";
import { type Checked, checkEach } from "../problems.ts";

/** A price that counts from so many on, in the item's stock unit. */
export interface PriceStep {
  from: Decimal;
}

/**
 * The step of a price that counts for a quantity (docs/rules.md § 12): the largest that it reaches, on the first of the lists
 * that has one. Null where none has: then the item's own price counts.
 */
export function stepThatCounts<Step extends PriceStep>(
  lists: readonly (readonly Step[])[],
  quantity: Decimal,
): Step | null {
  for (const steps of lists) {
    const reached = steps.filter(({ from }) => from.lte(quantity));
    const [first, ...others] = reached;
    if (first) return others.reduce((most, step) => (step.from.gt(most.from) ? step : most), first);
  }
  return null;
}

/** One price of a price list, as a file or a form has it: of a customer, or of a group of customers. */
export interface PriceListRow {
  row: number;
  /** The customer's code; "" for a group. */
  customer: string;
  group: string;
  item: string;
  from: Decimal;
  price: Decimal;
  /** The unit or pack of the item that the price is for; "" for its stock unit. */
  pricePer: string;
}

/** Checks prices of price lists; `customers` by `codeKey` of their codes, `following` are kits whose price follows their contents. */
export function checkPriceLists(
  rows: readonly PriceListRow[],
  facts: Pick<Facts, "items" | "units">,
  customers: ReadonlySet<string>,
  following: ReadonlySet<string>,
): Checked<PriceListRow> {
  return checkEach(
    rows,
    "item",
    (row) => priceListKey(row),
    (row, report) => {
      const item = facts.items.get(codeKey(row.item));
      const unit = item && facts.units.get(item.unit);
      if (!item) report("item", row.item, "item-unknown", { code: row.item });
      else if (following.has(codeKey(row.item)))
        report("item", row.item, "price-follows", { code: item.code });
      if ((row.customer === "") === (row.group === "")) report("customer", row.customer, "customer-or-group");
      else if (row.customer !== "" && !customers.has(codeKey(row.customer)))
        report("customer", row.customer, "customer-unknown", { code: row.customer });
      if (!item || !unit) return;
      checkDecimals("from", row.from, unit, report);
      if (pricedQuantity(row.pricePer, unit, facts.units.values(), item.packs) === null)
        report("pricePer", row.pricePer, "price-unit", { code: item.code, per: row.pricePer });
    },
  );
}

/** What makes two prices of price lists the same one. Codes stand apart by a character that none of them can have. */
export const priceListKey = ({
  customer,
  group,
  item,
  from,
}: Pick<PriceListRow, "customer" | "group" | "item" | "from">): string =>
  [customer, group, item, from.toFixed()].join("\n");
