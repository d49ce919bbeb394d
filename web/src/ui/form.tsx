import type { ErrorAnswer } from "@yosegi/contract";
import {
  createContext,
  type ReactNode,
  type RefObject,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { formKey } from "./formkeys.ts";
import { useUnsaved } from "./unsaved.tsx";

/** Why what was sent is refused, as the server or the schema says it. */
export interface FormRefusal {
  code?: string;
  message: string;
  fields: readonly { field: string; message: string }[];
  /** Parts that are too little, where that is why. */
  shorts?: ErrorAnswer["shorts"];
}

interface FormState {
  errorOf: (name: string) => string | undefined;
  isRequired: (name: string) => boolean;
  /** A field was changed, or something was typed in it that is still to be looked up. */
  touch: (name?: string) => void;
  /** A field that shows `name` and what is wrong with it; gives how to take that back. */
  claim: (name: string, label: string) => () => void;
  /** Sends nothing before this has ended, such as the lookup of what was typed, and nothing at all where it gives false. */
  wait: (work: Promise<unknown>) => void;
  /** Sends nothing while a field shows what means nothing; gives how to take that back. */
  block: () => () => void;
}

const FormContext = createContext<FormState>({
  errorOf: () => undefined,
  isRequired: () => false,
  touch: () => {},
  claim: () => () => {},
  wait: () => {},
  block: () => () => {},
});

/** The names that fields on the page show, and what these are called. */
export type Claims = ReadonlyMap<string, { label: string; fields: number }>;

export interface FormShellProps {
  /** What is wrong with a field, by its name. */
  errorOf: (name: string) => string | undefined;
  /** Whether nothing can be sent without it. */
  isRequired: (name: string) => boolean;
  onTouch: (name?: string) => void;
  /** Whether leaving would lose something that is typed. */
  isUnsaved: () => boolean;
  /** Counts what was refused: each time the first field with a fault takes the focus. */
  refusals: number;
  /** Kept up with what fields show, for whoever has to say the rest. */
  claims: RefObject<Claims>;
  onSubmit: () => void;
  children: ReactNode;
}

/**
 * A form as the browser sees it: Enter goes on to the next field, Ctrl and Enter send; what is still being looked up is awaited;
 * left with something typed that is not sent, the page asks; after a refusal the first field with a fault has the focus.
 */
export function FormShell({
  errorOf,
  isRequired,
  onTouch,
  isUnsaved,
  refusals,
  claims,
  onSubmit,
  children,
}: FormShellProps) {
  const form = useRef<HTMLFormElement>(null);
  const underWay = useRef(new Set<Promise<unknown>>());
  // Counts up when what was waited for has ended; by then its findings are drawn, and sent.
  const [awaited, setAwaited] = useState(0);
  const blocks = useRef(0);
  const send = () => {
    if (blocks.current > 0) focusFault(form.current);
    else onSubmit();
  };
  const latest = useRef({ send, onTouch });
  useEffect(() => {
    latest.current = { send, onTouch };
  });
  useEffect(() => {
    if (awaited > 0) latest.current.send();
  }, [awaited]);
  useUnsaved(isUnsaved);
  useEffect(() => {
    if (refusals > 0) focusFault(form.current);
  }, [refusals]);
  const state = useMemo<FormState>(
    () => ({
      errorOf,
      isRequired,
      touch: (name) => latest.current.onTouch(name),
      claim: (name, label) => claimIn(claims, name, label),
      wait: (work) => {
        const ended = work.finally(() => underWay.current.delete(ended));
        underWay.current.add(ended);
      },
      block: () => {
        blocks.current += 1;
        return () => {
          blocks.current -= 1;
        };
      },
    }),
    [errorOf, isRequired, claims],
  );
  // What was typed last may still be looked up: it is sent with what that finds.
  const submit = () => {
    if (underWay.current.size === 0) return send();
    void Promise.allSettled([...underWay.current]).then((ends) => {
      if (!ends.some((end) => end.status === "fulfilled" && end.value === false))
        setAwaited((count) => count + 1);
    });
  };
  return (
    <FormContext value={state}>
      <form
        ref={form}
        noValidate
        onKeyDown={formKey}
        onSubmit={(event) => {
          event.preventDefault();
          // A form in a dialog lies within the form that opened it, as far as React is concerned.
          event.stopPropagation();
          submit();
        }}
      >
        {children}
      </form>
    </FormContext>
  );
}

/** Goes to the first field with a fault, or shows what is wrong with the whole. */
function focusFault(form: HTMLFormElement | null): void {
  const field = form?.querySelector<HTMLElement>("[aria-invalid=true]");
  if (field) field.focus();
  else form?.querySelector("[role=alert]")?.scrollIntoView({ block: "center" });
}

function claimIn(claims: RefObject<Claims>, name: string, label: string): () => void {
  const count = (by: number) => {
    const next = new Map(claims.current);
    const fields = (next.get(name)?.fields ?? 0) + by;
    if (fields > 0) next.set(name, { label, fields });
    else next.delete(name);
    claims.current = next;
  };
  count(1);
  return () => count(-1);
}

/** Lets the form around wait for work, such as a lookup, before it sends what is typed. */
export const useFormWait = (): ((work: Promise<unknown>) => void) => useContext(FormContext).wait;

/** Keeps the form around from being sent while a field shows what means nothing. */
export function useFormBlock(blocked: boolean): void {
  const { block } = useContext(FormContext);
  useEffect(() => (blocked ? block() : undefined), [blocked, block]);
}

export interface FieldState {
  /** What is wrong with it: its own word, or the form's for its name. */
  message: string | undefined;
  isRequired: boolean;
  /** To be called when it is changed. */
  touch: () => void;
}

/** What a field, by its name in the form and its label, shows of the form around it; `own` is what it finds wrong itself. */
export function useFieldState(name: string | undefined, label: string, own?: string): FieldState {
  const { errorOf, isRequired, touch, claim } = useContext(FormContext);
  useEffect(() => (name === undefined ? undefined : claim(name, label)), [name, label, claim]);
  if (name === undefined) return { message: own, isRequired: false, touch };
  return { message: own ?? errorOf(name), isRequired: isRequired(name), touch: () => touch(name) };
}
