import { type CoverQuestion, coverRoutes, type SavedCheck } from "@yosegi/contract";
import { Trash2 } from "lucide-react";
import { usePress } from "../api/index.ts";
import { Button, Dialog, SheetTable, sayDone, useFormat } from "../ui/index.ts";
import { useSavedChecks } from "./queries.ts";

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
  const remove = usePress(coverRoutes.removeCheck);
  const bringBack = usePress(coverRoutes.saveCheck);
  const onRemove = async ({ id, name, question }: SavedCheck) => {
    if (await remove.run({ params: { id } }))
      sayDone(`${name} is removed.`, () => void bringBack.run({ body: { name, question } }));
  };
  return (
    <Dialog title="Saved checks" isOpen={isOpen} onClose={onClose} width="560px">
      <SheetTable
        label="Saved checks"
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
            header: "Saved",
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
