import { type ItemSheet, stockRoutes } from "@yosegi/contract";
import { fieldsOf, useStores } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Row, Sub, sayDone, useFormat } from "../ui/index.ts";
import { CountFields, type CountValues, countOf } from "./countfields.tsx";
import { useUndoStock } from "./undostock.ts";

/** The bin that is counted, with the lot or serial number in it. */
export type CountedSpot = Pick<ItemSheet["stockByBin"][number], "store" | "bin" | "lot" | "serial">;

interface CountDraft extends CountValues {
  day: string;
}

const In = fieldsOf<CountDraft>();

export interface CountDialogProps {
  item: ItemSheet;
  /** null where the person says which bin. */
  spot: CountedSpot | null;
  isOpen: boolean;
  onClose: () => void;
}

/** Puts the stock of one item in one bin right from what is really there. */
export function CountDialog({ item, spot, isOpen, onClose }: CountDialogProps) {
  const format = useFormat();
  const undo = useUndoStock();
  const stores = useStores().data?.stores ?? [];
  return (
    <FormDialog
      title={`Count ${item.code}`}
      isOpen={isOpen}
      onClose={onClose}
      width="660px"
      save="Save count"
      route={stockRoutes.count}
      begin={{
        there: "",
        store: spot?.store ?? (item.store || (stores[0]?.name ?? "")),
        bin: spot?.bin ?? item.bin,
        newBin: false,
        lot: spot?.lot ?? "",
        serial: spot?.serial ?? "",
        reason: "",
        cost: "",
        day: format.settings.today,
      }}
      body={({ day, ...counted }: CountDraft) => ({ ...countOf(counted, item.id), day })}
      done={({ document, difference }) =>
        sayDone(
          `${document}: stock of ${item.code} corrected by ${format.difference(difference, 0)} ${item.unit}.`,
          undo(document),
        )
      }
    >
      <Sub>Enter what is really in the bin. The stock is corrected under your name, with your reason.</Sub>
      <CountFields of={item} />
      <Row style={{ marginTop: 12 }}>
        <In.Day label="Counted on" name="day" />
      </Row>
    </FormDialog>
  );
}
