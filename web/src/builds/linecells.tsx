import type { BuildSheet } from "@yosegi/contract";
import { Link } from "react-router";
import type { Format } from "../ui/index.ts";

export type BuildLine = BuildSheet["lines"][number];

/** The part of a line, with its code and what else is worth knowing under it. */
export function PartCell({ line, more = "" }: { line: BuildLine; more?: string }) {
  return (
    <>
      <Link to={`/catalog/${line.item.id}`}>{line.item.name}</Link>
      <small>{[line.item.code, more].filter(Boolean).join(" · ")}</small>
    </>
  );
}

/** A figure of a line with its unit: stock with all its decimals, work without closing zeros. */
export function lineFigure(line: BuildLine, figure: string, format: Format): string {
  return line.service
    ? format.amount(figure, line.unit)
    : `${format.quantity(figure, line.decimals)} ${line.unit}`;
}
