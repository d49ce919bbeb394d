import { Button as AriaButton, type ButtonProps as AriaButtonProps } from "react-aria-components";
import styled, { css } from "styled-components";
import { color, focusRing, font, NARROW, radius, TARGET, TOUCH } from "./theme.ts";

type Look = "main" | "quiet" | "link" | "icon";

const looks = {
  main: css`
    background: ${color.press};
    color: ${color.onPress};
    border-color: ${color.press};
  `,
  quiet: css`
    background: ${color.sheet};
    color: ${color.ink};
    border-color: ${color.ink3};
  `,
  link: css`
    background: none;
    color: ${color.ink};
    padding-inline: 4px;
    text-decoration: underline;
    text-underline-offset: 3px;
  `,
  icon: css`
    background: none;
    color: ${color.ink2};
    padding: 7px;
    min-height: 32px;
  `,
} satisfies Record<Look, ReturnType<typeof css>>;

export const pressable = css<{ $look: Look }>`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 8px;
  min-height: 38px;
  padding: 7px 16px;
  border: 1px solid transparent;
  border-radius: ${radius};
  font: 600 15px/1.4 ${font.text};
  cursor: pointer;
  white-space: nowrap;
  ${({ $look }) => looks[$look]}
  &[data-hovered] {
    filter: brightness(1.12);
  }
  &[data-pressed] {
    transform: translateY(1px);
  }
  &[data-disabled] {
    opacity: 0.5;
    cursor: default;
  }
  &[data-focus-visible] {
    ${focusRing}
  }
  svg {
    width: 17px;
    height: 17px;
    flex: none;
  }
  ${TOUCH} {
    min-height: ${TARGET};
    min-width: ${TARGET};
  }
  ${NARROW} {
    white-space: normal;
    text-align: start;
  }
`;

const Styled = styled(AriaButton)<{ $look: Look }>`
  ${pressable}
`;

export interface ButtonProps extends AriaButtonProps {
  look?: Look;
}

/** A button. `main` once a page, for the step that comes next. */
export function Button({ look = "quiet", ...props }: ButtonProps) {
  return <Styled $look={look} {...props} />;
}
