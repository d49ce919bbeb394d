import type { MovementRow } from "@yosegi/contract";
import type { Format } from "../ui/index.ts";

/** How much a movement moved, with its sign; one that puts a price right moves value alone. */
export function movedWords({ quantity, to, item }: MovementRow, format: Format): string {
  if (quantity === "0") return "value only";
  return `${to === "" ? "−" : "+"}${format.quantity(quantity, item.decimals)} ${item.unit}`;
}
