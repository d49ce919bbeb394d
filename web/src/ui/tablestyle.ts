import styled from "styled-components";
import { color } from "./theme.ts";

/** The look of every table, also of those laid out by hand. */
export const Table = styled.table`
  width: 100%;
  border-collapse: separate;
  border-spacing: 0;
  background: ${color.sheet};
  th {
    position: sticky;
    top: 0;
    z-index: 1;
    background: ${color.sheet};
    font-size: 13px;
    font-weight: 600;
    text-align: left;
    color: ${color.ink2};
    padding: 8px 10px;
    border-bottom: 1px solid ${color.line};
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
  tbody td:first-child:has(small) {
    min-width: 96px;
  }
  tfoot td {
    position: sticky;
    bottom: 0;
    background: ${color.sheet};
    font-weight: 650;
    border-top: 2px solid ${color.ink2};
    border-bottom: 0;
  }
`;
