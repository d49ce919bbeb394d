import { type RefObject, useEffect, useRef, useState } from "react";
import type { DefaultValues, FieldValues, UseFormReturn } from "react-hook-form";

export interface History {
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
}

interface Step<V> {
  values: V;
  /** What makes two steps the same: what is said, without room to go on. */
  text: string;
}

interface Steps<V> {
  past: Step<V>[];
  now: Step<V>;
  future: Step<V>[];
  /** The field that was changed last; typing in it is one step. */
  name: string | undefined;
}

const MOST = 200;

/** Keeps what a form held, so that every step can be undone and redone; `textOf` says what of it counts as a step. */
export function useHistory<V extends FieldValues>(
  methods: UseFormReturn<V>,
  textOf: (values: V) => string,
  isTyped: (name: string) => boolean,
): History {
  const stepOf = (values: V): Step<V> => ({ values, text: textOf(values) });
  const [steps, setSteps] = useState<Steps<V>>(() => ({
    past: [],
    now: stepOf(structuredClone(methods.getValues())),
    future: [],
    name: undefined,
  }));
  const latest = useRef({ stepOf, isTyped });
  useEffect(() => {
    latest.current = { stepOf, isTyped };
  });
  useEffect(() => {
    let names: (string | undefined)[] = [];
    const record = () => {
      const [name] = names;
      const one = names.length === 1 && name !== undefined && latest.current.isTyped(name) ? name : undefined;
      names = [];
      const step = latest.current.stepOf(structuredClone(methods.getValues()));
      setSteps((before) => {
        if (step.text === before.now.text) return before;
        const goesOn = one !== undefined && one === before.name;
        const past = goesOn ? before.past : [...before.past, before.now].slice(-MOST);
        return { past, now: step, future: [], name: one };
      });
    };
    return methods.subscribe({
      formState: { values: true },
      callback: ({ name }) => {
        // What is set together is one step.
        if (names.push(name) === 1) queueMicrotask(record);
      },
    });
  }, [methods]);
  const go = (to: Steps<V>) => {
    setSteps(to);
    methods.reset(structuredClone(to.now.values) as DefaultValues<V>);
  };
  const { past, now, future } = steps;
  return {
    undo: () => {
      const last = past.at(-1);
      if (last) go({ past: past.slice(0, -1), now: last, future: [now, ...future], name: undefined });
    },
    redo: () => {
      const [next, ...rest] = future;
      if (next) go({ past: [...past, now], now: next, future: rest, name: undefined });
    },
    canUndo: past.length > 0,
    canRedo: future.length > 0,
  };
}

/** Undoes with Ctrl Z, and redoes with Ctrl Y or Ctrl Shift Z, from any field within, but not from a dialog that one of them opened. */
export function useUndoKeys(within: RefObject<HTMLElement | null>, history: History): void {
  const latest = useRef(history);
  useEffect(() => {
    latest.current = history;
  });
  useEffect(() => {
    const element = within.current;
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey)) return;
      const key = event.key.toLowerCase();
      if (key === "z" && !event.shiftKey) latest.current.undo();
      else if (key === "y" || (key === "z" && event.shiftKey)) latest.current.redo();
      else return;
      event.preventDefault();
    };
    element?.addEventListener("keydown", onKey);
    return () => element?.removeEventListener("keydown", onKey);
  }, [within]);
}
