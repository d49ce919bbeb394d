import { IMPORT_KINDS, type ImportKind, type ImportRun } from "@yosegi/contract";
import type { Format } from "../ui/index.ts";

export const TITLES: Record<ImportKind, string> = {
  suppliers: "Suppliers",
  customers: "Customers",
  items: "Items",
  prices: "Supplier prices",
  priceLists: "Price lists",
  partsLists: "Parts lists",
  kits: "Kits",
  stock: "Opening stock",
};

export const WHAT: Record<ImportKind, string> = {
  suppliers: "Who you buy from",
  customers: "Who you sell to",
  items: "What you buy, build and sell",
  prices: "Which supplier asks what for which item",
  priceLists: "What customers, or groups of customers, pay from which quantity",
  partsLists: "What goes into each product",
  kits: "What is in each set",
  stock: "What is where, to begin with",
};

const THINGS: Record<ImportKind, [one: string, many: string]> = {
  suppliers: ["supplier", "suppliers"],
  customers: ["customer", "customers"],
  items: ["item", "items"],
  prices: ["supplier price", "supplier prices"],
  priceLists: ["price of a price list", "prices of price lists"],
  partsLists: ["parts list", "parts lists"],
  kits: ["kit", "kits"],
  stock: ["row of stock", "rows of stock"],
};

/** How many things of each kind an import makes and changes. */
export function thingWords(
  { fresh, changed }: Pick<ImportRun, "fresh" | "changed">,
  format: Format,
): string[] {
  const count = (of: Partial<Record<ImportKind, number>>, word: string) =>
    IMPORT_KINDS.flatMap((kind) => {
      const n = of[kind] ?? 0;
      return n > 0 ? [`${format.count(n, ...THINGS[kind])}${word}`] : [];
    });
  return [...count(fresh, ""), ...count(changed, " changed")];
}
