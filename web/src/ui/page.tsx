import { ChevronLeft } from "lucide-react";
import type { ReactNode } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { useAddress } from "./address.ts";
import { color, NARROW, TARGET } from "./theme.ts";

/** A page of one column. */
export const Page = styled.main`
  --pane-top: 22px;
  container-type: inline-size;
  padding: var(--pane-top) 28px 28px;
  overflow: auto;
  min-height: 0;
  flex: 1;
  display: flex;
  flex-direction: column;
  ${NARROW} {
    --pane-top: 16px;
    padding: 16px;
  }
  @media print {
    overflow: visible;
  }
`;

const Split = styled.main<{ $both: boolean; $open: boolean; $list: string }>`
  display: grid;
  grid-template-columns: ${({ $both, $list }) => ($both ? `${$list} minmax(0, 1fr)` : "minmax(0, 1fr)")};
  min-height: 0;
  flex: 1;
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
    ${({ $both, $open }) => $both && `> ${$open ? ":first-child" : ":last-child"} { display: none; }`}
  }
`;

const ListPane = styled.div`
  min-height: 0;
  min-width: 0;
  display: flex;
  flex-direction: column;
`;

const SheetPane = styled.div`
  --pane-top: 20px;
  container-type: inline-size;
  min-height: 0;
  min-width: 0;
  overflow: auto;
  padding: var(--pane-top) 26px 32px;
  background: ${color.sheet};
  border-left: 1px solid ${color.line};
  ${NARROW} {
    --pane-top: 16px;
    padding: 16px;
    border-left: 0;
  }
`;

export interface SplitPageProps {
  /** null where the sheet takes the whole width. */
  list: ReactNode;
  /** What is open beside the list, or what to do to open something; null leaves the list the whole width. */
  sheet: ReactNode;
  /** Where what is open was opened; null where nothing is. On a narrow screen what is open takes the list's place, and leads back there. */
  back: { to: string; name: string } | null;
  listWidth?: string;
}

/** A list beside a sheet; on a narrow screen the list, then the sheet. */
export function SplitPage({ list, sheet, back, listWidth = "336px" }: SplitPageProps) {
  const { text } = useAddress();
  return (
    <Split $both={list !== null && sheet !== null} $open={back !== null} $list={listWidth}>
      {list !== null && <ListPane>{list}</ListPane>}
      {sheet !== null && (
        <SheetPane>
          {back && (
            <Back to={{ pathname: back.to, search: text }}>
              <ChevronLeft aria-hidden /> {back.name}
            </Back>
          )}
          {sheet}
        </SheetPane>
      )}
    </Split>
  );
}

const Back = styled(Link)`
  display: none;
  ${NARROW} {
    display: inline-flex;
    align-items: center;
    gap: 4px;
    min-height: ${TARGET};
    margin: -12px 0 2px -6px;
    padding-right: 12px;
    font-weight: 600;
    text-decoration: none;
  }
  svg {
    width: 18px;
    height: 18px;
  }
  @media print {
    display: none;
  }
`;

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
