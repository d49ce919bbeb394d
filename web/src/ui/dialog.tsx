import { X } from "lucide-react";
import type { ReactNode } from "react";
import { Dialog as AriaDialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { panel, veil } from "./overlay.ts";
import { useUnsavedWithin } from "./unsaved.tsx";

const Veil = styled(ModalOverlay)`
  ${veil}
  z-index: 20;
  padding: 7vh 16px 16px;
`;

const Panel = styled(Modal)<{ $width: string }>`
  ${panel}
  width: min(${({ $width }) => $width}, 100%);
`;

const Inside = styled(AriaDialog)`
  container-type: inline-size;
  padding: 18px 22px 22px;
  outline: none;
`;

const Head = styled.header`
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 12px;
`;

export interface DialogProps {
  title: string;
  isOpen: boolean;
  onClose: () => void;
  width?: string;
  children: ReactNode;
}

/** A sheet over the page for one short task; Escape closes it, and asks first where something was typed that is not saved. */
export function Dialog({ title, isOpen, onClose, width = "560px", children }: DialogProps) {
  const { Provide, mayLeave } = useUnsavedWithin();
  const close = () => void mayLeave().then((leave) => leave && onClose());
  return (
    <Veil isOpen={isOpen} onOpenChange={(open) => !open && close()} isDismissable>
      <Panel $width={width}>
        <Inside>
          <Head>
            <Heading slot="title">{title}</Heading>
            <Button look="icon" aria-label="Close" onPress={close}>
              <X />
            </Button>
          </Head>
          <Provide>{children}</Provide>
        </Inside>
      </Panel>
    </Veil>
  );
}
