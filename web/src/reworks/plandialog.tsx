import { type ReworkSheet, reworkRoutes } from "@yosegi/contract";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Stack, Sub, sayDone } from "../ui/index.ts";

interface Draft {
  name: string;
}

const In = fieldsOf<Draft>();

/** Keeps the parts and steps of a rework, so that others may begin with them. */
export function PlanDialog({ one, onClose }: { one: ReworkSheet; onClose: () => void }) {
  return (
    <FormDialog
      title="Keep as a starting point"
      isOpen
      onClose={onClose}
      width="480px"
      save="Keep"
      route={reworkRoutes.saveReworkPlan}
      begin={{ name: "" }}
      body={({ name }: Draft) => ({ name, from: one.id })}
      done={(_, { name }) => sayDone(`New reworks can begin with “${name}”.`)}
    >
      <Stack>
        <Sub>A new rework can begin with these parts and steps, as planned.</Sub>
        <In.Text label="Name" name="name" width="300px" autoFocus />
      </Stack>
    </FormDialog>
  );
}
