import { useState } from "react";

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
export const textOf = (value: unknown): string =>
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

/** What this device keeps of a form. */
export interface KeptForm<Draft> {
  /** What was left unsaved the last time, as the form was opened; null where nothing was. */
  kept: Kept<Draft> | null;
  keep: (draft: Draft) => void;
  forget: () => void;
}

/** What this device keeps of a form that holds its draft itself; without a name, nothing. */
export function useKept<Draft>(name: string | null): KeptForm<Draft> {
  const [kept] = useState(() => (name === null ? null : keptOf<Draft>(name)));
  return {
    kept,
    keep: (draft) => {
      if (name !== null) keepAs(name, draft);
    },
    forget: () => {
      if (name !== null) localStorage.removeItem(`${STORED}.${name}`);
    },
  };
}
