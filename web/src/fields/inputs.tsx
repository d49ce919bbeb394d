import type { Firm, ItemRow } from "@yosegi/contract";
import type { ReactNode } from "react";
import { type FieldPathByValue, type FieldValues, useController } from "react-hook-form";
import { type InputOf, type Inputs, inputOf, inputsOf } from "../forms/index.ts";
import { FirmField, type FirmFieldProps } from "./firmfield.tsx";
import { ItemField, type ItemFieldProps } from "./itemfield.tsx";
import { QuantityField, type QuantityFieldProps } from "./quantityfield.tsx";
import { RateField, type RateFieldProps } from "./ratefield.tsx";
import { StoreField, type StoreFieldProps } from "./storefield.tsx";

type RateInputProps<Name extends string> = Omit<
  RateFieldProps,
  "value" | "per" | "onChange" | "name" | "perName"
> & {
  name: Name;
  /** Where the form holds what the price is for. */
  per: Name;
};

/** A price and what it is for, as two values of the form. */
function RateInput({ name, per, ...props }: RateInputProps<string>) {
  const { field: price } = useController({ name });
  const { field: unit } = useController({ name: per });
  return (
    <RateField
      {...props}
      name={name}
      perName={per}
      value={price.value}
      per={unit.value}
      onChange={(value, of) => {
        price.onChange(value);
        unit.onChange(of);
      }}
    />
  );
}

const INPUTS = {
  Item: inputOf<ItemFieldProps, ItemRow | null>(ItemField),
  Firm: inputOf<FirmFieldProps, Firm | null>(FirmField),
  Quantity: inputOf<QuantityFieldProps, string>(QuantityField),
  Store: inputOf<StoreFieldProps, string>(StoreField),
  Rate: RateInput,
};

/** The fields of a form with these values that ask the server. */
interface AskingInputs<V extends FieldValues> extends Inputs<V> {
  Item: InputOf<ItemFieldProps, V, ItemFieldProps["value"], ItemRow | null>;
  Firm: InputOf<FirmFieldProps, V, FirmFieldProps["value"], Firm | null>;
  Quantity: InputOf<QuantityFieldProps, V, string>;
  Store: InputOf<StoreFieldProps, V, string>;
  Rate: (props: RateInputProps<FieldPathByValue<V, string>>) => ReactNode;
}

/** All fields that a form can have, their names checked by what it holds. */
export const fieldsOf = <V extends FieldValues>(): AskingInputs<V> =>
  ({ ...inputsOf<V>(), ...INPUTS }) as unknown as AskingInputs<V>;
