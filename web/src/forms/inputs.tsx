import type { ComponentType, ReactNode } from "react";
import { type FieldArrayPath, type FieldPathByValue, type FieldValues, useController } from "react-hook-form";
import {
  AmountField,
  type AmountFieldProps,
  Checkbox,
  DateField,
  type DateFieldProps,
  Select,
  type SelectProps,
  TextField,
  type TextFieldProps,
} from "../ui/index.ts";
import { Lines, type LinesProps } from "./lines.tsx";

/** What a field needs to be one of a form. */
interface Controlled {
  name?: string;
  value: unknown;
  onChange: (value: never) => void;
}

/** A field of a form: it is named by its place in the form's values, which hold what it says. It shows a `T` and gives a `Given`. */
export type InputOf<P, V extends FieldValues, T, Given = T> = (
  props: Omit<P, "value" | "onChange" | "name"> & {
    name: FieldPathByValue<V, T>;
    /** Called with what was chosen or typed, after the form holds it. */
    onChanged?: (value: Given) => void;
  },
) => ReactNode;

/** Makes a field that holds its value itself one of a form. */
export function inputOf<P extends Controlled, T>(Field: ComponentType<P>) {
  return function Input({ name, onChanged, ...props }: { name: string; onChanged?: (value: T) => void }) {
    const { field } = useController({ name });
    if (field.value === undefined) throw new Error(`No field of this form is called ${name}`);
    const change = (value: T) => {
      field.onChange(value);
      onChanged?.(value);
    };
    return <Field {...(props as unknown as P)} name={name} value={field.value} onChange={change as never} />;
  };
}

interface ControlledBy<T> extends Controlled {
  value: T;
  onChange: (value: T) => void;
}

type TextProps = Omit<TextFieldProps, "value" | "onChange" | "name"> & ControlledBy<string>;

interface TickProps extends ControlledBy<boolean> {
  children: ReactNode;
  "aria-label"?: string;
}

const Tick = ({ value, onChange, ...props }: TickProps) => (
  <Checkbox {...props} isSelected={value} onChange={onChange} />
);

const INPUTS = {
  Text: inputOf<TextProps, string>(TextField as ComponentType<TextProps>),
  Amount: inputOf<AmountFieldProps, string>(AmountField),
  Day: inputOf<DateFieldProps, string>(DateField),
  Choice: inputOf<SelectProps<string>, string>(Select),
  Tick: inputOf<TickProps, boolean>(Tick),
  Lines,
};

/** The plain fields of a form with these values. */
export interface Inputs<V extends FieldValues> {
  Text: InputOf<TextProps, V, string>;
  Amount: InputOf<AmountFieldProps, V, string>;
  /** "" while empty. */
  Day: InputOf<DateFieldProps, V, string>;
  Choice: InputOf<SelectProps<string>, V, string>;
  Tick: InputOf<TickProps, V, boolean>;
  Lines: <List extends FieldArrayPath<V>>(props: LinesProps<V, List>) => ReactNode;
}

/** Fields whose names are checked by what the form holds. */
export const inputsOf = <V extends FieldValues>(): Inputs<V> => INPUTS as unknown as Inputs<V>;
