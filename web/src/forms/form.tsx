import type { Route } from "@yosegi/contract";
import { createContext, type ReactNode, useCallback, useContext } from "react";
import { type FieldErrors, type FieldValues, FormProvider, get, useFormState } from "react-hook-form";
import {
  Actions,
  Button,
  Dialog,
  type FormRefusal,
  FormShell,
  KeptDraft,
  Notice,
  Stale,
} from "../ui/index.ts";
import { type FormSetup, type FormState, useCommandForm } from "./formstate.ts";

/** Of the form around: whether it is being sent, and why what was sent last is refused. */
const Current = createContext<{ busy: boolean; refusal: FormRefusal | null }>({ busy: false, refusal: null });

/** Why what the form around sent last is refused; null where it is not. */
export const useRefusal = (): FormRefusal | null => useContext(Current).refusal;

interface FormProps<V extends FieldValues> {
  form: FormState<V>;
  /** What the button that sends it says; without one, the form has its own. */
  save?: ReactNode;
  /** Further buttons beside it. */
  more?: ReactNode;
  children: ReactNode;
}

/** Draws a form: what was kept of it, what somebody else changed, what is refused, its fields, and the button that sends it. */
export function FormOf<V extends FieldValues>({ form, save, more, children }: FormProps<V>) {
  const errorOf = useErrorOf(form);
  const { refusal, claims, stale } = form;
  const unclaimed = refusal?.fields.filter(({ field }) => !claims.current.has(field)) ?? [];
  const said = refusal?.fields.length === 0 ? [refusal.message] : unclaimed.map(({ message }) => message);
  return (
    <FormProvider {...form.methods}>
      <Current value={form}>
        <FormShell
          errorOf={errorOf}
          isRequired={form.isRequired}
          onTouch={form.touch}
          isUnsaved={form.isUnsaved}
          refusals={form.refusals}
          claims={claims}
          onSubmit={form.submit}
        >
          <KeptDraft at={form.keptAt} onStartAgain={form.startAgain} />
          {[...new Set(said)].map((message) => (
            <Notice key={message}>{message}</Notice>
          ))}
          {stale && <Stale {...stale} />}
          {children}
          {(save || more) && (
            <Actions>
              {save && <Save>{save}</Save>}
              {more}
            </Actions>
          )}
        </FormShell>
      </Current>
    </FormProvider>
  );
}

/** What is wrong with each field of a form, by its name. */
export function useErrorOf<V extends FieldValues>({
  methods,
}: FormState<V>): (name: string) => string | undefined {
  const { errors } = useFormState({ control: methods.control });
  return useCallback((name: string) => messageIn(errors, name), [errors]);
}

/** The button that sends the form around it. */
export function Save({
  look = "main",
  isDisabled = false,
  children,
}: {
  look?: "main" | "quiet";
  isDisabled?: boolean;
  children: ReactNode;
}) {
  return (
    <Button look={look} type="submit" isDisabled={isDisabled} isPending={useContext(Current).busy}>
      {children}
    </Button>
  );
}

/** What is wrong with a field; of a list of lines also what is wrong with it as a whole. */
function messageIn(errors: FieldErrors, name: string): string | undefined {
  const found = get(errors, name) as { message?: unknown; root?: { message?: string } } | undefined;
  const message = typeof found?.message === "string" ? found.message : found?.root?.message;
  return message === "" ? undefined : message;
}

interface FormDialogProps<R extends Route, V extends FieldValues> extends FormSetup<R, V> {
  title: string;
  isOpen: boolean;
  onClose: () => void;
  width?: string;
  save: ReactNode;
  more?: ReactNode;
  /** Its fields. */
  children: ReactNode;
}

/** A dialog with a form of one command; it closes when that is done. */
export function FormDialog<R extends Route, V extends FieldValues>({
  title,
  isOpen,
  onClose,
  width,
  ...form
}: FormDialogProps<R, V>) {
  return (
    <Dialog title={title} isOpen={isOpen} onClose={onClose} {...(width !== undefined && { width })}>
      <DialogForm {...form} onClose={onClose} />
    </Dialog>
  );
}

type Inside<R extends Route, V extends FieldValues> = Omit<
  FormDialogProps<R, V>,
  "title" | "isOpen" | "width"
>;

/** Begins when the dialog opens. */
function DialogForm<R extends Route, V extends FieldValues>({
  save,
  more,
  children,
  onClose,
  done,
  ...setup
}: Inside<R, V>) {
  const form = useCommandForm({
    ...setup,
    done: (answer, values: V) => {
      onClose();
      done(answer, values);
    },
  } as FormSetup<R, V>);
  return (
    <FormOf form={form} save={save} more={more}>
      {children}
    </FormOf>
  );
}
