import type { FinishBody } from "@yosegi/contract";
import { useEffect, useEffectEvent, useState } from "react";
import { Unanswered } from "../api/index.ts";
import { Button, Dialog, useFormat } from "../ui/index.ts";
import { bodyOf, type FinishDraft, newDraft } from "./finishdraft.ts";
import { FinishLaterForm } from "./finishform.tsx";
import { useBuild } from "./queries.ts";

export interface FinishWithProps {
  build: number;
  /** How many good units are needed of it. */
  good: string;
  /** What is recorded of it, as planned until something else is said. */
  onChange: (body: FinishBody) => void;
}

/** A build that is finished in the same step as something else: as planned, or with what is still open said of it. */
export function FinishWith({ build: id, good, onChange }: FinishWithProps) {
  const format = useFormat();
  const { data: build, error } = useBuild(id);
  const [said, setSaid] = useState<FinishDraft | null>(null);
  const [open, setOpen] = useState(false);
  const { today } = format.settings;
  // As planned, for so many as are needed, until something else was said.
  const tell = useEffectEvent(onChange);
  useEffect(() => {
    if (build && !said) tell(bodyOf({ ...newDraft(build, today), good }, build));
  }, [build, said, good, today]);
  if (!build) return <Unanswered error={error} shape="lines" />;
  const { product, number } = build;
  return (
    <div>
      {number} is finished with it: {format.amount(said?.good ?? good, product.unit)} of {product.code}
      {build.stage === "draft" && ", queued first"}.{" "}
      <Button look="link" onPress={() => setOpen(true)}>
        Finish of {number} …
      </Button>
      <Dialog title={`Finish ${number}`} isOpen={open} onClose={() => setOpen(false)} width="1040px">
        <FinishLaterForm
          build={build}
          begin={said ?? { ...newDraft(build, today), good }}
          onDone={(body, draft) => {
            setSaid(draft);
            onChange(body);
            setOpen(false);
          }}
        />
      </Dialog>
    </div>
  );
}
