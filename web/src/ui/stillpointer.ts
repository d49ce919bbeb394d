import { useEffect, useRef } from "react";

/** What lies under a pointer at rest is told of a move of its own, rounded to whole pixels; a hand moves it further. */
const MOVED_PX = 2;

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
    const onOver = (event: Event) => {
      const inList = event.target instanceof Element && event.target.closest("[role=listbox]") !== null;
      if (isStill.current && inList) event.stopPropagation();
    };
    document.addEventListener("pointermove", onMove, true);
    document.addEventListener("pointerover", onOver, true);
    document.addEventListener("mouseover", onOver, true);
    return () => {
      document.removeEventListener("pointermove", onMove, true);
      document.removeEventListener("pointerover", onOver, true);
      document.removeEventListener("mouseover", onOver, true);
    };
  }, []);
  return () => {
    isStill.current = true;
  };
}
