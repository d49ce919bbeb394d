import { type ReworkSheet, type ReworkStep, reworkRoutes } from "@yosegi/contract";
import { Link } from "react-router";
import { usePress } from "../api/index.ts";
import { Button, DueDay, Named, Section, SheetTable, Sub, sayDone, useFormat } from "../ui/index.ts";
import { LineActions } from "./lineactions.tsx";
import { forUnit } from "./words.ts";

interface StepsTableProps {
  one: ReworkSheet;
  onAdd: () => void;
  onChange: (step: ReworkStep) => void;
}

/** The steps of a rework. */
export function StepsTable({ one, onAdd, onChange }: StepsTableProps) {
  const format = useFormat();
  const isOpen = one.state !== "done" && !one.undone;
  const state = usePress(reworkRoutes.setReworkSteps, () => sayDone("The step is done."));
  const order = usePress(reworkRoutes.orderReworkStep, () => sayDone("It is on a purchase order."));
  const add = (
    <Button look="link" onPress={() => onAdd()}>
      Add a step
    </Button>
  );
  return (
    <Section title="Steps" more={isOpen && add}>
      {one.steps.length === 0 ? (
        <Sub>No steps.</Sub>
      ) : (
        <SheetTable
          label="Steps"
          rows={one.steps}
          rowId={({ id }) => id}
          columns={[
            {
              header: "Step",
              cell: (step) => <Named name={step.what} more={[step.state, forUnit(one, step.unit)]} />,
            },
            {
              header: "Who",
              cell: ({ person, supplier, purchase }) => (
                <>
                  {supplier?.name ?? person?.name ?? "–"}
                  {purchase && (
                    <small>
                      <Link to={`/buying/${purchase.id}`}>{purchase.number}</Link>
                    </small>
                  )}
                </>
              ),
            },
            {
              header: "Due",
              cell: ({ due, hour, isLate }) => (
                <>
                  <DueDay day={due} late={isLate} /> {hour}
                </>
              ),
            },
            {
              header: "Cost",
              end: true,
              cell: ({ planned, actual }) => (
                <>
                  {format.money(actual ?? planned)}
                  {actual !== null && <small>planned {format.money(planned)}</small>}
                </>
              ),
            },
            ...(one.customer
              ? [{ header: "Charge", end: true, cell: ({ charge }: ReworkStep) => format.money(charge) }]
              : []),
            {
              header: "",
              end: true,
              cell: (step) =>
                isOpen ? (
                  <LineActions>
                    {step.state !== "done" && (
                      <Button
                        look="link"
                        aria-label={`Mark ${step.what} as done`}
                        onPress={() => void state.run({ body: { steps: [step.id], state: "done" } })}
                      >
                        Done
                      </Button>
                    )}
                    {step.supplier && !step.purchase && (
                      <Button
                        look="link"
                        aria-label={`Order ${step.what}`}
                        onPress={() => void order.run({ params: { id: one.id, step: step.id } })}
                      >
                        Order
                      </Button>
                    )}
                    <Button look="link" aria-label={`Change ${step.what}`} onPress={() => onChange(step)}>
                      Change
                    </Button>
                  </LineActions>
                ) : null,
            },
          ]}
        />
      )}
    </Section>
  );
}
