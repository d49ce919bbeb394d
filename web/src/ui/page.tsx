import type { ReactNode } from "react";
import styled from "styled-components";
import { color, font, NARROW, unseen } from "./theme.ts";

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

export const Row = styled.div<{ $gap?: string }>`
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  gap: ${({ $gap }) => $gap ?? "10px"};
`;

const Heads = styled.div`
  display: flex;
  font-size: 13px;
  font-weight: 600;
  color: ${color.ink2};
  margin-bottom: 3px;
  span {
    flex: none;
  }
  ${NARROW} {
    display: none;
  }
`;

/** Heads over rows of fields whose own labels are only for screen readers. */
export function FieldHeads({
  heads,
  gap = "10px",
}: {
  heads: readonly (readonly [text: string, width: string])[];
  gap?: string;
}) {
  return (
    <Heads aria-hidden style={{ gap }}>
      {heads.map(([text, width]) => (
        <span key={text} style={{ width }}>
          {text}
        </span>
      ))}
    </Heads>
  );
}

/** Buttons in a row at the foot of a form or page. */
export const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin-top: 16px;
  @media print {
    display: none;
  }
`;

/** The quiet line under a title. */
export const Sub = styled.p`
  color: ${color.ink2};
  margin: 2px 0 14px;
  max-width: 60em;
`;

/** Facts side by side: what it is above, what it amounts to below. */
export const Facts = styled.dl`
  display: flex;
  flex-wrap: wrap;
  gap: 10px 26px;
  margin: 10px 0 18px;
  div {
    min-width: 0;
  }
  dt {
    font-size: 13px;
    font-weight: 600;
    color: ${color.ink2};
  }
  dd {
    margin: 0;
  }
`;

/** One of the facts side by side. */
export function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd>{children}</dd>
    </div>
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

/** A message that stands over a form, for what concerns no single field. */
export const Notice = styled.div.attrs<{ role?: "alert" | "status" }>(({ role = "alert" }) => ({ role }))`
  border-left: 5px solid ${color.lacquer};
  background: ${color.sheet};
  padding: 10px 14px;
  margin: 12px 0;
  max-width: 60em;
`;

export const Key = styled.kbd`
  font: 600 12px/1.4 ${font.text};
  border: 1px solid ${color.line};
  border-radius: 3px;
  padding: 0 6px;
  color: ${color.ink2};
  background: ${color.paper};
`;

export const Short = styled.span`
  color: ${color.lacquer};
  font-weight: 700;
`;

/** Said by a screen reader, not shown. */
export const Unseen = styled.span`
  ${unseen}
`;

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

/** Fields under one another. */
export const Stack = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
`;

/** The figure that a sheet is opened for. */
export const Large = styled.b`
  font: 600 20px/1.2 ${font.title};
`;
