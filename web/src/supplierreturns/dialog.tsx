import {
  type BodyOf,
  type ReturnLine,
  type SupplierReturnSheet,
  supplierReturnRoutes,
} from "@yosegi/contract";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, sentLines } from "../forms/index.ts";
import { BLANK_LINE, type BookLine, BookLineFields, filled, fromOf, isBlank } from "../stock/index.ts";
import { Row, Stack, Sub, sayDone, useFormat } from "../ui/index.ts";

interface Draft {
  supplier: { id: number; code: string; name: string } | null;
  lines: BookLine[];
  credit: string;
  reason: string;
  note: string;
  day: string;
  costTag: string;
}

const In = fieldsOf<Draft>();

/** What is to be inspected of a customer's return, and goes back to its supplier from there. */
export interface FromReturn {
  id: number;
  number: string;
  line: Pick<ReturnLine, "line" | "item" | "lot" | "serial" | "open">;
}

const bodyOf = (
  { supplier, lines, credit, ...typed }: Draft,
  from: FromReturn | null,
): BodyOf<typeof supplierReturnRoutes.newSupplierReturn> => ({
  ...typed,
  supplier: supplier?.id ?? 0,
  credit: credit === "" ? "0" : credit,
  lines: filled(lines).map(({ item, quantity, from: place }) => ({
    item: item?.id ?? 0,
    quantity,
    ...(from ? { store: "", bin: "", lot: from.line.lot, serial: from.line.serial } : fromOf(place)),
    returnLine: from && { id: from.id, line: from.line.line },
  })),
});

const atLine = sentLines<BookLine>("lines", (line) => !isBlank(line));

/** A place is one choice of the form: what is wrong with the store, the bin, the lot or the serial number stands there. */
const fieldOf = (path: string, values: Draft): string =>
  atLine(path, values).replace(/\.(store|bin|lot|serial|returnLine)$/, ".from");

interface SupplierReturnProps {
  from?: FromReturn;
  onClose: () => void;
  onDone: (made: SupplierReturnSheet) => void;
}

/** Sends goods back to a supplier: from stock, or what is to be inspected of a customer's return. */
export function SupplierReturnDialog({ from, onClose, onDone }: SupplierReturnProps) {
  const format = useFormat();
  const line = from
    ? { ...BLANK_LINE, item: from.line.item, quantity: from.line.open }
    : { ...BLANK_LINE, quantity: "" };
  return (
    <FormDialog
      title="Return to a supplier"
      isOpen
      onClose={onClose}
      width="820px"
      save="Send back"
      route={supplierReturnRoutes.newSupplierReturn}
      begin={{
        supplier: null,
        lines: [line],
        credit: "",
        reason: "",
        note: "",
        day: format.settings.today,
        costTag: "",
      }}
      body={(typed: Draft) => bodyOf(typed, from ?? null)}
      fieldOf={fieldOf}
      done={(made) => {
        sayDone(`Sent back as ${made.number}.`);
        onDone(made);
      }}
    >
      <Stack>
        <Sub>The goods leave stock at their value; the credit is only what you expect for them.</Sub>
        <Row>
          <In.Firm label="Supplier" name="supplier" kind="supplier" width="280px" autoFocus />
          <In.Text label="Why it goes back" name="reason" width="320px" />
        </Row>
        {from ? (
          <Row>
            <Sub>
              {[from.line.item.code, from.line.serial || from.line.lot].filter(Boolean).join(" ")} from{" "}
              {from.number}
            </Sub>
            <In.Quantity
              label="Quantity"
              name="lines.0.quantity"
              width="130px"
              unit={from.line.item.unit}
              packs={from.line.item.packs}
            />
          </Row>
        ) : (
          <In.Lines name="lines" blank={BLANK_LINE} add="Add a line" isLong>
            {(at, i) => <BookLineFields kind="scrap" at={at} nth={i + 1} />}
          </In.Lines>
        )}
        <Row>
          <In.Amount label="Credit expected" name="credit" width="140px" unit={format.settings.currency} />
          <In.Day label="Day" name="day" width="170px" />
          <In.Text label="Cost tag" name="costTag" width="130px" />
        </Row>
        <In.Text label="Note" name="note" />
      </Stack>
    </FormDialog>
  );
}
