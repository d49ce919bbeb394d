import {
  type ReworkPaper,
  type ReworkPart,
  type ReworkSheet,
  type ReworkStep,
  reworkRoutes,
} from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { CheckCheck, Pencil, Plus, Undo2 } from "lucide-react";
import { useNavigate } from "react-router";
import { useCommand } from "../api/index.ts";
import { Actions, AskButton, Button, MenuButton, Notice, sayDone } from "../ui/index.ts";

/** What is open over the sheet of a rework. */
export type Opened =
  | { what: "finish" | "change" | "part" | "text" | "new step" | "plan" }
  | { what: "step"; step: ReworkStep }
  | { what: "take"; part: ReworkPart }
  | null;

interface ReworkActionsProps {
  one: ReworkSheet;
  open: (what: Opened) => void;
}

/** What can be done with a rework next: the everyday steps as buttons, the rest behind one more. */
export function ReworkActions({ one, open }: ReworkActionsProps) {
  const params = { id: one.id };
  const agree = useCommand(reworkRoutes.agreeRework, ({ agreed }) =>
    sayDone(agreed ? "The quote is agreed." : "The quote is not agreed."),
  );
  const undoFinish = useCommand(reworkRoutes.undoFinishRework, () =>
    sayDone(`The finish of ${one.number} is undone.`),
  );
  const undo = useCommand(reworkRoutes.undoRework, () => sayDone(`${one.number} undone.`));
  const navigate = useNavigate();
  const send = useCommand(reworkRoutes.sendRework, (message) => {
    sayDone(`The ${kind} is in the outbox.`);
    void navigate(`/outbox/${message.id}`);
  });
  const refusal = agree.refusal ?? send.refusal ?? undoFinish.refusal ?? undo.refusal;
  const kind = one.finished ? "bill" : "quote";
  const isAgreed = one.agreed !== null && decimal(one.agreed.since).eq(0);
  const paper = (which: ReworkPaper) => `/api/reworks/${one.id}/paper?kind=${which}`;
  const more = [
    one.customer &&
      !one.undone && {
        id: "paper",
        label: `Open the ${kind} (PDF)`,
        onAction: () => void window.open(paper(kind), "_blank", "noopener"),
      },
    one.customer &&
      !one.undone && {
        id: "send",
        label: `Put the ${kind} into the outbox`,
        onAction: () => void send.run({ params, body: { kind } }),
      },
    one.parts.length + one.steps.length > 0 && {
      id: "plan",
      label: "Keep as a starting point …",
      onAction: () => open({ what: "plan" }),
    },
  ].filter((item) => item !== false && item !== null);
  return (
    <>
      {refusal && <Notice>{refusal.fields[0]?.message ?? refusal.message}</Notice>}
      <Actions style={{ marginTop: 0 }}>
        {one.state !== "done" && !one.undone && (
          <>
            <Button look="main" onPress={() => open({ what: "finish" })}>
              <CheckCheck /> {one.isTheirs ? "Give back …" : "Finish …"}
            </Button>
            {one.customer && (
              <Button
                isPending={agree.busy}
                onPress={() => void agree.run({ params, body: { agreed: !isAgreed } })}
              >
                {isAgreed ? "Quote not agreed" : one.agreed ? "Rest agreed" : "Quote agreed"}
              </Button>
            )}
            <Button onPress={() => open({ what: "change" })}>
              <Pencil /> Change
            </Button>
            <MenuButton
              label={`Add to ${one.number}`}
              items={[
                { id: "part", label: "Part …", onAction: () => open({ what: "part" }) },
                { id: "step", label: "Step …", onAction: () => open({ what: "new step" }) },
                {
                  id: "text",
                  label: "Line of text with an amount …",
                  onAction: () => open({ what: "text" }),
                },
              ]}
            >
              <Plus /> Add …
            </MenuButton>
          </>
        )}
        <a href={paper("job")} target="_blank" rel="noreferrer">
          Job sheet (PDF)
        </a>
        {more.length > 0 && (
          <MenuButton label={`More actions for ${one.number}`} items={more}>
            More …
          </MenuButton>
        )}
        {!one.undone &&
          (one.finished ? (
            <AskButton
              isPending={undoFinish.busy}
              question={{
                title: `Undo the finish of ${one.number}?`,
                text: "Its units and parts lie with the rework again.",
                yes: "Undo finish",
              }}
              onYes={() => void undoFinish.run({ params })}
            >
              <Undo2 /> Undo finish …
            </AskButton>
          ) : (
            <AskButton
              isPending={undo.busy}
              question={{
                title: `Undo ${one.number}?`,
                text: one.isTheirs
                  ? `Its parts go back to stock, and the unit is with ${one.customer?.name} again.`
                  : "Its units and parts are back where they were.",
                yes: "Undo rework",
              }}
              onYes={() => void undo.run({ params })}
            >
              <Undo2 /> Undo …
            </AskButton>
          ))}
      </Actions>
    </>
  );
}
