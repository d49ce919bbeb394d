import { useEffect, useState } from "react";

/** Who types pauses for so long, where the word or figure is done. */
const PAUSE_MS = 200;

/**
 * A value once it has stayed the same for a moment, so that not every key asks; `overtaken` while it is another one. The
 * first counts at once. Values are compared by what they say.
 */
export function useSettled<T>(value: T): { settled: T; overtaken: boolean } {
  const [settled, setSettled] = useState(value);
  const text = JSON.stringify(value);
  const overtaken = text !== JSON.stringify(settled);
  useEffect(() => {
    if (!overtaken) return;
    const timer = setTimeout(() => setSettled(JSON.parse(text) as T), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text, overtaken]);
  return { settled, overtaken };
}

/** The same of what is searched for; where nothing is, that counts at once. */
export function useSettledSearch(typed: string): { settled: string; overtaken: boolean } {
  const search = useSettled(typed);
  return typed === "" ? { settled: "", overtaken: false } : search;
}
