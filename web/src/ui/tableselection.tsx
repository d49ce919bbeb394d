import styled from "styled-components";
import { Checkbox } from "./checkbox.tsx";
import { color, focusRing, font, radius, TARGET, TOUCH } from "./theme.ts";

/** Rows that are selected, by what `rowId` gives. */
export interface Selection<Row> {
  chosen: ReadonlySet<string | number>;
  onChange: (chosen: ReadonlySet<string | number>) => void;
  /** What a row is called, such as its number. */
  words: (row: Row) => string;
  /** Whether a row can be selected; without it all can. */
  can?: (row: Row) => boolean;
}

interface SelectProps<Row> {
  selection: Selection<Row>;
  rowId: (row: Row) => string | number;
}

/** Selects one row. */
export function SelectRow<Row>({ row, rowId, selection }: SelectProps<Row> & { row: Row }) {
  if (selection.can && !selection.can(row)) return null;
  const id = rowId(row);
  const change = (on: boolean) => {
    const next = new Set(selection.chosen);
    if (on) next.add(id);
    else next.delete(id);
    selection.onChange(next);
  };
  return (
    <RowBox
      type="checkbox"
      aria-label={`Select ${selection.words(row)}`}
      checked={selection.chosen.has(id)}
      onChange={(e) => change(e.target.checked)}
    />
  );
}

/** Selects all rows, or none where all are. */
export function SelectAll<Row>({
  label,
  rows,
  rowId,
  selection,
  children,
}: SelectProps<Row> & { label: string; rows: readonly Row[]; children?: string }) {
  const ids = rows.filter((row) => selection.can?.(row) ?? true).map(rowId);
  const isAll = ids.length > 0 && ids.every((id) => selection.chosen.has(id));
  return (
    <Checkbox
      aria-label={`Select all ${label.toLowerCase()}`}
      isSelected={isAll}
      onChange={() => selection.onChange(new Set(isAll ? [] : ids))}
    >
      {children}
    </Checkbox>
  );
}

/** A box as light as the browser's own, for a table that is scrolled makes many of them. */
const RowBox = styled.input`
  appearance: none;
  display: grid;
  place-items: center;
  width: 28px;
  height: 38px;
  margin: 0 -4px;
  cursor: pointer;
  ${TOUCH} {
    width: ${TARGET};
    height: ${TARGET};
  }
  &::before {
    content: "";
    display: grid;
    place-items: center;
    width: 18px;
    height: 18px;
    border: 1px solid ${color.ink3};
    border-radius: ${radius};
    background: ${color.sheet};
    font: 700 14px/1 ${font.text};
  }
  &:checked::before {
    content: "✓";
    background: ${color.press};
    color: ${color.onPress};
  }
  &:focus-visible {
    outline: none;
  }
  &:focus-visible::before {
    ${focusRing}
  }
`;
