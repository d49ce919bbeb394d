import { Check } from "lucide-react";
import type { ReactNode } from "react";
import { Checkbox as AriaCheckbox } from "react-aria-components";
import styled from "styled-components";
import { useFieldState } from "./form.tsx";
import { color, focusRing, radius, TARGET, TOUCH } from "./theme.ts";

const Mark = styled.span<{ $on: boolean }>`
  display: grid;
  place-items: center;
  width: 20px;
  height: 20px;
  border: 1px solid ${color.ink3};
  border-radius: ${radius};
  background: ${({ $on }) => ($on ? color.press : color.sheet)};
  color: ${color.onPress};
  flex: none;
  svg {
    width: 14px;
    height: 14px;
  }
`;

const Styled = styled(AriaCheckbox)`
  position: relative;
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 38px;
  cursor: pointer;
  ${TOUCH} {
    min-height: ${TARGET};
    min-width: ${TARGET};
  }
  &[data-focus-visible] ${Mark} {
    ${focusRing}
  }
`;

export interface CheckboxProps {
  name?: string;
  isSelected: boolean;
  onChange: (isSelected: boolean) => void;
  children?: ReactNode;
  "aria-label"?: string;
}

export function Checkbox({ children, name, onChange, ...props }: CheckboxProps) {
  const { touch } = useFieldState(name, typeof children === "string" ? children : "");
  const change = (on: boolean) => {
    touch();
    onChange(on);
  };
  return (
    <Styled {...props} onChange={change}>
      {({ isSelected }) => (
        <>
          <Mark $on={isSelected}>{isSelected && <Check aria-hidden />}</Mark>
          {children}
        </>
      )}
    </Styled>
  );
}
