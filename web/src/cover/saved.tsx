import { type CoverQuestion, routes, type SavedCheck } from "@yosegi/contract";
import { Trash2 } from "lucide-react";
import { usePress } from "../api/index.ts";
import { FormDialog, inputsOf } from "../forms/index.ts";
import { Button, Dialog, SheetTable, Sub, sayDone, useFormat } from "../ui/index.ts";
import { useSavedChecks } from "./queries.ts";

const In = inputsOf<{ name: string }>();
/** The dialog is closed while nothing is asked. */
const NOTHING_ASKED: CoverQuestion = { demands: [], store: "", stock: [], incoming: [] };

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
  return (
    <FormDialog
      title="Keep this check"
      isOpen={isOpen && question !== null}
      onClose={onClose}
      width="460px"
      save="Keep it"
      route={routes.saveCheck}
      begin={{ name: "" }}
      body={({ name }: { name: string }) => ({ name, question: question ?? NOTHING_ASKED })}
      done={(kept) => sayDone(`Kept as “${kept.name}”.`)}
    >
      <In.Text label="Name" name="name" autoFocus />
      <Sub>
        What is asked is kept, not the answer: opened again, it is figured with the stock of that day.
      </Sub>
    </FormDialog>
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
