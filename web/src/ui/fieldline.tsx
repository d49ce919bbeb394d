import { X } from "lucide-react";
import type { ReactNode } from "react";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { Row } from "./layout.tsx";

export interface FieldLineProps {
  /** What the button that takes the line away is called. */
  remove: string;
  onRemove: () => void;
  children: ReactNode;
}

/** The fields of one line side by side, under the heads of `FieldHeads` with a gap of 6 px, and a button that takes it away. */
export function FieldLine({ remove, onRemove, children }: FieldLineProps) {
  return (
    <Line>
      {children}
      <Remove>
        <Button look="icon" aria-label={remove} onPress={onRemove}>
          <X />
        </Button>
      </Remove>
    </Line>
  );
}

const Line = styled(Row)`
  gap: 6px;
  margin-bottom: 6px;
`;

const Remove = styled.div`
  padding-top: 3px;
`;
