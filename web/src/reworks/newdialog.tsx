import { type BodyOf, type ItemBrief, type ReworkSheet, reworkRoutes } from "@yosegi/contract";
import { useFormContext, useWatch } from "react-hook-form";
import { usePress } from "../api/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, wholeNumber } from "../forms/index.ts";
import { useWorking } from "../people/index.ts";
import { fromOf, PlaceChoice } from "../stock/index.ts";
import { Button, Row, Stack, Sub, sayDone, useFormat } from "../ui/index.ts";
import { useReworkPlans } from "./queries.ts";

interface UnitDraft {
  from: string;
  lot: string;
  serial: string;
  quantity: string;
}

interface Draft {
  item: Pick<ItemBrief, "id" | "code" | "name" | "unit" | "packs" | "tracking"> | null;
  isTheirs: boolean;
  customer: { id: number; code: string; name: string } | null;
  at: { id: number; code: string; name: string } | null;
  plan: string;
  due: string;
  assigned: string;
  reason: string;
  costTag: string;
  day: string;
  units: UnitDraft[];
}

const In = fieldsOf<Draft>();
const BLANK: UnitDraft = { from: "", lot: "", serial: "", quantity: "1" };

/** What goes in, as far as it is known where the dialog is opened. */
export interface ReworkStart {
  item?: Draft["item"];
  quantity?: string;
  lot?: string;
  serial?: string;
  customer?: Draft["customer"];
  isTheirs?: boolean;
  /** The line of a return that it is taken from. */
  returnLine?: { id: number; line: number; number: string };
}

const bodyOf = (
  { item, customer, at, plan, due, assigned, units, isTheirs, ...typed }: Draft,
  { returnLine, lot = "", serial = "" }: ReworkStart,
): BodyOf<typeof reworkRoutes.newRework> => ({
  ...typed,
  isTheirs,
  item: item?.id ?? 0,
  customer: customer?.id ?? null,
  at: at?.id ?? null,
  plan: wholeNumber(plan),
  due: due === "" ? null : due,
  assigned: wholeNumber(assigned),
  units: units.map(({ from, quantity, ...piece }) => {
    const none = { quantity, store: "", bin: "", returnLine: null };
    if (returnLine) return { ...none, lot, serial, returnLine: { id: returnLine.id, line: returnLine.line } };
    return isTheirs ? { ...none, ...piece } : { ...none, ...fromOf(from) };
  }),
});

/** A place is one choice of the form: what is wrong with the store, the bin, the lot or the serial number stands there. */
const fieldOf = (path: string, { isTheirs }: Draft): string =>
  isTheirs ? path : path.replace(/^(units\.\d+)\.(store|bin|lot|serial|returnLine)$/, "$1.from");

interface NewReworkProps {
  start: ReworkStart;
  onClose: () => void;
  onDone: (made: ReworkSheet) => void;
}

/** Begins a rework: what goes in, from where, and what is wrong with it. */
export function NewReworkDialog({ start, onClose, onDone }: NewReworkProps) {
  const format = useFormat();
  const begin: Draft = {
    item: start.item ?? null,
    isTheirs: start.isTheirs ?? false,
    customer: start.customer ?? null,
    at: null,
    plan: "",
    due: "",
    assigned: "",
    reason: "",
    costTag: "",
    day: format.settings.today,
    units: [{ ...BLANK, lot: start.lot ?? "", serial: start.serial ?? "", quantity: start.quantity ?? "1" }],
  };
  return (
    <FormDialog
      title="New rework"
      isOpen
      onClose={onClose}
      width="820px"
      save="Begin rework"
      route={reworkRoutes.newRework}
      begin={begin}
      body={(typed: Draft) => bodyOf(typed, start)}
      fieldOf={fieldOf}
      done={(made) => {
        sayDone(`${made.number} begun.`);
        onDone(made);
      }}
    >
      <Fields start={start} />
    </FormDialog>
  );
}

function Fields({ start }: { start: ReworkStart }) {
  const { people } = useWorking();
  const plans = useReworkPlans().data?.plans ?? [];
  const [item, isTheirs, plan] = useWatch<Draft, ["item", "isTheirs", "plan"]>({
    name: ["item", "isTheirs", "plan"],
  });
  const { setValue } = useFormContext<Draft>();
  const forget = usePress(reworkRoutes.removeReworkPlan, () => {
    setValue("plan", "");
    sayDone("The starting point is forgotten.");
  });
  const chosen = plans.find(({ id }) => String(id) === plan);
  return (
    <Stack>
      <Row>
        <In.Item
          label="What is reworked"
          name="item"
          choosing="stock"
          width="300px"
          autoFocus={!start.item}
          onChanged={() => setValue("units", [BLANK])}
        />
        <In.Firm label="Customer" name="customer" kind="customer" width="240px" />
      </Row>
      {start.returnLine ? (
        <Row>
          <Sub>
            {[item?.code, start.serial || start.lot].filter(Boolean).join(" ")} from {start.returnLine.number}
          </Sub>
          <In.Quantity
            label="Quantity"
            name="units.0.quantity"
            width="130px"
            unit={item?.unit}
            packs={item?.packs ?? []}
          />
        </Row>
      ) : (
        <>
          <In.Tick name="isTheirs">It is the customer's own</In.Tick>
          <In.Lines name="units" blank={BLANK} add="Add a unit">
            {(at, i) => <UnitFields at={at} nth={i + 1} item={item} isTheirs={isTheirs} />}
          </In.Lines>
        </>
      )}
      <In.Text label="What is wrong, or to be improved" name="reason" />
      <Row>
        <In.Day label="Due" name="due" width="170px" />
        <In.Choice
          label="Assigned to"
          name="assigned"
          width="150px"
          none="Unassigned"
          options={people.map((p) => ({ value: String(p.id), label: p.name }))}
        />
        <In.Firm label="Subcontractor" name="at" kind="supplier" width="220px" />
      </Row>
      <Row>
        {plans.length > 0 && (
          <>
            <In.Choice
              label="Begin with"
              name="plan"
              width="220px"
              none="Nothing planned"
              options={plans.map(({ id, name }) => ({ value: String(id), label: name }))}
            />
            {chosen && (
              <Button
                look="link"
                isPending={forget.busy}
                onPress={() => void forget.run({ params: { id: chosen.id } })}
              >
                Forget “{chosen.name}”
              </Button>
            )}
          </>
        )}
        <In.Day label="Day" name="day" width="170px" />
        <In.Text label="Cost tag" name="costTag" width="130px" />
      </Row>
    </Stack>
  );
}

interface UnitFieldsProps {
  at: `units.${number}`;
  nth: number;
  item: Draft["item"];
  isTheirs: boolean;
}

function UnitFields({ at, nth, item, isTheirs }: UnitFieldsProps) {
  return (
    <Row>
      {!isTheirs && <PlaceChoice label={`From ${nth}`} name={`${at}.from`} item={item} />}
      {isTheirs && item?.tracking === "serial" && (
        <In.Text label={`Serial number ${nth}`} name={`${at}.serial`} width="180px" />
      )}
      {isTheirs && item?.tracking === "lot" && (
        <In.Text label={`Lot ${nth}`} name={`${at}.lot`} width="150px" />
      )}
      <In.Quantity
        label={`Quantity ${nth}`}
        name={`${at}.quantity`}
        width="130px"
        unit={item?.unit}
        packs={item?.packs ?? []}
      />
    </Row>
  );
}
