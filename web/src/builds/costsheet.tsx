import type { BuildSheet, FinishRecord } from "@yosegi/contract";
import { Link } from "react-router";
import styled from "styled-components";
import { CostBar, Sub, Table, useFormat } from "../ui/index.ts";
import { Difference } from "./difference.tsx";

/** What one finish took and cost: planned, used and the difference of each part, down to the unit cost. */
export function CostSheet({ build, finish }: { build: BuildSheet; finish: FinishRecord }) {
  const format = useFormat();
  const { product } = build;
  const lineOf = new Map(build.lines.map((line) => [line.line, line]));
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
      <Table aria-label={`Cost sheet ${format.day(finish.day)}`}>
        <thead>
          <tr>
            <th scope="col">Part</th>
            <th scope="col" className="end">
              Planned
            </th>
            <th scope="col" className="end">
              Used
            </th>
            <th scope="col" className="end">
              Difference
            </th>
            <th scope="col" className="end">
              Cost
            </th>
          </tr>
        </thead>
        <tbody>
          {finish.lines.map((line) => {
            const kept = lineOf.get(line.line);
            if (!kept) return null;
            const figure = (text: string) =>
              `${kept.service ? format.amount(text) : format.quantity(text, kept.decimals)} ${kept.unit}`;
            return (
              <tr key={line.line}>
                <td>
                  {kept.item.name}
                  <small>{kept.item.code}</small>
                </td>
                <td className="end">{figure(line.planned)}</td>
                <td className="end">{figure(line.used)}</td>
                <td className="end">
                  <Difference
                    quantity={line.difference}
                    money={line.differenceCost}
                    unit={kept.unit}
                    decimals={kept.service ? 0 : kept.decimals}
                  />
                </td>
                <td className="end">{format.money(line.cost)}</td>
              </tr>
            );
          })}
        </tbody>
        <tfoot>
          <tr>
            <td colSpan={4}>
              Parts, work
              {finish.cost.overhead !== "0.0000" && `, overhead ${format.money(finish.cost.overhead)}`}
              {finish.cost.each &&
                ` · ${format.unitCost(finish.cost.each)} each for ${format.amount(finish.good)}`}
            </td>
            <td className="end">{format.money(finish.cost.total)}</td>
          </tr>
        </tfoot>
      </Table>
      <CostBar
        parts={[
          { label: "parts", money: finish.cost.parts },
          { label: "work", money: finish.cost.work },
          { label: "overhead", money: finish.cost.overhead },
        ]}
      />
    </Section>
  );
}

const Section = styled.section`
  margin-top: 26px;
`;
