import { useState } from "react";

export interface History<T> {
  now: T;
  /** Changes it; changes of one `what` after another are one step, so that a typed word is undone at once. */
  change: (what: string, to: (before: T) => T) => void;
  /** Begins anew with another one, which no step leads back from. */
  begin: (now: T) => void;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
}

interface State<T> {
  past: T[];
  now: T;
  future: T[];
  what: string;
}

const MOST = 200;

/** Keeps what something was, so that every step can be undone and redone. */
export function useHistory<T>(first: () => T): History<T> {
  const [state, setState] = useState<State<T>>(() => ({ past: [], now: first(), future: [], what: "" }));
  return {
    now: state.now,
    change: (what, to) =>
      setState((before) => {
        const now = to(before.now);
        if (now === before.now) return before;
        const same = what !== "" && what === before.what;
        const past = same ? before.past : [...before.past, before.now].slice(-MOST);
        return { past, now, future: [], what };
      }),
    begin: (now) => setState({ past: [], now, future: [], what: "" }),
    undo: () =>
      setState((before) => {
        const now = before.past.at(-1);
        if (now === undefined) return before;
        return { past: before.past.slice(0, -1), now, future: [before.now, ...before.future], what: "" };
      }),
    redo: () =>
      setState((before) => {
        const [now, ...future] = before.future;
        if (now === undefined) return before;
        return { past: [...before.past, before.now], now, future, what: "" };
      }),
    canUndo: state.past.length > 0,
    canRedo: state.future.length > 0,
  };
}
