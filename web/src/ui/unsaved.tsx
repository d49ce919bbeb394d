import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useRef } from "react";
import { useBlocker } from "react-router";
import { useAsk } from "./ask.tsx";

/** Forms within a page or a dialog, and whether one of them has something typed that is not saved. */
interface Forms {
  add: (unsaved: () => boolean) => () => void;
  any: () => boolean;
  /** Asks whether to leave what is typed, where something is; true where it may go. */
  mayLeave: () => Promise<boolean>;
}

const FormsContext = createContext<Forms>({
  add: () => () => {},
  any: () => false,
  mayLeave: () => Promise.resolve(true),
});

/**
 * Watches over what is typed on the whole page: going to another page, reloading and closing the tab ask first, as long as a
 * form has something that is not saved.
 */
export function UnsavedGuard({ children }: { children: ReactNode }) {
  const forms = useRef(new Set<() => boolean>());
  const ask = useAsk();
  const value = useMemo<Forms>(() => {
    const any = () => [...forms.current].some((unsaved) => unsaved());
    return {
      add: (unsaved) => {
        forms.current.add(unsaved);
        return () => forms.current.delete(unsaved);
      },
      any,
      mayLeave: () => ask(LEAVE),
    };
  }, [ask]);
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => value.any() && currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    if (blocker.state !== "blocked") return;
    void value.mayLeave().then((leave) => (leave ? blocker.proceed() : blocker.reset()));
  }, [blocker, value]);
  useEffect(() => {
    const onUnload = (event: BeforeUnloadEvent) => {
      if (value.any()) event.preventDefault();
    };
    window.addEventListener("beforeunload", onUnload);
    return () => window.removeEventListener("beforeunload", onUnload);
  }, [value]);
  return <FormsContext value={value}>{children}</FormsContext>;
}

const LEAVE = {
  title: "Leave without saving?",
  text: "What you typed here isn't saved.",
  yes: "Leave without saving",
  no: "Keep editing",
};

/** A part of the page that is left by itself, such as a dialog: gives how to ask before it closes. */
export function useUnsavedWithin(): {
  Provide: (props: { children: ReactNode }) => ReactNode;
  mayLeave: () => Promise<boolean>;
} {
  const outer = useContext(FormsContext);
  const own = useRef(new Set<() => boolean>());
  const value = useMemo<Forms>(
    () => ({
      add: (unsaved) => {
        own.current.add(unsaved);
        const remove = outer.add(unsaved);
        return () => {
          own.current.delete(unsaved);
          remove();
        };
      },
      any: () => [...own.current].some((unsaved) => unsaved()),
      mayLeave: outer.mayLeave,
    }),
    [outer],
  );
  const Provide = useCallback(
    (props: { children: ReactNode }) => <FormsContext value={value}>{props.children}</FormsContext>,
    [value],
  );
  return { Provide, mayLeave: () => (value.any() ? value.mayLeave() : Promise.resolve(true)) };
}

/** Lets the page ask before it is left, while `unsaved` says so. */
export function useUnsaved(unsaved: () => boolean): void {
  const { add } = useContext(FormsContext);
  const latest = useRef(unsaved);
  useEffect(() => {
    latest.current = unsaved;
  });
  useEffect(() => add(() => latest.current()), [add]);
}
