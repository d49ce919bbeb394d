import { type CountSheet, countsRoutes, type ItemRow } from "@yosegi/contract";
import { useWatch } from "react-hook-form";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Row, Stack, sayDone } from "../ui/index.ts";

interface Draft {
  item: ItemRow | null;
  store: string;
  bin: string;
  lot: string;
  serial: string;
  counted: string;
}

const In = fieldsOf<Draft>();

/** Adds to a sheet what was found in a bin where the books have none of it. */
export function FoundForm({ count, onClose }: { count: CountSheet; onClose: () => void }) {
  const [first] = count.sheet;
  return (
    <FormDialog
      title="Add what was found"
      isOpen
      onClose={onClose}
      save="Add to the sheet"
      route={countsRoutes.addFound}
      params={{ id: count.id }}
      begin={{
        item: null,
        store: first?.store ?? "",
        bin: first?.bin ?? "",
        lot: "",
        serial: "",
        counted: "",
      }}
      body={({ item, ...typed }: Draft) => ({ ...typed, item: item?.id ?? 0 })}
      done={(_, { item }: Draft) => sayDone(`${item?.code} added to ${count.number}.`)}
    >
      <Fields />
    </FormDialog>
  );
}

function Fields() {
  const item = useWatch<Draft, "item">({ name: "item" });
  return (
    <Stack>
      <Row>
        <In.Item label="Item" name="item" width="300px" choosing="stock" autoFocus />
        <In.Quantity
          label="Counted"
          name="counted"
          width="150px"
          unit={item?.unit}
          packs={item?.packs ?? []}
        />
      </Row>
      <Row>
        <In.Store label="Store" name="store" width="170px" />
        <In.Text label="Bin" name="bin" width="110px" />
        {item?.tracking === "lot" && <In.Text label="Lot" name="lot" width="150px" />}
        {item?.tracking === "serial" && <In.Text label="Serial number" name="serial" width="170px" />}
      </Row>
    </Stack>
  );
}
