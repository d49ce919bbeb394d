import { Fragment, type ReactNode } from "react";
import { useParams } from "react-router";
import { useAddress } from "./address.ts";
import { Button } from "./button.tsx";
import { Entries, EntryGroup } from "./entries.tsx";
import { TextField } from "./field.tsx";
import { useFormat } from "./format.ts";
import { Key } from "./layout.tsx";
import { AnswerPart } from "./old.tsx";

export interface DocumentsProps<Row> {
  /** What they are, such as "Orders"; the filter is named by it too. */
  label: string;
  /** What is listed so far, found by what is typed above it. */
  rows: readonly Row[];
  total: number;
  /** What is listed was asked for before. */
  old: boolean;
  onMore: (() => void) | null;
  /** The heading it stands under. */
  groupOf: (row: Row) => string;
  /** Further filters, above the first group. */
  filters?: ReactNode;
  /** What is said where nothing is left. */
  none: string;
  onNew: () => void;
  /** One of them; `search` is what the page is asked for, to be kept in the address. */
  children: (row: Row, group: string, search: string) => ReactNode;
}

interface ShowMoreProps {
  listed: number;
  total: number;
  onMore: (() => void) | null;
}

/** Asks for more of a list, where not all of it is there. */
export function ShowMore({ listed, total, onMore }: ShowMoreProps) {
  const format = useFormat();
  if (listed >= total) return null;
  return (
    <p>
      <Button look="link" isDisabled={onMore === null} onPress={() => onMore?.()}>
        Show more ({format.amount(String(total - listed))} left)
      </Button>
    </p>
  );
}

/** Documents of one kind in groups, filtered as one types, beside the one that is open. */
export function Documents<Row extends { id: number }>({
  label,
  rows,
  total,
  old,
  onMore,
  groupOf,
  filters,
  none,
  onNew,
  children,
}: DocumentsProps<Row>) {
  const { id } = useParams();
  const address = useAddress();
  const text = address.get("search");
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
            onChange={(next) => address.set("search", next)}
          />
          <Button onPress={onNew}>
            New <Key>n</Key>
          </Button>
        </>
      }
    >
      {filters}
      <AnswerPart $old={old}>
        {[...Map.groupBy(rows, groupOf)].map(([group, members]) => (
          <EntryGroup key={group} title={group} late={group === "Overdue"}>
            {members.map((row) => (
              <Fragment key={row.id}>{children(row, group, address.text)}</Fragment>
            ))}
          </EntryGroup>
        ))}
        {rows.length === 0 && <p>{none}</p>}
      </AnswerPart>
      <ShowMore listed={rows.length} total={total} onMore={onMore} />
    </Entries>
  );
}
