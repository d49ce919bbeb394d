import { stockRoutes } from "@yosegi/contract";
import { FormDialog, inputsOf } from "../forms/index.ts";
import { sayDone } from "../ui/index.ts";

const In = inputsOf<{ name: string }>();

/** Makes a store where one is missing. */
export function NewStoreDialog({ onClose, onMade }: { onClose: () => void; onMade: (name: string) => void }) {
  return (
    <FormDialog
      title="New store"
      isOpen
      onClose={onClose}
      width="420px"
      save="Save"
      route={stockRoutes.newStore}
      begin={{ name: "" }}
      body={(typed: { name: string }) => typed}
      done={({ name }) => {
        sayDone(`${name} is saved.`);
        onMade(name);
      }}
    >
      <In.Text label="Name" name="name" autoFocus />
    </FormDialog>
  );
}
