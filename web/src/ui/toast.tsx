import { Check, TriangleAlert, X } from "lucide-react";
import {
  UNSTABLE_Toast as AriaToast,
  Button,
  Text,
  UNSTABLE_ToastContent as ToastContent,
  UNSTABLE_ToastQueue as ToastQueue,
  UNSTABLE_ToastRegion as ToastRegion,
} from "react-aria-components";
import styled from "styled-components";
import { color, focusRing, radius } from "./theme.ts";

interface Note {
  text: string;
  kind: "done" | "failed";
  /** Takes back what was done, on request. */
  undo?: () => void;
}

const queue = new ToastQueue<Note>({ maxVisibleToasts: 3 });
const SHOWN_MS = 5000;

/** A message that something can be undone from stays longer. */
const UNDO_SHOWN_MS = 12_000;

/** Says that something was done, and offers to undo it where `undo` says how. */
export function sayDone(text: string, undo?: () => void): void {
  if (undo) queue.add({ text, kind: "done", undo }, { timeout: UNDO_SHOWN_MS });
  else queue.add({ text, kind: "done" }, { timeout: SHOWN_MS });
}

/** Says what went wrong where there is no field to say it at; stays until it is closed. */
export function sayFailed(text: string): void {
  queue.add({ text, kind: "failed" });
}

const Region = styled(ToastRegion)`
  position: fixed;
  right: 20px;
  bottom: 20px;
  z-index: 40;
  display: flex;
  flex-direction: column;
  gap: 8px;
  outline: none;
` as typeof ToastRegion<Note>;

const Slip = styled(AriaToast)<{ $failed: boolean }>`
  display: flex;
  gap: 10px;
  align-items: center;
  max-width: 440px;
  padding: 10px 8px 10px 14px;
  background: ${color.press};
  color: ${color.onPress};
  border-left: 5px solid ${({ $failed }) => ($failed ? color.lacquer : color.magnolia)};
  border-radius: ${radius};
  font-weight: 600;
  outline: none;
  &[data-focus-visible] {
    ${focusRing}
  }
  svg {
    width: 17px;
    flex: none;
  }
  button {
    background: none;
    border: 0;
    color: inherit;
    padding: 4px;
    cursor: pointer;
  }
`;

export function Toasts() {
  return (
    <Region queue={queue} aria-label="Messages">
      {({ toast }) => (
        <Slip toast={toast} $failed={toast.content.kind === "failed"}>
          {toast.content.kind === "failed" ? <TriangleAlert aria-hidden /> : <Check aria-hidden />}
          <ToastContent>
            <Text slot="title">{toast.content.text}</Text>
          </ToastContent>
          {toast.content.undo && (
            <Button
              onPress={() => {
                toast.content.undo?.();
                queue.close(toast.key);
              }}
            >
              <u>Undo</u>
            </Button>
          )}
          <Button slot="close" aria-label="Close">
            <X />
          </Button>
        </Slip>
      )}
    </Region>
  );
}
