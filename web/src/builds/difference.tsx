import { decimal } from "@yosegi/core";
import { Short, useFormat } from "../ui/index.ts";

export interface DifferenceProps {
  quantity: string;
  money: string;
  unit: string;
  decimals: number;
}

/** Used minus planned, in quantity and money; more than planned stands out. */
export function Difference({ quantity, money, unit, decimals }: DifferenceProps) {
  const format = useFormat();
  const difference = decimal(quantity);
  if (difference.eq(0)) return "–";
  const words = `${format.difference(quantity, decimals)} ${unit}`;
  return (
    <>
      {difference.gt(0) ? <Short>{words}</Short> : words}
      <small>{format.moneyDifference(money)}</small>
    </>
  );
}
