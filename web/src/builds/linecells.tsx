import type { BuildSheet } from "@yosegi/contract";
import { type Format, Named, OnOrder, Sub, useFormat } from "../ui/index.ts";

export type BuildLine = BuildSheet["lines"][number];

/** The unit of a line and its decimals, as its quantities are written. */
export type LineUnit = Pick<BuildLine, "service" | "unit" | "decimals">;

/** The part of a line, with its code, what else is worth knowing, and what is on order of it for the build under it. */
export function PartCell({ line, more = "" }: { line: BuildLine; more?: string }) {
  const format = useFormat();
  return (
    <>
      <Named name={line.item.name} to={`/catalog/${line.item.id}`} more={[line.item.code, more]} />
      <OnOrder
        purchases={line.purchases.map(({ quantity, expected, ...purchase }) => ({
          ...purchase,
          words: [format.amount(quantity, line.item.unit), expected && format.day(expected)]
            .filter(Boolean)
            .join(" "),
        }))}
      />
    </>
  );
}

/** A figure of a line with its unit: stock with all its decimals, work without closing zeros. */
export function lineFigure(line: LineUnit, figure: string, format: Format): string {
  return line.service
    ? format.amount(figure, line.unit)
    : `${format.quantity(figure, line.decimals)} ${line.unit}`;
}

/** How a line of a build with parts of its own differs from the parts list; "" where it does not. */
export function listedWords(build: BuildSheet, line: BuildLine, format: Format): string {
  const { listed } = line;
  if (!build.ownParts) return "";
  if (listed === null) return build.list ? "not on the parts list" : "";
  if (listed.item.id !== line.item.id) return `instead of ${listed.item.code}`;
  return listed.need === line.need ? "" : `${lineFigure(line, listed.need, format)} on the parts list`;
}

/** Parts of the list that a build takes none of. */
export function LeftOut({ build }: { build: BuildSheet }) {
  const format = useFormat();
  if (build.leftOut.length === 0) return null;
  return (
    <Sub>
      Left out:{" "}
      {format.list(build.leftOut.map(({ item, need, unit }) => `${format.amount(need, unit)} ${item.name}`))}.
    </Sub>
  );
}
