import { Check, Columns3 } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { MenuSheet } from "./menu.tsx";
import { choice } from "./select.tsx";

const STORED = "yosegi.columns";

interface Named {
  id: string;
  header: string;
}

export interface ColumnChoice<Column> {
  shown: readonly Column[];
  /** The button that opens the choice; null where there is none. */
  menu: ReactNode;
}

/** Which columns of a table are shown, as somebody chose on this device; the first one always is. */
export function useColumnChoice<Column extends Named>(
  label: string,
  keptAs: string | undefined,
  columns: readonly Column[],
): ColumnChoice<Column> {
  const key = `${STORED}.${keptAs}`;
  // A table may be one with a choice only now and then, such as a list that is narrow beside a sheet.
  const [chosen, setChosen] = useState<{ key: string; hidden: readonly string[] } | null>(null);
  if (keptAs === undefined) return { shown: columns, menu: null };
  const hidden = chosen?.key === key ? chosen.hidden : (localStorage.getItem(key)?.split(",") ?? []);
  const [, ...optional] = columns;
  const isShown = ({ id }: Named) => !hidden.includes(id);
  const choose = (ids: ReadonlySet<unknown>) => {
    const others = hidden.filter((id) => !optional.some((column) => column.id === id));
    const next = [...others, ...optional.map(({ id }) => id).filter((id) => !ids.has(id))];
    setChosen({ key, hidden: next });
    if (next.length === 0) localStorage.removeItem(key);
    else localStorage.setItem(key, next.join(","));
  };
  return {
    shown: columns.filter((column, at) => at === 0 || isShown(column)),
    menu: (
      <MenuTrigger>
        <Button look="icon" aria-label={`Columns of ${label}`}>
          <Columns3 />
        </Button>
        <MenuSheet placement="bottom end">
          <Menu
            aria-label={`Columns of ${label}`}
            selectionMode="multiple"
            selectedKeys={optional.filter(isShown).map(({ id }) => id)}
            onSelectionChange={(ids) =>
              choose(ids === "all" ? new Set(optional.map(({ id }) => id)) : new Set(ids))
            }
          >
            {optional.map(({ id, header }) => (
              <Choice key={id} id={id} textValue={header}>
                {({ isSelected }) => (
                  <>
                    <Mark>{isSelected && <Check aria-hidden />}</Mark>
                    {header}
                  </>
                )}
              </Choice>
            ))}
          </Menu>
        </MenuSheet>
      </MenuTrigger>
    ),
  };
}

const Choice = styled(MenuItem)`
  ${choice}
  display: flex;
  gap: 8px;
  align-items: center;
  && {
    font-weight: 400;
  }
`;

const Mark = styled.span`
  width: 16px;
  height: 16px;
  svg {
    width: 16px;
    height: 16px;
    display: block;
  }
`;
