import type { Firm, FirmKind } from "@yosegi/contract";
import { type ComponentType, createContext } from "react";

export interface NewFirmDialogProps {
  kind: FirmKind;
  /** The name to begin with; null while the dialog is closed. */
  begin: string | null;
  onClose: () => void;
  onMade: (firm: Firm) => void;
}

/** The dialog that a field opens for a customer or supplier nobody knows. The page provides it: fields know no area. */
export const NewFirmContext = createContext<ComponentType<NewFirmDialogProps> | null>(null);
