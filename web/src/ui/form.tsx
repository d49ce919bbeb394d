import { createContext, type ReactNode, useContext, useState } from "react";
import { Notice } from "./layout.tsx";

/** Why what was sent is refused, as the server or the schema says it. */
export interface FormRefusal {
  message: string;
  fields: readonly { field: string; message: string }[];
}

export interface FormProps {
  refusal: FormRefusal | null;
  onSubmit: () => void;
  children: ReactNode;
}

interface FormState {
  errorOf: (name: string) => string | undefined;
  touch: (name: string) => void;
}

const FormContext = createContext<FormState>({ errorOf: () => undefined, touch: () => {} });

/**
 * A form whose fields show the messages of a refusal by their names; one that concerns no field stands at the top. A message goes when its field is changed, not when
 * it is left: a page that moves on leaving a field would move the button from under the pointer.
 */
export function Form({ refusal, onSubmit, children }: FormProps) {
  const [touched, setTouched] = useState<ReadonlySet<string>>(new Set());
  const state: FormState = {
    errorOf: (name) =>
      touched.has(name) ? undefined : refusal?.fields.find((f) => f.field === name)?.message,
    touch: (name) => {
      if (!touched.has(name)) setTouched(new Set([...touched, name]));
    },
  };
  return (
    <FormContext value={state}>
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          // A form in a dialog lies within the form that opened it, as far as React is concerned.
          event.stopPropagation();
          setTouched(new Set());
          onSubmit();
        }}
      >
        {refusal && refusal.fields.length === 0 && <Notice>{refusal.message}</Notice>}
        {children}
      </form>
    </FormContext>
  );
}

/** The message at a field: its own, or the form's for its name; and what to call when the field is changed. */
export function useFieldError(
  name: string | undefined,
  own: string | undefined,
): [string | undefined, () => void] {
  const form = useContext(FormContext);
  if (name === undefined) return [own, () => {}];
  return [own ?? form.errorOf(name), () => form.touch(name)];
}
