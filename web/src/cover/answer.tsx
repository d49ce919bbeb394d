import type { CoverAnswer } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import styled from "styled-components";
import { color, type Format, useFormat } from "../ui/index.ts";

/** The answer in a sentence, made from the figures. */
export function Answer({ cover }: { cover: CoverAnswer }) {
  const format = useFormat();
  const { wanted, makesNow, product } = cover;
  const all = format.amount(wanted);
  const names = cover.parts.filter((part) => part.limiting).map((part) => part.name);
  return (
    <>
      <Title aria-live="polite">
        {makesNow === null ? (
          <>All {all} can be made now, and any other number: no part limits it.</>
        ) : decimal(makesNow).gte(wanted) ? (
          <>
            All {all} can be made now. {makesNow !== wanted && <>Up to {format.amount(makesNow)}; then </>}
            {makesNow === wanted ? "Not one more: " : ""}
            {runsOut(names, format, makesNow === wanted ? "is" : "runs")}
          </>
        ) : decimal(makesNow).gt(0) ? (
          <>
            {format.amount(makesNow)} of {all} can be made now. <em>{runsOut(names, format, "first")}</em>
          </>
        ) : (
          <>
            None of {all} can be made now. <em>{stops(names, format)}</em>
          </>
        )}
      </Title>
      <Beside>
        {finished(cover, format)} {cost(cover, format)} {work(cover, format)}
      </Beside>
      {product.decimals > 0 && <Beside>Figures are in {product.unit}.</Beside>}
    </>
  );
}

function runsOut(names: readonly string[], format: Format, how: "first" | "runs" | "is"): string {
  const one = names.length === 1;
  const list = format.list(names);
  if (how === "is") return `${list} ${one ? "is" : "are"} used up then.`;
  const tail = how === "first" ? " first" : "";
  return `${list} ${one ? "runs" : "run"} out${tail}.`;
}

function stops(names: readonly string[], format: Format): string {
  return `${format.list(names)} ${names.length === 1 ? "stops" : "stop"} it.`;
}

function finished(cover: CoverAnswer, format: Format): string {
  const { finishedFree, product } = cover;
  if (decimal(finishedFree).lte(0)) return "No finished ones are free.";
  return `${format.amount(finishedFree, product.unit)} finished ${finishedFree === "1" ? "is" : "are"} free besides.`;
}

function cost(cover: CoverAnswer, format: Format): string {
  const { each, unknown } = cover.cost;
  const lacking = unknown.length === 0 ? "" : `, without ${format.list(unknown)}: no cost yet`;
  return `Expected to cost ${format.unitCost(each)} each${lacking}.`;
}

function work(cover: CoverAnswer, format: Format): string {
  if (cover.work.length === 0) return "";
  return `Takes ${format.list(cover.work.map((w) => `${format.amount(w.quantity, w.unit)} of ${w.name.toLowerCase()}`))}.`;
}

const Title = styled.h1`
  margin: 20px 0 4px;
  max-width: 32em;
  em {
    font-style: normal;
    color: ${color.lacquer};
  }
`;

const Beside = styled.p`
  color: ${color.ink2};
  margin: 0 0 4px;
`;
