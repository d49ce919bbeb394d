import type { BuildSheet } from "@yosegi/contract";
import { type Format, Named } from "../ui/index.ts";

export type BuildLine = BuildSheet["lines"][number];

/** The unit of a line and its decimals, as its quantities are written. */
export type LineUnit = Pick<BuildLine, "service" | "unit" | "decimals">;

/** The part of a line, with its code and what else is worth knowing under it. */
export function PartCell({ line, more = "" }: { line: BuildLine; more?: string }) {
  return <Named name={line.item.name} to={`/catalog/${line.item.id}`} more={[line.item.code, more]} />;
}

/** A figure of a line with its unit: stock with all its decimals, work without closing zeros. */
export function lineFigure(line: LineUnit, figure: string, format: Format): string {
  return line.service
    ? format.amount(figure, line.unit)
    : `${format.quantity(figure, line.decimals)} ${line.unit}`;
}
