import { type ReworkSheet, reworkRoutes } from "@yosegi/contract";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, wholeNumber } from "../forms/index.ts";
import { useWorking } from "../people/index.ts";
import { Row, Stack, sayDone } from "../ui/index.ts";

interface Draft {
  due: string;
  assigned: string;
  reason: string;
  costTag: string;
}

const In = fieldsOf<Draft>();

/** When a rework is due, who does it, and what is wrong. */
export function ChangeDialog({ one, onClose }: { one: ReworkSheet; onClose: () => void }) {
  const { people } = useWorking();
  return (
    <FormDialog
      title={`Change ${one.number}`}
      isOpen
      onClose={onClose}
      width="560px"
      save="Save"
      route={reworkRoutes.changeRework}
      params={{ id: one.id }}
      version={one.version}
      begin={{
        due: one.due ?? "",
        assigned: one.assigned ? String(one.assigned.id) : "",
        reason: one.reason,
        costTag: one.costTag,
      }}
      body={({ due, assigned, ...typed }: Draft) => ({
        ...typed,
        due: due === "" ? null : due,
        assigned: wholeNumber(assigned),
      })}
      done={() => sayDone(`${one.number} is changed.`)}
    >
      <Stack>
        <In.Text label="What is wrong, or to be improved" name="reason" autoFocus />
        <Row>
          <In.Day label="Due" name="due" width="170px" />
          <In.Choice
            label="Assigned to"
            name="assigned"
            width="150px"
            none="Unassigned"
            options={people.map((p) => ({ value: String(p.id), label: p.name }))}
          />
          <In.Text label="Cost tag" name="costTag" width="130px" />
        </Row>
      </Stack>
    </FormDialog>
  );
}
