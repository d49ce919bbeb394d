import { type ListedStep, reworkRoutes } from "@yosegi/contract";
import { STEP_STATES, type StepState } from "@yosegi/core";
import { useState } from "react";
import { Unanswered, usePress } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import { PersonFilter } from "../people/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  DueDay,
  Filters,
  Named,
  Page,
  Select,
  SheetTable,
  Sub,
  sayDone,
  useAddress,
  useFormat,
  useTitle,
} from "../ui/index.ts";
import { useReworkSteps } from "./queries.ts";
import { STEP_CHOICES } from "./words.ts";

const ANY = "any";

/** Steps of all reworks by when they are due; several are marked together. */
export function ReworkStepsPage() {
  useTitle("Rework steps");
  const format = useFormat();
  const address = useAddress();
  const state = STEP_STATES.find((own) => own === address.get("state")) ?? "";
  const { data, error } = useReworkSteps({ state, person: Number(address.get("person")) });
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const mark = usePress(reworkRoutes.setReworkSteps, () => {
    sayDone(`${format.count(chosen.size, "step", "steps")} marked.`);
    setChosen(new Set());
  });
  if (!data) return <Unanswered error={error} shape="table" />;
  const toggle = (id: number, on: boolean) => {
    const next = new Set(chosen);
    if (on) next.add(id);
    else next.delete(id);
    setChosen(next);
  };
  const run = (to: StepState) => void mark.run({ body: { steps: [...chosen], state: to } });
  return (
    <>
      <BuildsNav />
      <Page>
        <h1>{format.count(data.total, "step", "steps")} to do in reworks</h1>
        <Filters style={{ padding: "10px 0" }}>
          <Select
            label="State"
            hideLabel
            width="140px"
            value={address.get("state") || ANY}
            options={[{ value: ANY, label: "Not done" }, ...STEP_CHOICES]}
            onChange={(value) => address.set("state", value === ANY ? "" : value)}
          />
          <PersonFilter label="Who" width="140px" />
        </Filters>
        {data.rows.length === 0 ? (
          <Sub>No steps match.</Sub>
        ) : (
          <>
            <SheetTable
              label="Steps"
              rows={data.rows}
              rowId={({ id }) => id}
              columns={[
                {
                  header: "Step",
                  cell: (step: ListedStep) => (
                    <Checkbox isSelected={chosen.has(step.id)} onChange={(on) => toggle(step.id, on)}>
                      {step.what}
                    </Checkbox>
                  ),
                },
                {
                  header: "Rework",
                  cell: ({ rework, item }: ListedStep) => (
                    <Named name={rework.number} to={`/reworks/${rework.id}`} more={[item.name, item.code]} />
                  ),
                },
                {
                  header: "Who",
                  cell: ({ person, supplier }: ListedStep) => supplier?.name ?? person?.name ?? "–",
                },
                {
                  header: "Due",
                  cell: ({ due, hour, isLate }: ListedStep) => (
                    <>
                      <DueDay day={due} late={isLate} /> {hour}
                    </>
                  ),
                },
                { header: "State", cell: ({ state: own }: ListedStep) => own },
              ]}
            />
            {data.onMore && <Button onPress={data.onMore}>More steps</Button>}
            <Actions>
              <Button
                look="main"
                isDisabled={chosen.size === 0}
                isPending={mark.busy}
                onPress={() => run("done")}
              >
                Mark as done
              </Button>
              <Button isDisabled={chosen.size === 0} isPending={mark.busy} onPress={() => run("under way")}>
                Mark as under way
              </Button>
            </Actions>
          </>
        )}
      </Page>
    </>
  );
}
