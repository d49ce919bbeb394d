import { useVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useRef } from "react";
import { NavLink } from "react-router";
import styled from "styled-components";
import { Unseen } from "./layout.tsx";
import { AnswerPart } from "./old.tsx";
import { color } from "./theme.ts";

export interface EntriesProps<Row> {
  label: string;
  filter: ReactNode;
  /** Further filters, above the first group. */
  filters?: ReactNode;
  /** Whether it is the page itself, with nothing open beside it. */
  alone: boolean;
  /** Documents under their headings. */
  groups: ReadonlyMap<string, readonly Row[]>;
  entry: (row: Row, group: string) => ReactNode;
  /** What is listed was asked for before. */
  old: boolean;
  /** What stands below the last one. */
  children: ReactNode;
  /** The last one comes into view. */
  onEnd: (() => void) | null;
}

/** Past this many only those in view are in the page. */
const VIRTUAL_FROM = 60;
const ENTRY_HEIGHT = 58;

/** The list beside a sheet: documents in groups, with a filter above, and light however many there are. */
export function Entries<Row extends { id: number }>({
  label,
  filter,
  filters,
  alone,
  groups,
  entry,
  old,
  children,
  onEnd,
}: EntriesProps<Row>) {
  const pane = useRef<HTMLDivElement>(null);
  const list = useRef<HTMLDivElement>(null);
  const lines = [...groups].flatMap(([group, rows]) => [
    { key: group, group, row: null },
    ...rows.map((row) => ({ key: String(row.id), group, row })),
  ]);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => pane.current,
    estimateSize: () => ENTRY_HEIGHT,
    measureElement: (line) => line.getBoundingClientRect().height,
    getItemKey: (i) => lines[i]?.key ?? i,
    scrollMargin: list.current?.offsetTop ?? 0,
    overscan: 12,
    enabled: lines.length > VIRTUAL_FROM,
  });
  const seen = virtual.getVirtualItems();
  const isVirtual = lines.length > VIRTUAL_FROM && seen.length > 0;
  const [first, last] = isVirtual ? [seen[0]?.index ?? 0, seen.at(-1)?.index ?? 0] : [0, lines.length - 1];
  const margin = virtual.options.scrollMargin;
  const above = isVirtual ? (seen[0]?.start ?? margin) - margin : 0;
  const below = isVirtual ? virtual.getTotalSize() - ((seen.at(-1)?.end ?? margin) - margin) : 0;
  const onScroll = () => {
    const el = pane.current;
    if (el && onEnd && el.scrollHeight - el.scrollTop - el.clientHeight < 8 * ENTRY_HEIGHT) onEnd();
  };
  return (
    <Pane ref={pane} onScroll={onScroll}>
      {alone && <Unseen as="h1">{label}</Unseen>}
      <Bar>{filter}</Bar>
      <nav aria-label={label}>
        {filters}
        <AnswerPart ref={list} $old={old}>
          {above > 0 && <div style={{ height: above }} />}
          {lines.slice(first, last + 1).map(({ key, group, row }, i) => (
            <div key={key} ref={isVirtual ? virtual.measureElement : undefined} data-index={first + i}>
              {row === null ? <Heading $late={group === LATE}>{group}</Heading> : entry(row, group)}
            </div>
          ))}
          {below > 0 && <div style={{ height: below }} />}
        </AnswerPart>
        {children}
      </nav>
    </Pane>
  );
}

/** The heading of documents that are late, which stands out. */
const LATE = "Overdue";

const Pane = styled.div`
  position: relative;
  min-height: 0;
  overflow: auto;
  padding: 14px 0;
  p {
    padding: 0 16px;
    color: ${color.ink2};
  }
`;

const Bar = styled.div`
  display: flex;
  gap: 8px;
  padding: 0 16px 6px;
  > :first-child {
    flex: 1;
  }
`;

const Heading = styled.h2<{ $late: boolean }>`
  font: 650 13px/1.4 "Source Sans 3 Variable", sans-serif;
  letter-spacing: 0;
  margin: 0;
  /* Its height is measured, which a margin is no part of. */
  padding: 12px 20px 4px;
  color: ${({ $late }) => ($late ? color.lacquer : color.ink2)};
`;

/** One document: what it is above, tiles at its end, more of it below. */
export const EntryLink = styled(NavLink)`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 1px 10px;
  align-items: center;
  padding: 8px 16px;
  border-left: 4px solid transparent;
  text-decoration: none;
  b {
    font-weight: 600;
  }
  span {
    grid-column: 1 / -1;
    color: ${color.ink2};
    font-size: 13.5px;
  }
  &:hover {
    background: ${color.sunk};
  }
  &.active {
    background: ${color.sheet};
    border-left-color: ${color.walnut};
  }
  &:focus-visible {
    outline-offset: -2px;
  }
`;
