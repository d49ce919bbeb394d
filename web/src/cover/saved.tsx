import { type CoverQuestion, routes, type SavedCheck } from "@yosegi/contract";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import { useCommand, usePress } from "../api/index.ts";
import {
  Actions,
  Button,
  Dialog,
  Form,
  SheetTable,
  Sub,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";
import { useSavedChecks } from "./queries.ts";

/** Keeps what is asked, with what is supposed, under a name. */
export function KeepDialog({
  question,
  isOpen,
  onClose,
}: {
  question: CoverQuestion | null;
  isOpen: boolean;
  onClose: () => void;
}) {
  const [name, setName] = useState("");
  const keep = useCommand(routes.saveCheck, (kept) => {
    sayDone(`Kept as “${kept.name}”.`);
    onClose();
  });
  return (
    <Dialog title="Keep this check" isOpen={isOpen && question !== null} onClose={onClose} width="460px">
      <Form refusal={keep.refusal} onSubmit={() => question && void keep.run({ body: { name, question } })}>
        <TextField label="Name" name="name" value={name} onChange={setName} autoFocus />
        <Sub>
          What is asked is kept, not the answer: opened again, it is figured with the stock of that day.
        </Sub>
        <Actions>
          <Button look="main" type="submit" isPending={keep.busy}>
            Keep it
          </Button>
        </Actions>
      </Form>
    </Dialog>
  );
}

/** Checks that were kept, to be opened again. */
export function KeptDialog({
  isOpen,
  onClose,
  onOpen,
}: {
  isOpen: boolean;
  onClose: () => void;
  onOpen: (question: CoverQuestion) => void;
}) {
  const format = useFormat();
  const { data } = useSavedChecks();
  const remove = usePress(routes.removeCheck);
  const bringBack = usePress(routes.saveCheck);
  const onRemove = async ({ id, name, question }: SavedCheck) => {
    if (await remove.run({ params: { id } }))
      sayDone(`${name} is removed.`, () => void bringBack.run({ body: { name, question } }));
  };
  return (
    <Dialog title="Kept checks" isOpen={isOpen} onClose={onClose} width="560px">
      <SheetTable
        label="Kept checks"
        rows={data?.checks ?? []}
        rowId={(check) => check.id}
        columns={[
          {
            header: "Name",
            cell: (check) => (
              <Button look="link" onPress={() => onOpen(check.question)}>
                {check.name}
              </Button>
            ),
          },
          {
            header: "Kept",
            cell: (check) => (
              <>
                {check.person}
                <small>{format.moment(check.moment)}</small>
              </>
            ),
          },
          {
            header: "",
            end: true,
            cell: (check) => (
              <Button look="icon" aria-label={`Remove ${check.name}`} onPress={() => void onRemove(check)}>
                <Trash2 />
              </Button>
            ),
          },
        ]}
      />
    </Dialog>
  );
}
