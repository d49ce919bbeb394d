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
  const key = `${STORED}.${name}`;
  const text = localStorage.getItem(key);
  if (text === null) return null;
  try {
    return readText(text) as Kept<Draft>;
  } catch (error) {
    // What can't be read must not keep the form from opening, now or the next time.
    console.error(error);
    localStorage.removeItem(key);
    return null;
  }
}

/** Keeps a draft; where the browser has no room for it, the form goes on without. */
function keepAs(name: string, draft: unknown): void {
  try {
    localStorage.setItem(`${STORED}.${name}`, textOf({ at: Date.now(), draft }));
  } catch (error) {
    console.error(error);
  }
}

/** What this device keeps of a form; see `useDraft`. */
export interface KeptForm<Draft> {
  /** What was left unsaved the last time, as the form was opened; null where nothing was. */
  kept: Kept<Draft> | null;
  keep: (draft: Draft) => void;
  forget: () => void;
}

/** What this device keeps of a form that holds its draft itself. */
export function useKept<Draft>(name: string): KeptForm<Draft> {
  const [kept] = useState(() => keptOf<Draft>(name));
  return {
    kept,
    keep: (draft) => keepAs(name, draft),
    forget: () => localStorage.removeItem(`${STORED}.${name}`),
  };
}

export interface DraftState<Draft> {
  draft: Draft;
  /** Changes it, from what it is then: a lookup that arrives late loses nothing that was typed meanwhile. */
  change: (to: (before: Draft) => Draft) => void;
  /** When what stands here was typed, where it was left unsaved and is offered again; null for a form that began anew. */
  keptAt: number | null;
  /** Forgets what was typed, and begins anew. */
  startAgain: () => void;
  /** It is saved: nothing is kept of it. The form itself stays as it is until it is closed. */
  forget: () => void;
}

/**
 * What is typed in a long form, kept on this device until it is saved: left in whatever way, it is there again when the form
 * is opened. `name` says which form, and of which document.
 */
export function useDraft<Draft>(name: string, begin: () => Draft): DraftState<Draft> {
  const { kept, keep, forget } = useKept<Draft>(name);
  const [keptAt, setKeptAt] = useState(kept?.at ?? null);
  // As long as nothing is typed, the form follows its document.
  const [typed, setTyped] = useState<Draft | null>(kept?.draft ?? null);
  const latest = useRef({ keep, forget });
  useEffect(() => {
    latest.current = { keep, forget };
  });
  const wasTyped = useRef(typed !== null);
  useEffect(() => {
    if (typed !== null) latest.current.keep(typed);
    else if (wasTyped.current) latest.current.forget();
    wasTyped.current = typed !== null;
  }, [typed]);
  return {
    draft: typed ?? begin(),
    change: (to) =>
      setTyped((before) => {
        const next = to(before ?? begin());
        // A field that is left says again what it said; nothing is typed by that.
        return textOf(next) === textOf(begin()) ? null : next;
      }),
    keptAt,
    startAgain: () => {
      forget();
      setKeptAt(null);
      setTyped(null);
    },
    forget,
  };
}
