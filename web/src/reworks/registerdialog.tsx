import { type Firm, type ItemRow, reworkRoutes } from "@yosegi/contract";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Row, Stack, Sub, sayDone } from "../ui/index.ts";

interface Draft {
  item: ItemRow | null;
  serial: string;
  since: string;
  note: string;
}

const In = fieldsOf<Draft>();

/** Writes down a unit that a customer has and that we never shipped. */
export function RegisterDialog({
  customer,
  onClose,
}: {
  customer: Pick<Firm, "id" | "name">;
  onClose: () => void;
}) {
  return (
    <FormDialog
      title={`A unit that ${customer.name} has`}
      isOpen
      onClose={onClose}
      width="600px"
      save="Write it down"
      route={reworkRoutes.registerUnit}
      params={{ id: customer.id }}
      begin={{ item: null, serial: "", since: "", note: "" }}
      body={({ item, since, ...typed }: Draft) => ({
        ...typed,
        item: item?.id ?? 0,
        since: since === "" ? null : since,
      })}
      done={(_, { serial }: Draft) => sayDone(`${serial} written down.`)}
    >
      <Stack>
        <Sub>What we shipped to them is listed by itself.</Sub>
        <Row>
          <In.Item label="Item" name="item" choosing="stock" width="260px" autoFocus />
          <In.Text label="Serial number" name="serial" width="160px" />
          <In.Day label="Since" name="since" width="160px" />
        </Row>
        <In.Text label="Note" name="note" />
      </Stack>
    </FormDialog>
  );
}
