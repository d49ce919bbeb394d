import type { ItemKind } from "./item.ts";

/** What an item is being chosen for. */
export type Choosing = "product" | "part" | "stock";

export interface Choosable {
  id: number;
  kind: ItemKind;
  hasList: boolean;
}

/**
 * Why an item cannot be chosen here, as a code of the error catalogue; null where it can. `product` is the item whose
 * parts are chosen.
 */
export function whyNot(
  choosing: Choosing,
  item: Choosable,
  product: number | null = null,
): "not-built" | "no-list" | "part-is-product" | "not-stocked" | null {
  if (choosing === "product") return item.kind !== "built" ? "not-built" : item.hasList ? null : "no-list";
  if (choosing === "part") return item.id === product ? "part-is-product" : null;
  return item.kind === "service" ? "not-stocked" : null;
}
