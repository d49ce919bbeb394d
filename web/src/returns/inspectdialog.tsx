import {
  type BodyOf,
  type ReturnLine,
  type ReturnOutcome,
  type ReturnSheet,
  returnRoutes,
} from "@yosegi/contract";
import { useWatch } from "react-hook-form";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Button, Row, Stack, Sub, sayDone, useFormat } from "../ui/index.ts";
import { OUTCOME_WORDS } from "./words.ts";

interface Draft {
  outcome: string;
  quantity: string;
  store: string;
  bin: string;
  reason: string;
  day: string;
}

const In = fieldsOf<Draft>();

const OUTCOMES = [
  { value: "stock", label: "Put back into stock" },
  { value: "scrap", label: "Scrap" },
];

/** The field of the form that a fault in what is sent is shown at: it has one line. */
const fieldOf = (path: string): string => path.replace(/^lines\.0\./, "");

const bodyOf = (
  { day, outcome, ...typed }: Draft,
  line: number,
): BodyOf<typeof returnRoutes.inspectReturn> => ({
  day,
  lines: [{ ...typed, line, outcome: outcome === "scrap" ? "scrap" : "stock" }],
});

interface InspectProps {
  one: ReturnSheet;
  line: ReturnLine;
  onClose: () => void;
  /** Goes on to put it into a rework instead. */
  onRework: () => void;
  /** Goes on to take it apart instead. */
  onTakeApart: () => void;
  /** Goes on to send it back to its supplier. */
  onSendBack: () => void;
}

/** Decides on one line of a return, or on some of it. */
export function InspectDialog({ one, line, onClose, onRework, onTakeApart, onSendBack }: InspectProps) {
  const goOn = (to: () => void) => () => {
    onClose();
    to();
  };
  const format = useFormat();
  const { item } = line;
  return (
    <FormDialog
      title={`Inspect ${[item.code, line.serial || line.lot].filter(Boolean).join(" ")}`}
      isOpen
      onClose={onClose}
      width="560px"
      save="Record"
      more={
        <>
          <Button onPress={goOn(onRework)}>Rework it …</Button>
          <Button onPress={goOn(item.kind === "built" ? onTakeApart : onSendBack)}>
            {item.kind === "built" ? "Take it apart …" : "Back to its supplier …"}
          </Button>
        </>
      }
      route={returnRoutes.inspectReturn}
      params={{ id: one.id }}
      begin={{
        outcome: "stock",
        quantity: line.open,
        ...line.home,
        reason: "",
        day: format.settings.today,
      }}
      body={(typed: Draft) => bodyOf(typed, line.line)}
      fieldOf={fieldOf}
      done={(_, { outcome, quantity }) =>
        sayDone(
          `${format.amount(quantity, item.unit)} ${item.code} ${OUTCOME_WORDS[outcome as ReturnOutcome]}.`,
        )
      }
    >
      <Fields line={line} />
    </FormDialog>
  );
}

function Fields({ line }: { line: ReturnLine }) {
  const format = useFormat();
  const outcome = useWatch<Draft, "outcome">({ name: "outcome" });
  const { item } = line;
  return (
    <Stack>
      <Sub>
        {format.amount(line.open, item.unit)} to inspect, worth {format.money(line.value)} when it came in
        {line.warranty &&
          `; warranty ${line.warranty.runs ? "until" : "ended"} ${format.day(line.warranty.until)}`}
        .
      </Sub>
      <Row>
        <In.Choice label="What becomes of it" name="outcome" width="190px" options={OUTCOMES} />
        <In.Quantity label="Quantity" name="quantity" width="120px" unit={item.unit} packs={item.packs} />
        <In.Day label="Day" name="day" width="170px" />
      </Row>
      {outcome === "stock" ? (
        <Row>
          <In.Store label="Store" name="store" width="190px" />
          <In.Text label="Bin" name="bin" width="130px" />
        </Row>
      ) : (
        <In.Text label="Why it is scrapped" name="reason" />
      )}
    </Stack>
  );
}
