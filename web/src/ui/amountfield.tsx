import { NUMBER_HINT, UNREADABLE } from "@yosegi/contract";
import { parseNumber } from "@yosegi/core";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { TextField as AriaTextField, type TextFieldProps as AriaTextFieldProps } from "react-aria-components";
import styled from "styled-components";
import { Box, FieldError, type FieldProps, fieldColumn, Hint, Input, Label, Suffix } from "./field.tsx";
import { useFieldState } from "./form.tsx";
import { type Format, useFormat } from "./format.ts";

const Column = styled(AriaTextField)<{
  $width?: string | undefined;
  $hideLabel?: boolean | undefined;
}>`
  ${fieldColumn}
`;

export interface AmountFieldProps
  extends FieldProps,
    Omit<AriaTextFieldProps, "children" | "className" | "value" | "onChange" | "defaultValue"> {
  /** Plain decimal text such as "12.5"; "" while empty; what was typed, where it is no number. */
  value: string;
  onChange: (value: string) => void;
  unit?: string | undefined;
  placeholder?: string | undefined;
  /** Reads what is typed in another way than as a plain number, such as "2 boxes"; null where it cannot. */
  read?: (text: string) => string | null;
}

/**
 * A field for an exact decimal with its unit. The person types in their own language; what goes on is plain decimal
 * text, never a floating point number. Text that is no number goes on too, so that it is refused and not lost.
 */
export function AmountField({
  label,
  hideLabel,
  width,
  hint,
  error,
  value,
  onChange,
  unit,
  placeholder = "",
  read,
  ...props
}: AmountFieldProps) {
  const format = useFormat();
  const { message: said, isRequired, touch } = useFieldState(props.name, label, error);
  const message = said?.replace(NUMBER_HINT, NUMBER_HINT.replace("12.5", format.amount("12.5")));
  const [typed, setTyped] = useState(() => ({ text: show(value, format), value }));
  // A value set from outside replaces what was typed; one that only echoes it leaves the text as the person wrote it.
  if (typed.value !== value) setTyped({ text: show(value, format), value });
  const input = useRef<HTMLInputElement>(null);
  const untouched = useRef(false);
  // A figure that arrives in a field one has just stepped into is what typing replaces, not what it is added to.
  useLayoutEffect(() => {
    if (typed.text !== "" && untouched.current) input.current?.select();
  }, [typed.text]);
  // What could not be read because its packs or units were still on their way is read once they are there.
  useEffect(() => {
    if (!read || !typed.value.startsWith(UNREADABLE)) return;
    const parsed = read(typed.text);
    if (parsed === null) return;
    setTyped({ text: typed.text, value: parsed });
    onChange(parsed);
  });
  const change = (text: string) => {
    untouched.current = false;
    const parsed = read ? read(text) : parseNumber(text, format.marks);
    const plain = text.trim() === "" ? "" : (parsed ?? UNREADABLE + text);
    setTyped({ text, value: plain });
    touch();
    onChange(plain);
  };
  // What a word was read as is said, for it is that figure which goes on.
  const converted = /\p{L}/u.test(typed.text) && PLAIN.test(value) ? `= ${format.amount(value, unit)}` : null;
  return (
    <Column
      {...props}
      $width={width}
      $hideLabel={hideLabel}
      value={typed.text}
      onChange={change}
      isInvalid={message !== undefined}
      isRequired={isRequired}
      validationBehavior="aria"
    >
      <Label data-required={isRequired || undefined}>{label}</Label>
      <Box>
        <Input
          $end
          inputMode="decimal"
          placeholder={placeholder}
          autoComplete="off"
          ref={input}
          onFocus={(e) => {
            untouched.current = true;
            e.target.select();
          }}
          onBlur={() => {
            untouched.current = false;
          }}
        />
        {unit && <Suffix>{unit}</Suffix>}
      </Box>
      {(hint || converted) && <Hint>{converted ?? hint}</Hint>}
      <FieldError>{message}</FieldError>
    </Column>
  );
}

const PLAIN = /^-?\d+(\.\d+)?$/;

/** Plain decimal text as the person writes numbers, without group marks so that it is easy to change. */
function show(value: string, format: Format): string {
  return PLAIN.test(value) ? value.replace(".", format.marks.decimal) : value.replace(UNREADABLE, "");
}
