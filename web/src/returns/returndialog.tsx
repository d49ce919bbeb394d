import {
  type BodyOf,
  type Returnable,
  type ReturnSheet,
  returnRoutes,
  type ShipmentSheet,
} from "@yosegi/contract";
import { useFormContext, useWatch } from "react-hook-form";
import { Unanswered } from "../api/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, sentLines } from "../forms/index.ts";
import {
  AnswerPart,
  Button,
  Dialog,
  Named,
  Row,
  SheetTable,
  Stack,
  sayDone,
  useFormat,
} from "../ui/index.ts";
import { useReturnable, useReturnPreview } from "./queries.ts";

interface Draft {
  lines: { quantity: string }[];
  reason: string;
  fee: string;
  day: string;
  costTag: string;
  note: string;
}

const In = fieldsOf<Draft>();

/** What is sent: pieces of which something came back. */
function bodyOf(
  { lines, fee, ...typed }: Draft,
  shipment: number,
  pieces: readonly Returnable[],
): BodyOf<typeof returnRoutes.newReturn> {
  return {
    ...typed,
    shipment,
    customer: null,
    fee: fee === "" ? "0" : fee,
    lines: pieces.flatMap(({ orderLine, item, lot, serial }, place) => {
      const line = lines[place];
      return line && isSent(line)
        ? [{ orderLine, item: item.id, lot, serial, quantity: line.quantity, credit: null }]
        : [];
    }),
  };
}

const isSent = ({ quantity }: Draft["lines"][number]): boolean => quantity !== "" && quantity !== "0";

const sentField = sentLines<Draft["lines"][number]>("lines", isSent);
/** All that is wrong with a piece stands at its quantity. */
const fieldOf = (path: string, values: Draft): string =>
  sentField(path, values).replace(/^(lines\.\d+)\..+$/, "$1.quantity");

interface ReturnDialogProps {
  shipment: Pick<ShipmentSheet, "id" | "number">;
  onClose: () => void;
  onDone: (made: ReturnSheet) => void;
}

/** Takes back goods of a shipment: how many of each piece came, and why. */
export function ReturnDialog({ shipment, onClose, onDone }: ReturnDialogProps) {
  const format = useFormat();
  const { data, error } = useReturnable(shipment.id);
  const title = `Return from ${shipment.number}`;
  if (!data)
    return (
      <Dialog title={title} isOpen onClose={onClose}>
        <Unanswered error={error} shape="sheet" />
      </Dialog>
    );
  const pieces = data.pieces.filter((piece) => piece.open !== "0");
  return (
    <FormDialog
      title={title}
      isOpen
      onClose={onClose}
      width="820px"
      save="Receive the return"
      route={returnRoutes.newReturn}
      begin={{
        lines: pieces.map(() => ({ quantity: "" })),
        reason: "",
        fee: "",
        day: format.settings.today,
        costTag: "",
        note: "",
      }}
      body={(typed: Draft) => bodyOf(typed, shipment.id, pieces)}
      fieldOf={fieldOf}
      done={(made) => {
        sayDone(`Received as ${made.number}.`);
        onDone(made);
      }}
    >
      <Stack>
        <Pieces pieces={pieces} />
        <AllOfIt pieces={pieces} />
        <Row>
          <In.Text label="Why it came back" name="reason" width="320px" />
          <In.Amount label="Restocking fee" name="fee" width="140px" unit={format.settings.currency} />
          <In.Day label="Day" name="day" width="170px" />
        </Row>
        <Row>
          <In.Text label="Note" name="note" width="320px" />
          <In.Text label="Cost tag" name="costTag" width="140px" />
        </Row>
        <Credit shipment={shipment.id} pieces={pieces} />
      </Stack>
    </FormDialog>
  );
}

function Pieces({ pieces }: { pieces: readonly Returnable[] }) {
  const format = useFormat();
  return (
    <SheetTable
      label="What came back"
      rows={pieces.map((piece, place) => ({ piece, place }))}
      rowId={({ place }) => place}
      columns={[
        {
          header: "Item",
          cell: ({ piece: { item, sold, lot, serial } }) => (
            <Named
              name={item.name}
              more={[item.code, serial || lot, sold.id === item.id ? "" : `in ${sold.name}`]}
            />
          ),
        },
        {
          header: "With the customer",
          end: true,
          cell: ({ piece }) => format.amount(piece.open, piece.item.unit),
        },
        {
          header: "Came back",
          cell: ({ piece: { item, serial, lot }, place }) => (
            <In.Quantity
              label={`Came back of ${[item.code, serial || lot].filter(Boolean).join(" ")}`}
              hideLabel
              name={`lines.${place}.quantity`}
              width="130px"
              unit={item.unit}
              packs={item.packs}
            />
          ),
        },
      ]}
    />
  );
}

/** One press where nothing is missing. */
function AllOfIt({ pieces }: { pieces: readonly Returnable[] }) {
  const { setValue } = useFormContext<Draft>();
  return (
    <div>
      <Button
        look="link"
        onPress={() =>
          setValue(
            "lines",
            pieces.map(({ open }) => ({ quantity: open })),
            { shouldDirty: true },
          )
        }
      >
        All of it came back
      </Button>
    </div>
  );
}

/** What is credited for what is typed. */
function Credit({ shipment, pieces }: { shipment: number; pieces: readonly Returnable[] }) {
  const format = useFormat();
  const draft = useWatch<Draft>() as Draft;
  const { data, old } = useReturnPreview(bodyOf({ ...draft, reason: draft.reason || "–" }, shipment, pieces));
  if (!data) return null;
  return (
    <AnswerPart $old={old}>
      <span>
        Credit <b>{format.money(data.due)}</b>
        {data.due !== data.credit && ` (${format.money(data.credit)} less the fee)`}. What comes back carried{" "}
        {format.money(data.value)}.
      </span>
    </AnswerPart>
  );
}
