import { type CoverQuestion, coverRoutes } from "@yosegi/contract";
import { FormDialog, inputsOf } from "../forms/index.ts";
import { Sub, sayDone } from "../ui/index.ts";
import { NOTHING_ASKED } from "./queries.ts";

const In = inputsOf<{ name: string }>();

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
      title="Save this check"
      isOpen={isOpen && question !== null}
      onClose={onClose}
      width="460px"
      save="Save"
      route={coverRoutes.saveCheck}
      begin={{ name: "" }}
      body={({ name }: { name: string }) => ({ name, question: question ?? NOTHING_ASKED })}
      done={(kept) => sayDone(`Saved as “${kept.name}”.`)}
    >
      <In.Text label="Name" name="name" autoFocus />
      <Sub>We save the question, not the answer; it is recalculated with current stock.</Sub>
    </FormDialog>
  );
}
