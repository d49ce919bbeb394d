import { ChevronDown } from "lucide-react";
import {
  Select as AriaSelect,
  Button,
  type Key,
  ListBox,
  ListBoxItem,
  Popover,
  SelectValue,
} from "react-aria-components";
import styled, { css } from "styled-components";
import { FieldError, type FieldProps, fieldColumn, Hint, Label } from "./field.tsx";
import { useFieldState } from "./form.tsx";
import { color, focusRing, font, radius, TARGET, TOUCH } from "./theme.ts";

const Column = styled(AriaSelect)<{ $width?: string | undefined; $hideLabel?: boolean | undefined }>`
  ${fieldColumn}
`;

const Trigger = styled(Button)`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  min-height: 38px;
  padding: 7px 11px;
  background: ${color.sheet};
  border: 1px solid ${color.line};
  border-radius: ${radius};
  color: ${color.ink};
  font: 15px/1.4 ${font.text};
  text-align: left;
  cursor: pointer;
  &[data-focus-visible] {
    ${focusRing}
  }
  [data-invalid] & {
    border-color: ${color.lacquer};
    box-shadow: inset 0 0 0 1px ${color.lacquer};
  }
  [data-placeholder] {
    color: ${color.ink3};
  }
  svg {
    width: 16px;
    height: 16px;
    flex: none;
    color: ${color.ink3};
  }
  ${TOUCH} {
    min-height: ${TARGET};
  }
`;

/** The sheet that choices drop down on: of selects, pickers and menus. */
export const choices = css`
  background: ${color.sheet};
  border: 1px solid ${color.line};
  border-radius: ${radius};
  box-shadow: 0 8px 24px rgb(0 0 0 / 0.2);
  min-width: var(--trigger-width);
  max-width: min(560px, 94vw);
  overflow: auto;
  padding: 4px 0;
`;

export const choice = css`
  padding: 7px 12px;
  cursor: pointer;
  outline: none;
  color: ${color.ink};
  &[data-focused] {
    background: ${color.sunk};
  }
  &[data-selected] {
    font-weight: 650;
  }
  &[data-disabled] {
    color: ${color.ink2};
    cursor: default;
  }
  ${TOUCH} {
    min-height: ${TARGET};
  }
`;

const Sheet = styled(Popover)`
  ${choices}
`;
const Choice = styled(ListBoxItem)`
  ${choice}
`;

export interface SelectProps<Value extends string> extends FieldProps {
  name?: string;
  value: Value | "";
  onChange: (value: Value) => void;
  options: readonly { value: Value; label: string }[];
  /** What stands for nothing chosen, as the first choice. */
  none?: string | undefined;
  placeholder?: string;
  isDisabled?: boolean;
}

/** Stands for "": no choice has a value of one blank. */
const NONE = " ";

/** One of a few. Until its choices have arrived it can't be pressed: a press on an empty list would open nothing. */
export function Select<Value extends string>({
  label,
  hideLabel,
  width,
  hint,
  error,
  name,
  value,
  onChange,
  options: some,
  none,
  placeholder = "Select…",
  isDisabled = false,
}: SelectProps<Value>) {
  const { message, isRequired, touch } = useFieldState(name, label, error);
  const options = none === undefined ? some : [{ value: NONE as Value, label: none }, ...some];
  const choose = (key: Key | Key[] | null) => {
    const found = options.find((option) => option.value === key);
    if (!found) return;
    touch();
    onChange(found.value === NONE ? ("" as Value) : found.value);
  };
  return (
    <Column
      $width={width}
      $hideLabel={hideLabel}
      value={value !== "" ? value : none === undefined ? null : NONE}
      onChange={choose}
      placeholder={placeholder}
      isDisabled={isDisabled || options.length === 0}
      {...(name !== undefined && { name })}
      isInvalid={message !== undefined}
      isRequired={isRequired}
      validationBehavior="aria"
    >
      <Label data-required={isRequired || undefined}>{label}</Label>
      <Trigger>
        <SelectValue />
        <ChevronDown aria-hidden />
      </Trigger>
      {hint && <Hint>{hint}</Hint>}
      <FieldError>{message}</FieldError>
      <Sheet>
        <ListBox items={options}>
          {(option) => (
            <Choice id={option.value} textValue={option.label}>
              {option.label}
            </Choice>
          )}
        </ListBox>
      </Sheet>
    </Column>
  );
}
