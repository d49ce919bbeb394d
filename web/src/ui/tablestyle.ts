import styled, { css, type RuleSet } from "styled-components";
import { ownLabels } from "./field.tsx";
import { color, NARROW, TARGET, unseen } from "./theme.ts";

/** The look of every table, also of those laid out by hand. */
export const Table = styled.table`
  width: 100%;
  border-collapse: separate;
  border-spacing: 0;
  background: ${color.sheet};
  th,
  thead td {
    position: sticky;
    /* Up to the edge of the pane it scrolls in, over that one's padding. */
    top: calc(-1 * var(--pane-top, 0px));
    z-index: 2;
    background: ${color.sheet};
    border-bottom: 1px solid ${color.line};
  }
  th {
    font-size: 13px;
    font-weight: 600;
    text-align: left;
    color: ${color.ink2};
    padding: 8px 10px;
    white-space: nowrap;
  }
  td {
    padding: 8px 10px;
    border-bottom: 1px solid ${color.line};
    vertical-align: middle;
  }
  tbody tr:last-child td {
    border-bottom: 0;
  }
  td.end,
  th.end {
    text-align: right;
    white-space: nowrap;
  }
  /* Above the link that covers its row. */
  tbody td.select {
    position: relative;
    z-index: 1;
  }
  td.select {
    width: 44px;
    padding-block: 0;
  }
  td.empty {
    padding: 28px;
    color: ${color.ink2};
    text-align: center;
  }
  td small {
    display: block;
    color: ${color.ink2};
    font-size: 13px;
  }
  td:first-child,
  th:first-child {
    padding-left: 14px;
  }
  tbody td:first-child > small {
    min-width: 82px;
  }
  tfoot td {
    position: sticky;
    bottom: 0;
    z-index: 2;
    background: ${color.sheet};
    font-weight: 650;
    border-top: 2px solid ${color.ink2};
    border-bottom: 0;
  }
`;

const folded = css`
  ${ownLabels}
  &,
  tbody,
  tfoot {
    display: block;
  }
  thead tr {
    display: flex;
    flex-wrap: wrap;
    gap: 0 16px;
  }
  th,
  thead td {
    position: static;
    border: 0;
    padding: 0 0 0 14px;
  }
  th:not([data-sorts]),
  thead td:not(.select) {
    ${unseen}
  }
  th button {
    min-height: ${TARGET};
  }
  tbody tr,
  tfoot tr {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(104px, 1fr));
    gap: 8px 12px;
    padding: 12px 14px;
    border-bottom: 1px solid ${color.line};
  }
  && td {
    padding: 0;
    border: 0;
    min-width: 0;
    width: auto;
    text-align: left;
    white-space: normal;
    overflow-wrap: anywhere;
    background: none;
  }
  && td:empty {
    display: none;
  }
  && td[colspan],
  && td:first-child {
    grid-column: 1 / -1;
  }
  td[data-head]:not([data-head=""], :first-child)::before {
    content: attr(data-head);
    display: block;
    font-size: 13px;
    font-weight: 600;
    color: ${color.ink2};
  }
  && tbody td.select {
    position: absolute;
    top: 4px;
    right: 8px;
  }
  && td.select + td {
    grid-column: 1 / -1;
    padding-right: 52px;
  }
  td.select + td[data-head]::before {
    display: none;
  }
  tfoot td {
    position: static;
  }
`;

/** What a column of figures with its unit needs, px. */
const COLUMN_WIDTH = 84;

/** Where there is less room than so many columns need: on a narrow screen, or beside a list on a tablet. */
export const tight = (columns: number, then: RuleSet<object>) => css`
  ${NARROW} {
    ${then}
  }
  @container (max-width: ${columns * COLUMN_WIDTH}px) {
    ${then}
  }
`;

/**
 * How a cell says in a card which column it is of; a field says it by its own label. No rule asks what a cell holds (":has"): in a
 * long list that is asked of every cell again at every key.
 */
export const cellHead = ({ header, isField = false }: { header: string; isField?: boolean }) =>
  isField ? undefined : header;

/**
 * Where its columns have no room each row of a table stands as a card: its first cell across, the others side by side, each named
 * by its column, which it carries as `data-head`. Of the header stays what sorts.
 */
export const cards = (columns: number) => tight(columns, folded);
