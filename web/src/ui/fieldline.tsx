import { Plus, X } from "lucide-react";
import { type ReactNode, useRef } from "react";
import { flushSync } from "react-dom";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { ownLabels } from "./field.tsx";
import { firstField } from "./formkeys.ts";
import { Row } from "./layout.tsx";
import { color, NARROW } from "./theme.ts";

export interface FieldLineProps {
  /** What the button that takes the line away is called. */
  remove: string;
  onRemove: () => void;
  /** Enter goes through all its fields; else from its first field to the second, and on to the next line. */
  isLong?: boolean;
  children: ReactNode;
}

/** The fields of one line side by side, under the heads of `FieldHeads` with a gap of 6 px, and a button that takes it away. */
export function FieldLine({ remove, onRemove, isLong = false, children }: FieldLineProps) {
  const line = useRef<HTMLDivElement>(null);
  const take = () => {
    // What stands where the line stood takes the focus, that it is not lost with the button.
    const beside = line.current?.nextElementSibling ?? line.current?.previousElementSibling;
    onRemove();
    requestAnimationFrame(() => firstField(beside)?.focus());
  };
  return (
    <Line ref={line} {...(!isLong && { "data-line": true })}>
      {children}
      <Remove>
        <Button look="icon" aria-label={remove} onPress={take}>
          <X />
        </Button>
      </Remove>
    </Line>
  );
}

export interface AddLineProps {
  onAdd: () => void;
  children: ReactNode;
  /** Another kind of line that may be added. */
  other?: { words: string; onAdd: () => void } | undefined;
}

/** Adds a line, and goes on in its first field. Enter in the last line's fields presses it. */
export function AddLine({ onAdd, children, other }: AddLineProps) {
  const here = useRef<HTMLDivElement>(null);
  const add = (line: () => void) => {
    // At once: a scanner's next key comes before the next frame is drawn.
    flushSync(line);
    firstField(here.current?.previousElementSibling)?.focus();
  };
  return (
    <div ref={here}>
      <Button look="link" onPress={() => add(onAdd)} data-add-line>
        <Plus /> {children}
      </Button>
      {other && (
        <Button look="link" onPress={() => add(other.onAdd)}>
          <Plus /> {other.words}
        </Button>
      )}
    </div>
  );
}

/** What lies outside the view is not laid out or painted: a document has up to 500 lines. */
const Line = styled(Row)`
  gap: 6px;
  margin-bottom: 6px;
  content-visibility: auto;
  contain-intrinsic-size: auto 100px auto 40px;
  overflow-clip-margin: 6px;
  ${NARROW} {
    ${ownLabels}
    margin-bottom: 0;
    padding: 8px 0 12px;
    border-bottom: 1px solid ${color.line};
  }
`;

const Remove = styled.div`
  padding-top: 3px;
`;
