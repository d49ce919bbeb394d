import type { Decimal } from "../amounts/index.ts";
import { codeKey } from "../keys.ts";
import { type Checked, checkEach } from "../problems.ts";
import { checkDecimals, type Facts } from "./checking.ts";
import { pricedQuantity } from "./packs.ts";

/** What one supplier asks for an item. Quantities are in the item's stock unit. */
export interface SupplierRow {
  row: number;
  item: string;
  supplier: string;
  theirCode: string;
  price: Decimal | null;
  /** The unit or pack of the item that the price is for; "" for its stock unit. */
  pricePer: string;
  leadDays: number | null;
  minimum: Decimal | null;
  multiple: Decimal | null;
  web: string;
  preferred: boolean;
}

/** Checks what suppliers ask for items; `suppliers` by `codeKey` of their codes. */
export function checkSuppliers(
  rows: readonly SupplierRow[],
  facts: Facts,
  suppliers: ReadonlySet<string>,
): Checked<SupplierRow> {
  const preferred = new Map<string, number>();
  return checkEach(
    rows,
    "supplier",
    // Two codes stand apart by a character that neither of them can have.
    (row) => `${row.item}\n${row.supplier}`,
    (row, report) => {
      const item = facts.items.get(codeKey(row.item));
      const unit = item && facts.units.get(item.unit);
      if (!item) report("item", row.item, "item-unknown", { code: row.item });
      else if (item.kind === "kit") report("item", row.item, "kit-not-bought", { code: item.code });
      if (!suppliers.has(codeKey(row.supplier)))
        report("supplier", row.supplier, "supplier-unknown", { code: row.supplier });
      if (item && unit && pricedQuantity(row.pricePer, unit, facts.units.values(), item.packs) === null)
        report("pricePer", row.pricePer, "price-unit", { code: item.code, per: row.pricePer });
      for (const field of ["minimum", "multiple"] as const) {
        const quantity = row[field];
        if (unit && quantity) checkDecimals(field, quantity, unit, report);
      }
      const earlier = preferred.get(codeKey(row.item));
      if (row.preferred && earlier !== undefined)
        report("preferred", "yes", "preferred-twice", { row: earlier });
      else if (row.preferred) preferred.set(codeKey(row.item), row.row);
    },
  );
}
