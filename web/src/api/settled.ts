import { useEffect, useMemo, useState } from "react";

/** Who types pauses for so long, where the word or figure is done. */
const PAUSE_MS = 200;

/**
 * A value once it has stayed the same for a moment, so that not every key asks; `overtaken` while it is another one. The
 * first counts at once. Values are compared by what they say.
 */
export function useSettled<T>(value: T): { settled: T; overtaken: boolean } {
  const text = useMemo(() => JSON.stringify(value), [value]);
  const [settled, setSettled] = useState({ value, text });
  const overtaken = text !== settled.text;
  useEffect(() => {
    if (!overtaken) return;
    const timer = setTimeout(() => setSettled({ value: JSON.parse(text) as T, text }), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text, overtaken]);
  return { settled: settled.value, overtaken };
}

/** The same of what is searched for; where nothing is, that counts at once. */
export function useSettledSearch(typed: string): { settled: string; overtaken: boolean } {
  const search = useSettled(typed);
  return typed === "" ? { settled: "", overtaken: false } : search;
}
