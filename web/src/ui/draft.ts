import { useEffect, useRef, useState } from "react";

/** Drafts of an earlier shape of a form are not offered again. */
const STORED = "yosegi.draft.1";

/** A draft as this device keeps it. */
interface Kept<Draft> {
  /** When it was typed last, in milliseconds since 1970. */
  at: number;
  draft: Draft;
}

const isEntries = (value: unknown): value is { entries: [unknown, unknown][] } =>
  typeof value === "object" && value !== null && Object.keys(value).join() === "entries";

/** A draft as text; maps are kept as what they hold. */
const textOf = (value: unknown): string =>
  JSON.stringify(value, (_, one: unknown) => (one instanceof Map ? { entries: [...one] } : one));

const readText = (text: string): unknown =>
  JSON.parse(text, (_, one: unknown) => (isEntries(one) ? new Map(one.entries) : one));

function keptOf<Draft>(name: string): Kept<Draft> | null {
  const text = localStorage.getItem(`${STORED}.${name}`);
  return text === null ? null : (readText(text) as Kept<Draft>);
}

export interface DraftState<Draft> {
  draft: Draft;
  /** Changes it, from what it is then: a lookup that arrives late loses nothing that was typed meanwhile. */
  change: (to: (before: Draft) => Draft) => void;
  /** When what stands here was typed, where it was left unsaved and is offered again; null for a form that began anew. */
  keptAt: number | null;
  /** Forgets what was typed, and begins anew. */
  startAgain: () => void;
  /** It is saved: nothing is kept of it. */
  forget: () => void;
}

/**
 * What is typed in a long form, kept on this device until it is saved: left in whatever way, it is there again when the form
 * is opened. `name` says which form, and of which document.
 */
export function useDraft<Draft>(name: string, begin: () => Draft): DraftState<Draft> {
  const [kept] = useState(() => keptOf<Draft>(name));
  const [keptAt, setKeptAt] = useState(kept?.at ?? null);
  const [draft, setDraft] = useState<Draft>(() => kept?.draft ?? begin());
  const typed = useRef(false);
  const key = `${STORED}.${name}`;
  useEffect(() => {
    if (typed.current) localStorage.setItem(key, textOf({ at: Date.now(), draft }));
  }, [key, draft]);
  const forget = () => {
    typed.current = false;
    localStorage.removeItem(key);
  };
  return {
    draft,
    change: (to) => {
      typed.current = true;
      setDraft(to);
    },
    keptAt,
    startAgain: () => {
      forget();
      setKeptAt(null);
      setDraft(begin());
    },
    forget,
  };
}
