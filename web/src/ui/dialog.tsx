import { X } from "lucide-react";
import type { ReactNode } from "react";
import { Dialog as AriaDialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { color, radius } from "./theme.ts";
import { useUnsavedWithin } from "./unsaved.tsx";

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 20;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  place-items: start center;
  padding: 7vh 16px 16px;
  background: rgb(30 20 12 / 0.45);
  overflow: auto;
`;

const Panel = styled(Modal)<{ $width: string }>`
  width: min(${({ $width }) => $width}, 100%);
  background: ${color.paper};
  border: 1px solid ${color.line};
  border-radius: ${radius};
  box-shadow: 0 20px 60px rgb(0 0 0 / 0.35);
`;

const Inside = styled(AriaDialog)`
  padding: 18px 22px 22px;
  outline: none;
`;

const Head = styled.header`
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 12px;
  h2 {
    font-size: 21px;
  }
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
