import { decimal, parseQuantity } from "@yosegi/core";
import { AmountField, type AmountFieldProps, useFormat } from "../ui/index.ts";
import { useUnits } from "./queries.ts";

export interface QuantityFieldProps extends Omit<AmountFieldProps, "read"> {
  /** The unit that the figure is in, where it is not shown in the field. */
  measuredIn?: string;
  /** Packs of the item, by whose names a quantity may be told. */
  packs: readonly { name: string; quantity: string }[];
}

/** A quantity in the item's unit, which may be typed in packs or in another unit of its dimension: "2 boxes", "250 g". */
export function QuantityField({ packs, measuredIn, unit, ...props }: QuantityFieldProps) {
  const format = useFormat();
  const units = useUnits();
  const read = (text: string) =>
    parseQuantity(
      text,
      format.marks,
      units.get(measuredIn ?? unit ?? ""),
      units.values(),
      packs.map((pack) => ({ name: pack.name, quantity: decimal(pack.quantity) })),
    );
  return <AmountField {...props} unit={unit} read={read} />;
}
