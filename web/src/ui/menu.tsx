import type { ReactNode } from "react";
import { Menu as AriaMenu, MenuItem, MenuTrigger, Popover } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { choice, choices } from "./select.tsx";

export interface MenuChoice {
  id: string;
  label: string;
  onAction: () => void;
}

/** A button that opens a few further steps; a step that cannot be taken is left out by its page. */
export function MenuButton({
  children,
  label,
  items,
  look = "quiet",
}: {
  children: ReactNode;
  label: string;
  items: readonly MenuChoice[];
  look?: "quiet" | "icon";
}) {
  return (
    <MenuTrigger>
      <Button look={look} aria-label={label}>
        {children}
      </Button>
      <MenuSheet placement="bottom start">
        <AriaMenu aria-label={label}>
          {items.map((item) => (
            <Choice key={item.id} id={item.id} onAction={item.onAction}>
              {item.label}
            </Choice>
          ))}
        </AriaMenu>
      </MenuSheet>
    </MenuTrigger>
  );
}

/** What a menu opens on; the choice in it that has the focus shows it. */
export const MenuSheet = styled(Popover)`
  ${choices}
  [role="menu"] {
    outline: none;
  }
`;
const Choice = styled(MenuItem)`
  ${choice}
`;
