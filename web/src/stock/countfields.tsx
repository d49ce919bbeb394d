import type { ItemBrief } from "@yosegi/contract";
import { useFormContext } from "react-hook-form";
import { fieldsOf } from "../fields/index.ts";
import { Row } from "../ui/index.ts";

/** What a person says of a count, as the form holds it. */
export interface CountValues {
  there: string;
  store: string;
  bin: string;
  newBin: boolean;
  lot: string;
  serial: string;
  reason: string;
  cost: string;
}

/** A count as it is sent: without a cost, what is found is worth what the item costs now. */
export const countOf = ({ cost, ...typed }: CountValues, item: number) => ({
  ...typed,
  item,
  cost: cost === "" ? null : cost,
});

const In = fieldsOf<CountValues>();

/** The fields of a count: what is really in which bin, and why the books were wrong. */
export function CountFields({ of }: { of: Pick<ItemBrief, "packs" | "unit" | "tracking"> }) {
  const { setValue } = useFormContext<CountValues>();
  // A bin belongs to its store; in another one there is none of that name, or it is another bin.
  const onStore = () => {
    setValue("bin", "");
    setValue("newBin", false);
  };
  return (
    <>
      <Row>
        <In.Quantity autoFocus packs={of.packs} label="Counted" name="there" width="150px" unit={of.unit} />
        <In.Store label="Store" name="store" width="150px" onChanged={onStore} />
        <In.Text label="Bin" name="bin" width="96px" />
        {of.tracking === "lot" && <In.Text label="Lot" name="lot" width="150px" />}
        {of.tracking === "serial" && <In.Text label="Serial number" name="serial" width="150px" />}
      </Row>
      <In.Tick name="newBin">New bin</In.Tick>
      <Row style={{ marginTop: 12 }}>
        <In.Text label="Reason" name="reason" width="300px" />
        <In.Amount label="Unit cost" name="cost" width="150px" placeholder="unchanged" />
      </Row>
    </>
  );
}
