import type { ImportKind } from "@yosegi/contract";

export const TITLES: Record<ImportKind, string> = {
  suppliers: "Suppliers",
  customers: "Customers",
  items: "Items",
  prices: "Supplier prices",
  partsLists: "Parts lists",
  kits: "Kits",
  stock: "Opening stock",
};

export const WHAT: Record<ImportKind, string> = {
  suppliers: "Who you buy from",
  customers: "Who you sell to",
  items: "What you buy, build and sell",
  prices: "Which supplier asks what for which item",
  partsLists: "What goes into each product",
  kits: "What is in each set",
  stock: "What is where, to begin with",
};
