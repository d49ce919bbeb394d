import type { ShortageWay } from "@yosegi/contract";
import { decimal, min } from "@yosegi/core";

/** What one take-apart begins with: as many as are needed of those in one place; a serial number is one unit. */
export function startOf({ units, at: { quantity, ...place } }: ShortageWay) {
  return { ...place, quantity: min(decimal(units), decimal(quantity)).toFixed() };
}
