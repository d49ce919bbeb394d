import { stockRoutes } from "@yosegi/contract";
import { usePress } from "../api/index.ts";
import { sayDone } from "../ui/index.ts";

/** Gives what undoes something that was booked by hand, by its document. */
export function useUndoStock(): (document: string) => () => void {
  const undo = usePress(stockRoutes.undoStock, ({ document }) => sayDone(`${document} undone.`));
  return (document) => () => void undo.run({ body: { document } });
}
