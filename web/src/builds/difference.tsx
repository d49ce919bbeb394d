import { decimal } from "@yosegi/core";
import { Short, useFormat } from "../ui/index.ts";
import type { LineUnit } from "./linecells.tsx";

export interface DifferenceProps {
  line: LineUnit;
  quantity: string;
  money: string;
}

/** Used minus planned, in quantity and money; more than planned stands out. */
export function Difference({ line, quantity, money }: DifferenceProps) {
  const format = useFormat();
  const difference = decimal(quantity);
  if (difference.eq(0)) return "–";
  const words = `${format.difference(quantity, line.service ? 0 : line.decimals)} ${line.unit}`;
  return (
    <>
      {difference.gt(0) ? <Short>{words}</Short> : words}
      <small>{format.moneyDifference(money)}</small>
    </>
  );
}
