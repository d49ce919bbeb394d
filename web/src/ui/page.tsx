import type { ReactNode } from "react";
import styled from "styled-components";
import { color, NARROW } from "./theme.ts";

/** A page of one column. */
export const Page = styled.main`
  padding: 22px 28px 28px;
  overflow: auto;
  min-height: 0;
  flex: 1;
  display: flex;
  flex-direction: column;
  ${NARROW} {
    padding: 16px;
  }
  @media print {
    overflow: visible;
  }
`;

const Split = styled.main<{ $both: boolean; $list: string }>`
  display: grid;
  grid-template-columns: ${({ $both, $list }) => ($both ? `${$list} minmax(0, 1fr)` : "minmax(0, 1fr)")};
  min-height: 0;
  flex: 1;
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
    ${({ $both }) => $both && "> :first-child { display: none; }"}
  }
`;

const ListPane = styled.div`
  min-height: 0;
  min-width: 0;
  display: flex;
  flex-direction: column;
`;

const SheetPane = styled.div`
  min-height: 0;
  min-width: 0;
  overflow: auto;
  padding: 20px 26px 32px;
  background: ${color.sheet};
  border-left: 1px solid ${color.line};
  ${NARROW} {
    padding: 16px;
    border-left: 0;
  }
`;

export interface SplitPageProps {
  /** null where the sheet takes the whole width. */
  list: ReactNode;
  /** What is open beside the list; null for nothing. On a narrow screen it takes the list's place. */
  sheet: ReactNode;
  listWidth?: string;
}

/** A list beside a sheet. */
export function SplitPage({ list, sheet, listWidth = "336px" }: SplitPageProps) {
  return (
    <Split $both={list !== null && sheet !== null} $list={listWidth}>
      {list !== null && <ListPane>{list}</ListPane>}
      {sheet !== null && <SheetPane>{sheet}</SheetPane>}
    </Split>
  );
}

const Blank = styled.main`
  max-width: 38em;
  margin: 8vh auto;
  padding: 0 20px;
  text-align: left;
  p {
    color: ${color.ink2};
    margin: 8px 0 16px;
  }
`;

/** What a page says while there is nothing on it: what it is for, and the first step. */
export function EmptyPage({
  title,
  children,
  action,
}: {
  title: string;
  children: ReactNode;
  action?: ReactNode;
}) {
  return (
    <Blank>
      <h1>{title}</h1>
      <p>{children}</p>
      {action}
    </Blank>
  );
}

const Part = styled.section`
  margin-top: 26px;
  > header {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    align-items: baseline;
    gap: 4px 16px;
    margin-bottom: 6px;
  }
`;

/** A part of a sheet, with its title and where it leads on. */
export function Section({ title, more, children }: { title: string; more?: ReactNode; children: ReactNode }) {
  return (
    <Part>
      <header>
        <h2>{title}</h2>
        {more}
      </header>
      {children}
    </Part>
  );
}
