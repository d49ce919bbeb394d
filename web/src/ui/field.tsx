import type { ReactNode } from "react";
import {
  FieldError as AriaFieldError,
  Group as AriaGroup,
  Input as AriaInput,
  Label as AriaLabel,
  TextArea as AriaTextArea,
  TextField as AriaTextField,
  type TextFieldProps as AriaTextFieldProps,
  Text,
} from "react-aria-components";
import styled, { css } from "styled-components";
import { useFieldState } from "./form.tsx";
import { color, focusRing, font, NARROW, radius, TARGET, TOUCH, unseen } from "./theme.ts";

export const Label = styled(AriaLabel)`
  font-size: 13px;
  font-weight: 600;
  color: ${color.ink2};
  /* A screen reader is told by the field itself, so the mark has no name. */
  &[data-required]::after {
    content: " *" / "";
    color: ${color.lacquer};
  }
`;

export const FieldError = styled(AriaFieldError)`
  color: ${color.lacquer};
  font-size: 13.5px;
  font-weight: 600;
  max-width: 34em;
`;

export const Hint = styled(Text).attrs({ slot: "description" })`
  color: ${color.ink2};
  font-size: 13px;
`;

/** A label above, the box, an error or hint below. */
export const fieldColumn = css<{ $width?: string | undefined; $hideLabel?: boolean | undefined }>`
  position: relative;
  display: flex;
  flex-direction: column;
  gap: 3px;
  min-width: 0;
  ${({ $width }) => $width && `width: ${$width};`}
  ${NARROW} {
    max-width: 100%;
  }
  ${({ $hideLabel }) =>
    $hideLabel &&
    css`
      > ${Label} {
        ${unseen}
      }
    `}
`;

/** In a line of fields that is folded no head stands above them: there they show their labels themselves. */
export const ownLabels = css`
  && ${Label} {
    position: static;
    clip-path: none;
    width: auto;
    height: auto;
    overflow: visible;
    white-space: normal;
  }
`;

/** The box around an input, which may carry a unit or a button at its end. */
export const Box = styled(AriaGroup)`
  display: flex;
  align-items: center;
  background: ${color.sheet};
  border: 1px solid ${color.line};
  border-radius: ${radius};
  min-height: 38px;
  overflow: hidden;
  &[data-focus-within] {
    ${focusRing}
  }
  &[data-invalid] {
    border-color: ${color.lacquer};
    box-shadow: inset 0 0 0 1px ${color.lacquer};
  }
  &[data-disabled] {
    opacity: 0.6;
  }
  ${TOUCH} {
    min-height: ${TARGET};
    input {
      min-height: calc(${TARGET} - 2px);
    }
  }
`;

const inputText = css`
  flex: 1;
  width: 0;
  min-width: 0;
  padding: 7px 11px;
  border: 0;
  background: none;
  color: inherit;
  font: 15px/1.4 ${font.text};
  font-variant-numeric: tabular-nums lining-nums;
  outline: none;
  &::placeholder {
    color: ${color.ink3};
    opacity: 1;
  }
`;

export const Input = styled(AriaInput)<{ $end?: boolean }>`
  ${inputText}
  ${({ $end }) => $end && "text-align: right;"}
`;

const Area = styled(AriaTextArea)`
  ${inputText}
  min-height: 72px;
  resize: vertical;
`;

export const Suffix = styled.span`
  padding-right: 11px;
  color: ${color.ink3};
  white-space: nowrap;
`;

const Column = styled(AriaTextField)<{ $width?: string | undefined; $hideLabel?: boolean | undefined }>`
  ${fieldColumn}
`;

export interface FieldProps {
  label: string;
  /** The label is only for screen readers, where a table's header says it already. */
  hideLabel?: boolean;
  width?: string | undefined;
  hint?: ReactNode;
  /** An error that does not come from the form around, but from what the field itself knows. */
  error?: string | undefined;
}

export interface TextFieldProps extends FieldProps, Omit<AriaTextFieldProps, "children" | "className"> {
  placeholder?: string;
  lines?: boolean;
  suffix?: ReactNode;
  /** What is typed is written in capitals. */
  upperCase?: boolean;
}

/** A field for text. */
export function TextField({
  label,
  hideLabel,
  width,
  hint,
  error,
  placeholder = "",
  lines,
  suffix,
  upperCase = false,
  onChange,
  ...props
}: TextFieldProps) {
  const { message, isRequired, touch } = useFieldState(props.name, label, error);
  const change = (text: string) => {
    touch();
    onChange?.(upperCase ? text.toUpperCase() : text);
  };
  return (
    <Column
      {...props}
      $width={width}
      $hideLabel={hideLabel}
      onChange={change}
      isInvalid={message !== undefined}
      isRequired={isRequired}
      validationBehavior="aria"
    >
      <Label data-required={isRequired || undefined}>{label}</Label>
      <Box>
        {lines ? <Area placeholder={placeholder} /> : <Input placeholder={placeholder} />}
        {suffix && <Suffix>{suffix}</Suffix>}
      </Box>
      {hint && <Hint>{hint}</Hint>}
      <FieldError>{message}</FieldError>
    </Column>
  );
}
