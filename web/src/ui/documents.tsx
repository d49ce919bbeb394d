import { Fragment, type ReactNode } from "react";
import { useParams } from "react-router";
import { useAsked } from "./asked.ts";
import { Button } from "./button.tsx";
import { Entries, EntryGroup } from "./entries.tsx";
import { TextField } from "./field.tsx";
import { useFormat } from "./format.ts";
import { Key } from "./layout.tsx";

export interface DocumentsProps<Row> {
  /** What they are, such as "Orders"; the filter is named by it too. */
  label: string;
  rows: readonly Row[];
  /** What the filter looks in. */
  textOf: (row: Row) => string;
  /** The heading it stands under. */
  groupOf: (row: Row) => string;
  /** Further filters, above the first group. */
  filters?: ReactNode;
  /** How many have ended in all, and how many of them are among the rows. */
  ended: EndedProps;
  /** What is said where nothing is left. */
  none: string;
  onNew: () => void;
  /** One of them; `search` is what the page is asked for, to be kept in the address. */
  children: (row: Row, group: string, search: string) => ReactNode;
}

export interface EndedProps {
  listed: number;
  all: number;
}

/** Name in the address of how many that have ended are asked for. */
const ENDED = "ended";

/** So many more are listed by one press. */
const MORE = 100;

/** How many documents that have ended the address asks for; undefined: as many as are listed anyway. */
export function useEnded(): number | undefined {
  const number = Number(useAsked().get(ENDED));
  return Number.isInteger(number) && number > 0 ? number : undefined;
}

/** Asks for more of what has ended, where not all of it is listed. */
export function MoreEnded({ listed, all }: EndedProps) {
  const asked = useAsked();
  const format = useFormat();
  if (listed >= all) return null;
  return (
    <Button look="link" onPress={() => asked.set(ENDED, String(listed + MORE))}>
      {format.amount(String(all - listed))} older ones: show more
    </Button>
  );
}

/** Documents of one kind in groups, filtered as one types, beside the one that is open. */
export function Documents<Row extends { id: number }>({
  label,
  rows,
  textOf,
  groupOf,
  filters,
  ended,
  none,
  onNew,
  children,
}: DocumentsProps<Row>) {
  const { id } = useParams();
  const asked = useAsked();
  const text = asked.get("search");
  const wanted = text.trim().toLowerCase();
  const shown = rows.filter((row) => textOf(row).toLowerCase().includes(wanted));
  const filter = `Filter ${label.toLowerCase()}`;
  return (
    <Entries
      alone={id === undefined}
      label={label}
      filter={
        <>
          <TextField
            label={filter}
            hideLabel
            placeholder={filter}
            value={text}
            onChange={(next) => asked.set("search", next)}
          />
          <Button onPress={onNew}>
            New <Key>n</Key>
          </Button>
        </>
      }
    >
      {filters}
      {[...Map.groupBy(shown, groupOf)].map(([group, members]) => (
        <EntryGroup key={group} title={group} late={group === "Overdue"}>
          {members.map((row) => (
            <Fragment key={row.id}>{children(row, group, asked.text)}</Fragment>
          ))}
        </EntryGroup>
      ))}
      {shown.length === 0 && <p>{none}</p>}
      <MoreEnded {...ended} />
    </Entries>
  );
}
