import { useEffect, useRef } from "react";

/** What lies under a pointer at rest is told of a move of its own, rounded to whole pixels; a hand moves it further. */
const MOVED_PX = 2;

const ENTERED = ["pointerover", "pointerout", "mouseover", "mouseout"] as const;

/**
 * A list that opens under a pointer at rest is not pointed at: what is typed or scanned then, with Enter or Tab after it, must not
 * take the choice that happens to lie there. Gives what to call whenever something is typed.
 */
export function useStillPointer(): () => void {
  const isStill = useRef(false);
  useEffect(() => {
    let last: { x: number; y: number } | null = null;
    const onMove = ({ screenX: x, screenY: y }: PointerEvent) => {
      // Small steps add up: it is where it came to rest that counts.
      if (last && Math.max(Math.abs(x - last.x), Math.abs(y - last.y)) < MOVED_PX) return;
      if (last) isStill.current = false;
      last = { x, y };
    };
    const isInList = (node: EventTarget | null) =>
      node instanceof Element && node.closest("[role=listbox]") !== null;
    // What is left for a choice in the list counts too: from that, too, it is found out what is pointed at.
    const onEntered = (event: MouseEvent) => {
      if (isStill.current && (isInList(event.target) || isInList(event.relatedTarget)))
        event.stopPropagation();
    };
    document.addEventListener("pointermove", onMove, true);
    for (const name of ENTERED) document.addEventListener(name, onEntered, true);
    return () => {
      document.removeEventListener("pointermove", onMove, true);
      for (const name of ENTERED) document.removeEventListener(name, onEntered, true);
    };
  }, []);
  return () => {
    isStill.current = true;
  };
}
