import type { ItemBrief } from "@yosegi/contract";
import styled from "styled-components";
import { AmountField, Select } from "../ui/index.ts";
import { useUnits } from "./queries.ts";

export interface RateFieldProps {
  label: string;
  /** Names of the price and of what it is for in the body; the latter is `${name}Per` where it is not said. */
  name: string;
  perName?: string;
  /** What its unit is called where it stands among others of the kind. */
  perLabel?: string;
  hideLabel?: boolean;
  width?: string;
  placeholder?: string;
  /** Unit and packs of the item. */
  unit: string | undefined;
  packs: readonly Pick<ItemBrief["packs"][number], "name">[];
  value: string;
  /** The unit or pack that the price is for; "": the item's own unit. */
  per: string;
  onChange: (value: string, per: string) => void;
}

/** A price, and what it is for: any unit the item can be measured in, or one of its packs. */
export function RateField({
  unit,
  packs,
  value,
  per,
  perName,
  perLabel = "Per",
  onChange,
  width = "110px",
  ...field
}: RateFieldProps) {
  const units = useUnits();
  const own = unit === undefined ? undefined : units.get(unit);
  const others = [...units.values()].filter((u) => u.code !== unit && u.dimension === own?.dimension);
  const names = [...others.map((u) => u.code), ...packs.map((pack) => pack.name)].filter(Boolean);
  const choices = [unit ?? "", ...names].map((name) => ({ value: name, label: name || "unit" }));
  return (
    <Pair>
      <AmountField {...field} width={width} value={value} onChange={(text) => onChange(text, per)} />
      <Select
        label={perLabel}
        hideLabel={field.hideLabel ?? false}
        name={perName ?? `${field.name}Per`}
        width="92px"
        value={per === "" ? (unit ?? "") : per}
        placeholder="unit"
        options={choices}
        onChange={(name) => onChange(value, name === unit ? "" : name)}
      />
    </Pair>
  );
}

const Pair = styled.div`
  display: flex;
  gap: 4px;
  align-items: flex-start;
`;
