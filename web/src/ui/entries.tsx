import type { ReactNode } from "react";
import { NavLink } from "react-router";
import styled from "styled-components";
import { Unseen } from "./layout.tsx";
import { color } from "./theme.ts";

export interface EntriesProps {
  label: string;
  filter: ReactNode;
  /** Whether it is the page itself, with nothing open beside it. */
  alone: boolean;
  children: ReactNode;
}

/** The list beside a sheet: documents in groups, with a filter above. */
export function Entries({ label, filter, alone, children }: EntriesProps) {
  return (
    <Pane>
      {alone && <Unseen as="h1">{label}</Unseen>}
      <Bar>{filter}</Bar>
      <nav aria-label={label}>{children}</nav>
    </Pane>
  );
}

/** Documents under one heading; what is late stands out. */
export function EntryGroup({
  title,
  late = false,
  children,
}: {
  title: string;
  late?: boolean;
  children: ReactNode;
}) {
  return (
    <section>
      <Heading $late={late}>{title}</Heading>
      {children}
    </section>
  );
}

const Pane = styled.div`
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
  margin: 12px 20px 4px;
  color: ${({ $late }) => ($late ? color.lacquer : color.ink2)};
`;

/** One document: what it is above, tiles at its end, more of it below. */
export const EntryLink = styled(NavLink)`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 1px 10px;
  align-items: center;
  padding: 8px 16px;
  /* A list may be thousands long: what is out of sight is not laid out. */
  content-visibility: auto;
  contain-intrinsic-size: auto 58px;
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
