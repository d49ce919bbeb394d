import { Fragment, type ReactNode } from "react";
import { useParams } from "react-router";
import styled from "styled-components";
import { useAddress } from "./address.ts";
import { Button } from "./button.tsx";
import { Entries } from "./entries.tsx";
import { TextField } from "./field.tsx";
import { useFormat } from "./format.ts";
import { Key } from "./layout.tsx";
import { SplitPage } from "./page.tsx";
import { color } from "./theme.ts";

/** One list of documents, as far as it is listed. */
interface Listed<Row> {
  rows: readonly Row[];
  total: number;
  /** What is listed was asked for before. */
  old: boolean;
  onMore: (() => void) | null;
}

export interface DocumentPageProps<Row> {
  /** What they are, such as "Orders"; the filter is named by it too. */
  label: string;
  /** The address of the list; what is open has its id after it. */
  path: string;
  /** The pages beside this one. */
  nav?: ReactNode;
  /** What is listed so far, found by what is typed above it. */
  pages: Listed<Row>;
  /** Filters are set, so that an empty list does not mean that there are none. */
  narrowed: boolean;
  /** The page while there are none at all. */
  empty: ReactNode;
  /** What is said beside the list while nothing is open. */
  choose: string;
  /** The heading it stands under. */
  groupOf: (row: Row) => string;
  /** Further filters, above the first group. */
  filters?: ReactNode;
  /** What is said where nothing is left. */
  none: string;
  onNew?: () => void;
  /** Further ways to a new one, beside it. */
  moreNew?: ReactNode;
  /** One of them; `search` is what the page is asked for, to be kept in the address. */
  entry: (row: Row, group: string, search: string) => ReactNode;
  /** The sheet of the one that is open. */
  sheet: (id: number) => ReactNode;
  /** Dialogs of the page. */
  children?: ReactNode;
}

/** The page of a kind of documents: their list in groups, filtered as one types, beside the one that is open. */
export function DocumentPage<Row extends { id: number }>({
  nav,
  empty,
  choose,
  sheet,
  children,
  ...list
}: DocumentPageProps<Row>) {
  const { id } = useParams();
  const { pages, narrowed, label, path } = list;
  return (
    <>
      {nav}
      {pages.total === 0 && !narrowed && id === undefined ? (
        empty
      ) : (
        <SplitPage
          list={<Documents {...list} alone={id === undefined} />}
          back={id === undefined ? null : { to: path, name: label }}
          sheet={
            id === undefined ? <Quiet>{choose}</Quiet> : <Fragment key={id}>{sheet(Number(id))}</Fragment>
          }
        />
      )}
      {children}
    </>
  );
}

const Quiet = styled.p`
  color: ${color.ink2};
`;

interface ShowMoreProps {
  listed: number;
  total: number;
  onMore: (() => void) | null;
}

/** Asks for more of a list, where not all of it is loaded. */
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

type DocumentsProps<Row> = Pick<
  DocumentPageProps<Row>,
  "label" | "pages" | "groupOf" | "filters" | "none" | "onNew" | "moreNew" | "entry"
> & { alone: boolean };

function Documents<Row extends { id: number }>({
  label,
  pages: { rows, total, old, onMore },
  groupOf,
  filters,
  none,
  onNew,
  moreNew,
  entry,
  alone,
}: DocumentsProps<Row>) {
  const address = useAddress();
  const text = address.get("search");
  const filter = `Filter ${label.toLowerCase()}`;
  return (
    <Entries
      alone={alone}
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
          {onNew && (
            <Button onPress={onNew}>
              New <Key>n</Key>
            </Button>
          )}
          {moreNew}
        </>
      }
      filters={filters}
      groups={Map.groupBy(rows, groupOf)}
      entry={(row, group) => entry(row, group, address.text)}
      old={old}
      onEnd={onMore}
    >
      {rows.length === 0 && <p>{none}</p>}
      <ShowMore listed={rows.length} total={total} onMore={onMore} />
    </Entries>
  );
}

/** Further filters of a list, side by side. */
export const Filters = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 0 16px 4px;
`;
