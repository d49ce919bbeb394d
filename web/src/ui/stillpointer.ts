import { useEffect, useRef } from "react";

/**
 * A list that opens under a pointer at rest is not pointed at: what is typed or scanned then, with Enter or Tab after it, must not
 * take the choice that happens to lie there. Gives what to call whenever something is typed.
 */
export function useStillPointer(): () => void {
  const isStill = useRef(false);
  useEffect(() => {
    const onMove = ({ movementX, movementY }: PointerEvent) => {
      if (movementX !== 0 || movementY !== 0) isStill.current = false;
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
