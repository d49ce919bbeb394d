import type { ItemRow } from "@yosegi/contract";
import type { Choosing } from "@yosegi/core";
import { type ComponentType, createContext } from "react";

export interface NewItemDialogProps {
  /** The code to begin with; null while the dialog is closed. */
  code: string | null;
  /** What the item is wanted for, which tells what kind it most likely is. */
  choosing?: Choosing;
  onClose: () => void;
  onMade: (item: ItemRow) => void;
}

/** The dialog that an item field opens for a code nobody knows. The page provides it: fields know no area. */
export const NewItemContext = createContext<ComponentType<NewItemDialogProps> | null>(null);
