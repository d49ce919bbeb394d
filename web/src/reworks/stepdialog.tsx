import {
  type BodyOf,
  type ItemBrief,
  type ReworkSheet,
  type ReworkStep,
  type ReworkStepBody,
  reworkRoutes,
} from "@yosegi/contract";
import { useWatch } from "react-hook-form";
import { usePress } from "../api/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, wholeNumber } from "../forms/index.ts";
import { useWorking } from "../people/index.ts";
import { Button, Row, Stack, sayDone, useFormat } from "../ui/index.ts";
import { ForUnit } from "./partdialog.tsx";
import { STEP_CHOICES } from "./words.ts";

interface Draft {
  what: string;
  person: string;
  supplier: { id: number; code: string; name: string } | null;
  service: Pick<ItemBrief, "id" | "code" | "name"> | null;
  due: string;
  hour: string;
  planned: string;
  actual: string;
  state: string;
  unit: string;
  charge: string;
}

const In = fieldsOf<Draft>();

const bodyOf = ({
  person,
  supplier,
  service,
  due,
  planned,
  actual,
  state,
  unit,
  charge,
  ...typed
}: Draft): BodyOf<typeof reworkRoutes.addReworkStep> => ({
  ...typed,
  person: wholeNumber(person),
  supplier: supplier?.id ?? null,
  service: service?.id ?? null,
  due: due === "" ? null : due,
  planned: planned === "" ? "0" : planned,
  actual: actual === "" ? null : actual,
  state: state as ReworkStepBody["state"],
  unit: wholeNumber(unit),
  charge: charge === "" ? null : charge,
});

const draftOf = (step: ReworkStep | null): Draft => ({
  what: step?.what ?? "",
  person: step?.person ? String(step.person.id) : "",
  supplier: step?.supplier ?? null,
  service: step?.service ?? null,
  due: step?.due ?? "",
  hour: step?.hour ?? "",
  planned: step ? step.planned : "",
  actual: step?.actual ?? "",
  state: step?.state ?? "waiting",
  unit: step?.unit ? String(step.unit) : "",
  charge: step?.agreedCharge ?? "",
});

interface StepDialogProps {
  one: ReworkSheet;
  /** null: a new one. */
  step: ReworkStep | null;
  onClose: () => void;
}

/** A step of a rework: what is done, by whom, until when, and what it costs. */
export function StepDialog({ one, step, onClose }: StepDialogProps) {
  const remove = usePress(reworkRoutes.removeReworkStep, () => {
    sayDone("The step is removed.");
    onClose();
  });
  const plain = {
    isOpen: true,
    onClose,
    width: "640px",
    begin: draftOf(step),
    body: bodyOf,
    done: (_: unknown, { what }: Draft) => sayDone(`${what} ${step ? "saved" : "added"}.`),
    children: <Fields one={one} />,
  };
  return step ? (
    <FormDialog
      {...plain}
      title="Change the step"
      save="Save"
      more={
        <Button
          isPending={remove.busy}
          onPress={() => void remove.run({ params: { id: one.id, step: step.id } })}
        >
          Remove the step
        </Button>
      }
      route={reworkRoutes.changeReworkStep}
      params={{ id: one.id, step: step.id }}
      version={step.version}
    />
  ) : (
    <FormDialog
      {...plain}
      title="Add a step"
      save="Add"
      route={reworkRoutes.addReworkStep}
      params={{ id: one.id }}
    />
  );
}

function Fields({ one }: { one: ReworkSheet }) {
  const format = useFormat();
  const { people } = useWorking();
  const supplier = useWatch<Draft, "supplier">({ name: "supplier" });
  const { currency } = format.settings;
  return (
    <Stack>
      <Row>
        <In.Text label="What is done" name="what" width="320px" autoFocus />
        <In.Choice label="State" name="state" width="140px" options={STEP_CHOICES} />
        <ForUnit one={one} />
      </Row>
      <Row>
        <In.Choice
          label="Who"
          name="person"
          width="150px"
          none="Nobody yet"
          options={people.map((p) => ({ value: String(p.id), label: p.name }))}
        />
        <In.Firm label="Or a subcontractor" name="supplier" kind="supplier" width="220px" />
        {supplier && <In.Item label="Ordered as" name="service" choosing="work" width="200px" />}
      </Row>
      <Row>
        <In.Day label="Due" name="due" width="170px" />
        <In.Text label="By what time" name="hour" width="110px" placeholder="14:30" />
        <In.Amount label="Planned cost" name="planned" width="130px" unit={currency} />
        <In.Amount
          label="What it cost"
          name="actual"
          width="130px"
          unit={currency}
          placeholder="as planned"
        />
        {one.customer && (
          <In.Amount label="Charge" name="charge" width="130px" unit={currency} placeholder="its cost" />
        )}
      </Row>
    </Stack>
  );
}
