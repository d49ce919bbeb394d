import type { ShipmentRow } from "@yosegi/contract";
import type { Format } from "../ui/index.ts";

/** A margin in words: "margin 24.40 (10.2%)"; "" where it is not known. */
export function marginWords(
  { margin, marginPercent = null }: { margin: string | null; marginPercent?: string | null },
  format: Format,
): string {
  if (margin === null) return "";
  const percent = marginPercent === null ? "" : ` (${format.percent(marginPercent)})`;
  return `margin ${format.money(margin)}${percent}`;
}

/** Heading under which a shipment stands in the list. */
export const shipmentGroup = ({ undone, day }: ShipmentRow, today: string): string => {
  if (undone) return "Undone";
  return day === today ? "Today" : "Earlier";
};
