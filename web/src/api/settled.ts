import { useEffect, useState } from "react";

/** Who types pauses for so long, where the word or figure is done. */
const PAUSE_MS = 200;

/**
 * A value once it has stayed the same for a moment, so that not every key asks. The first one counts at once, and so does one
 * for which `atOnce` says so. Values are compared by what they say.
 */
export function useSettled<T>(value: T, atOnce: (value: T) => boolean = () => false): T {
  const [settled, setSettled] = useState(value);
  const same = JSON.stringify(value) === JSON.stringify(settled);
  const text = JSON.stringify(value);
  const now = !same && atOnce(value);
  useEffect(() => {
    if (same) return;
    const timer = setTimeout(() => setSettled(JSON.parse(text) as T), now ? 0 : PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text, same, now]);
  return now ? value : settled;
}
