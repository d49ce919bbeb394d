import { ChevronDown, ChevronUp } from "lucide-react";
import { type ReactNode, useState } from "react";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { useNarrow } from "./narrow.ts";

export interface FoldProps {
  /** What is folded away, in one line. */
  summary: string;
  /** Whether it may fold; what is still to be filled in stays open. */
  folds?: boolean;
  children: ReactNode;
}

/** Folds into one line on a narrow screen, so that what matters more stands first. */
export function Fold({ summary, folds = true, children }: FoldProps) {
  const narrow = useNarrow();
  const [opened, setOpened] = useState(false);
  // What one was typing in stays open when the answer arrives.
  const [stays, setStays] = useState(!folds);
  if (!folds && !stays) setStays(true);
  if (!narrow) return children;
  const open = opened || stays;
  return (
    <>
      <Line
        aria-expanded={open}
        onPress={() => {
          setOpened(!open);
          setStays(false);
        }}
      >
        {summary} {open ? <ChevronUp aria-hidden /> : <ChevronDown aria-hidden />}
      </Line>
      {open && children}
    </>
  );
}

const Line = styled(Button)`
  align-self: flex-start;
  margin-bottom: 6px;
`;
