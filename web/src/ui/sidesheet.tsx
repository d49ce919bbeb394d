import type { ReactNode } from "react";
import { Dialog, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";
import { veil } from "./overlay.ts";

export interface SideSheetProps {
  label: string;
  isOpen: boolean;
  onClose: () => void;
  children: ReactNode;
}

/** What comes in over the page from its side on a narrow screen; Escape or a press beside it closes it. */
export function SideSheet({ label, isOpen, onClose, children }: SideSheetProps) {
  return (
    <Veil isOpen={isOpen} onOpenChange={(open) => !open && onClose()} isDismissable>
      <Side>
        <Inside aria-label={label}>{children}</Inside>
      </Side>
    </Veil>
  );
}

const Veil = styled(ModalOverlay)`
  ${veil}
  z-index: 20;
  place-items: stretch start;
`;

const Side = styled(Modal)`
  width: min(260px, 86vw);
`;

const Inside = styled(Dialog)`
  height: 100%;
  outline: none;
`;
