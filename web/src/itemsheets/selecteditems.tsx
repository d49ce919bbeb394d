import { type AnswerOf, itemSheetRoutes } from "@yosegi/contract";
import type { ItemState } from "@yosegi/core";
import { Archive, ArchiveRestore, Trash2 } from "lucide-react";
import { useState } from "react";
import { useCommand } from "../api/index.ts";
import { Actions, AskButton, Button, Notice, sayDone, useFormat } from "../ui/index.ts";

type Done = AnswerOf<typeof itemSheetRoutes.removeItems>;

interface SelectedItemsProps {
  /** Ids of the items that are selected. */
  chosen: readonly number[];
  /** Archived ones are in view, and can be brought back. */
  archived: boolean;
  /** What is left to be selected: those that nothing could be done with. */
  onDone: (refused: readonly number[]) => void;
}

/** What can be done with several items at once; what can't be is named with its reason. */
export function SelectedItems({ chosen, archived, onDone }: SelectedItemsProps) {
  const format = useFormat();
  const [refused, setRefused] = useState<Done["refused"]>([]);
  const states = useCommand(itemSheetRoutes.setItemStates);
  const removing = useCommand(itemSheetRoutes.removeItems);
  const counted = (n: number) => format.count(n, "item", "items");
  const end = (answer: Done) => {
    setRefused(answer.refused);
    onDone(answer.refused.map(({ id }) => id));
  };
  const setState = async (state: ItemState, words: string) => {
    const answer = await states.run({ body: { items: [...chosen], state } });
    if (!answer) return;
    end(answer);
    const undo = () => {
      for (const [before, items] of Map.groupBy(answer.done, (item) => item.before))
        void states.run({ body: { items: items.map(({ id }) => id), state: before } });
    };
    if (answer.done.length > 0) sayDone(`${counted(answer.done.length)} ${words}.`, undo);
  };
  const remove = async () => {
    const answer = await removing.run({ body: { items: [...chosen] } });
    if (!answer) return;
    end(answer);
    if (answer.done.length > 0) sayDone(`${counted(answer.done.length)} removed.`);
  };
  const refusal = states.refusal ?? removing.refusal;
  const busy = states.busy || removing.busy;
  return (
    <>
      {refusal && <Notice>{refusal.message}</Notice>}
      {refused.length > 0 && (
        <Notice role="status">
          {refused.map(({ id, why }) => (
            <div key={id}>{why}</div>
          ))}
        </Notice>
      )}
      {chosen.length > 0 && (
        <Actions style={{ margin: 0 }}>
          <span>{counted(chosen.length)} selected</span>
          <Button isPending={busy} onPress={() => void setState("archived", "archived")}>
            <Archive /> Archive
          </Button>
          {archived && (
            <Button isPending={busy} onPress={() => void setState("active", "in use again")}>
              <ArchiveRestore /> Restore
            </Button>
          )}
          <AskButton
            isPending={busy}
            question={{
              title: `Remove ${counted(chosen.length)}?`,
              text: "Items that were used stay; archive them instead. It can't be undone.",
              yes: "Remove",
            }}
            onYes={() => void remove()}
          >
            <Trash2 /> Remove
          </AskButton>
        </Actions>
      )}
    </>
  );
}
