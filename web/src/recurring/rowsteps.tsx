import type { StockTargetRow } from "@yosegi/contract";
import { Pencil, X } from "lucide-react";
import { Button, Row } from "../ui/index.ts";

export type Product = {
  id: number;
  code: string;
  name: string;
  unit: string;
  packs: StockTargetRow["product"]["packs"];
};

/** Changing or removing a row. */
export function RowSteps(props: {
  change: string;
  onChange: () => void;
  remove: string;
  onRemove: () => void;
}) {
  return (
    <Row $gap="2px">
      <Button look="icon" aria-label={props.change} onPress={props.onChange}>
        <Pencil />
      </Button>
      <Button look="icon" aria-label={props.remove} onPress={props.onRemove}>
        <X />
      </Button>
    </Row>
  );
}
