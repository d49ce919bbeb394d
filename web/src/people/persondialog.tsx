import { type Person, peopleRoutes } from "@yosegi/contract";
import { FormDialog, inputsOf } from "../forms/index.ts";
import { Stack, sayDone } from "../ui/index.ts";

interface PersonDraft {
  name: string;
  archived: boolean;
}

const In = inputsOf<PersonDraft>();

export interface PersonDialogProps {
  open: Person | "new" | null;
  onClose: () => void;
  onSaved?: (person: Person) => void;
}

/** Somebody who works here: new, renamed, or archived. */
export function PersonDialog({ open, onClose, onSaved }: PersonDialogProps) {
  const person = open === "new" ? null : open;
  return (
    <FormDialog
      title={person ? `Change ${person.name}` : "New person"}
      isOpen={open !== null}
      onClose={onClose}
      width="420px"
      save="Save"
      route={person ? peopleRoutes.changePerson : peopleRoutes.addPerson}
      begin={{ name: person?.name ?? "", archived: person?.archived ?? false }}
      params={{ id: person?.id ?? 0 }}
      body={(typed: PersonDraft) => typed}
      done={(saved) => {
        sayDone(`${saved.name} is saved.`);
        onSaved?.(saved);
      }}
    >
      <Stack>
        <In.Text label="Name" name="name" autoFocus />
        {person && <In.Tick name="archived">Archived: no longer works here</In.Tick>}
      </Stack>
    </FormDialog>
  );
}
