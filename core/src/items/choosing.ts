import { type ItemKind, type ItemState, isStocked } from "./item.ts";

/** What an item is being chosen for. */
export type Choosing =
  | "product"
  | "built"
  | "wanted"
  | "part"
  | "content"
  | "stock"
  | "work"
  | "buying"
  | "selling"
  | "any";

export interface Choosable {
  id: number;
  kind: ItemKind;
  hasList: boolean;
  state: ItemState;
  notStockTracked: boolean;
  notForSale: boolean;
}

/**
 * Why an item cannot be chosen here, as a code of the error catalogue; null where it can. `owner` is the item whose
 * parts or contents are chosen.
 */
export function reasonNotSelectable(
  choosing: Choosing,
  item: Choosable,
  owner: number | null = null,
):
  | "archived"
  | "not-built"
  | "not-wanted"
  | "not-bought"
  | "no-list"
  | "part-is-product"
  | "part-is-kit"
  | "not-stocked"
  | "not-work"
  | "not-for-sale"
  | null {
  if (choosing === "any") return null;
  if (item.state === "archived") return "archived";
  switch (choosing) {
    case "product":
      return item.kind !== "built" ? "not-built" : item.hasList ? null : "no-list";
    // A product that a parts list is written for.
    case "built":
      if (item.id === owner) return "part-is-product";
      return item.kind === "built" ? null : "not-built";
    case "wanted":
      if (item.kind !== "built" && item.kind !== "kit") return "not-wanted";
      return item.hasList ? null : "no-list";
    case "selling":
      if (item.notForSale) return "not-for-sale";
      return item.kind === "kit" && !item.hasList ? "no-list" : null;
    case "buying":
      return item.kind === "kit" ? "not-bought" : null;
    case "part":
    case "content":
      if (item.id === owner) return "part-is-product";
      if (item.kind === "kit") return "part-is-kit";
      return choosing === "content" && item.kind === "service" ? "not-stocked" : null;
    case "work":
      return item.kind === "service" ? null : "not-work";
    case "stock":
      return isStocked(item) ? null : "not-stocked";
  }
}
