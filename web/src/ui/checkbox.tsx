import { Check } from "lucide-react";
import type { ReactNode } from "react";
import { Checkbox as AriaCheckbox } from "react-aria-components";
import styled from "styled-components";
import { color, focusRing, radius } from "./theme.ts";

const Styled = styled(AriaCheckbox)`
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 38px;
  cursor: pointer;
  > span:first-of-type {
    display: grid;
    place-items: center;
    width: 20px;
    height: 20px;
    border: 1px solid ${color.ink3};
    border-radius: ${radius};
    background: ${color.sheet};
    flex: none;
  }
  &[data-selected] > span:first-of-type {
    background: ${color.press};
    color: ${color.onPress};
  }
  &[data-focus-visible] > span:first-of-type {
    ${focusRing}
  }
  svg {
    width: 14px;
    height: 14px;
  }
`;

export interface CheckboxProps {
  isSelected: boolean;
  onChange: (isSelected: boolean) => void;
  children?: ReactNode;
  "aria-label"?: string;
}

export function Checkbox({ children, ...props }: CheckboxProps) {
  return (
    <Styled {...props}>
      {({ isSelected }) => (
        <>
          <span>{isSelected && <Check aria-hidden />}</span>
          {children}
        </>
      )}
    </Styled>
  );
}
