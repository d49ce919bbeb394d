import type { BuildSheet, FinishRecord } from "@yosegi/contract";
import { Link } from "react-router";
import styled from "styled-components";
import { CostBar, SheetTable, Sub, useFormat } from "../ui/index.ts";
import { Difference } from "./difference.tsx";
import { lineFigure, PartCell } from "./linecells.tsx";

/** What one finish took and cost: planned, used and the difference of each part, down to the unit cost. */
export function CostSheet({ build, finish }: { build: BuildSheet; finish: FinishRecord }) {
  const format = useFormat();
  const { product } = build;
  const { parts, work, overhead, extra, total, each } = finish.cost;
  const lines = finish.lines.flatMap((line) => {
    const kept = build.lines.find((l) => l.line === line.line);
    return kept ? [{ ...line, kept }] : [];
  });
  const numbers = [
    finish.lot && `lot ${finish.lot}${finish.expiry ? `, use by ${format.day(finish.expiry)}` : ""}`,
    finish.serials.length > 0 && `serial numbers ${finish.serials.join(", ")}`,
  ].filter(Boolean);
  return (
    <Section>
      <h2>
        {format.amount(finish.good, product.unit)} finished for {format.money(finish.cost.total)}
      </h2>
      <Sub>
        {format.day(finish.day)} by {finish.person}, to {finish.store} {finish.bin}
        {numbers.length > 0 && ` · ${numbers.join(" · ")}`}
        {finish.rejected !== "0" && ` · ${format.amount(finish.rejected)} rejected: ${finish.reason}`}
        {" · "}
        <Link to={`/stock?document=${build.number}`}>movements</Link>
      </Sub>
      <SheetTable
        label={`Cost sheet ${format.day(finish.day)}`}
        rows={lines}
        rowId={({ kept }) => kept.line}
        columns={[
          { header: "Part", cell: ({ kept }) => <PartCell line={kept} /> },
          { header: "Planned", end: true, cell: ({ kept, planned }) => lineFigure(kept, planned, format) },
          { header: "Used", end: true, cell: ({ kept, used }) => lineFigure(kept, used, format) },
          {
            header: "Difference",
            end: true,
            cell: ({ kept, difference, differenceCost }) => (
              <Difference line={kept} quantity={difference} money={differenceCost} />
            ),
          },
          { header: "Cost", end: true, cell: (line) => format.money(line.cost) },
        ]}
        sum={{
          words: `Parts, work${overhead === "0.0000" ? "" : `, overhead ${format.money(overhead)}`}${
            extra === "0.0000" ? "" : `, extra ${format.money(extra)}`
          }${each ? ` · ${format.unitCost(each)} each for ${format.amount(finish.good)}` : ""}`,
          figure: format.money(total),
        }}
      />
      <CostBar cost={{ parts, work, overhead, ...(extra !== "0.0000" && { extra }) }} />
    </Section>
  );
}

const Section = styled.section`
  margin-top: 26px;
`;
