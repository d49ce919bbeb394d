import { createContext, type ReactNode, useContext, useEffect, useRef, useState } from "react";
import { formKey } from "./formkeys.ts";
import { Notice } from "./layout.tsx";
import { useUnsaved } from "./unsaved.tsx";

/** Why what was sent is refused, as the server or the schema says it. */
export interface FormRefusal {
  code?: string;
  message: string;
  fields: readonly { field: string; message: string }[];
}

export interface FormProps {
  refusal: FormRefusal | null;
  onSubmit: () => void;
  /** What is typed is kept on this device: the form is left without a question. */
  keeps?: boolean;
  children: ReactNode;
}

interface FormState {
  errorOf: (name: string) => string | undefined;
  touch: (name?: string) => void;
  /** Sends nothing before this has ended, such as the lookup of what was typed, and nothing at all where it gives false. */
  wait: (work: Promise<unknown>) => void;
}

const FormContext = createContext<FormState>({ errorOf: () => undefined, touch: () => {}, wait: () => {} });

/**
 * A form whose fields show the messages of a refusal by their names; what no field shows stands at the top. A message goes
 * when its field is changed, not when it is left: a page that moves on leaving a field would move the button from under the
 * pointer. Enter goes on to the next field, Ctrl and Enter send. Left with something typed that is not sent, the page asks.
 */
export function Form({ refusal, onSubmit, keeps = false, children }: FormProps) {
  const [touched, setTouched] = useState<ReadonlySet<string>>(new Set());
  const form = useRef<HTMLFormElement>(null);
  const unsaved = useRef(false);
  const underWay = useRef(new Set<Promise<unknown>>());
  // Counts up when what was waited for has ended; by then its findings are drawn, and sent.
  const [awaited, setAwaited] = useState(0);
  const send = useRef(onSubmit);
  useEffect(() => {
    send.current = onSubmit;
  });
  useEffect(() => {
    if (awaited > 0) send.current();
  }, [awaited]);
  useUnsaved(() => unsaved.current && !keeps);
  useEffect(() => {
    if (refusal === null) return;
    // What was sent and refused is still only here.
    unsaved.current = true;
    const field = form.current?.querySelector<HTMLElement>("[aria-invalid=true]");
    if (field) field.focus();
    else form.current?.querySelector("[role=alert]")?.scrollIntoView({ block: "center" });
  }, [refusal]);
  const state: FormState = {
    errorOf: (name) =>
      touched.has(name) ? undefined : refusal?.fields.find((f) => f.field === name)?.message,
    touch: (name) => {
      unsaved.current = true;
      if (name !== undefined && !touched.has(name)) setTouched(new Set([...touched, name]));
    },
    wait: (work) => {
      const ended = work.finally(() => underWay.current.delete(ended));
      underWay.current.add(ended);
    },
  };
  // What was typed last may still be looked up: it is sent with what that finds.
  const submit = () => {
    if (underWay.current.size === 0) onSubmit();
    else
      void Promise.allSettled([...underWay.current]).then((ends) => {
        const failed = ends.some((end) => end.status === "fulfilled" && end.value === false);
        if (failed) unsaved.current = true;
        else setAwaited((count) => count + 1);
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
          setTouched(new Set());
          unsaved.current = false;
          submit();
        }}
      >
        {refusal && refusal.fields.length === 0 && <Notice>{refusal.message}</Notice>}
        {children}
      </form>
    </FormContext>
  );
}

/** Lets the form around wait for work, such as a lookup, before it sends what is typed. */
export const useFormWait = (): ((work: Promise<unknown>) => void) => useContext(FormContext).wait;

/** The message at a field: its own, or the form's for its name; and what to call when the field is changed. */
export function useFieldError(
  name: string | undefined,
  own: string | undefined,
): [string | undefined, () => void] {
  const form = useContext(FormContext);
  if (name === undefined) return [own, form.touch];
  return [own ?? form.errorOf(name), () => form.touch(name)];
}
