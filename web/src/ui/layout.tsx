import { Children, type CSSProperties, type ReactNode, useState } from "react";
import styled from "styled-components";
import { useNarrow } from "./narrow.ts";
import { color, font, NARROW, TARGET, TOUCH, unseen } from "./theme.ts";

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

const Group = styled.fieldset`
  border: 0;
  margin: 0;
  padding: 0;
  legend {
    padding: 0;
    font-size: 13px;
    font-weight: 600;
    color: ${color.ink2};
  }
`;

/** Ticks that belong together, under what they are about. */
export function Choices({ legend, children }: { legend: string; children: ReactNode }) {
  return (
    <Group>
      <legend>{legend}</legend>
      <Row>{children}</Row>
    </Group>
  );
}

/** Buttons in a row at the foot of a form or page. */
export const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin-top: 16px;
  ${TOUCH} {
    a {
      display: inline-flex;
      align-items: center;
      min-height: ${TARGET};
    }
  }
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

const List = styled.dl<{ $most: number | null }>`
  display: flex;
  ${({ $most }) => $most !== null && `> :nth-child(n + ${$most + 1}) { display: none; }`}
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

export interface FactsProps {
  style?: CSSProperties;
  children: ReactNode;
}

/** So many facts stand before the next step on a narrow screen. */
const FIRST_FACTS = 4;

/** Facts side by side: what it is above, what it amounts to below. Of many, a narrow screen shows the first; the others unfold. */
export function Facts({ children, ...props }: FactsProps) {
  const narrow = useNarrow();
  const [all, setAll] = useState(false);
  const folds = narrow && Children.toArray(children).length > FIRST_FACTS;
  return (
    <>
      <List {...props} $most={folds && !all ? FIRST_FACTS : null}>
        {children}
      </List>
      {folds && (
        <Unfold aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Fewer details" : "All details"}
        </Unfold>
      )}
    </>
  );
}

const Unfold = styled.button.attrs({ type: "button" })`
  display: block;
  min-height: ${TARGET};
  margin: -16px 0 4px;
  padding: 0;
  border: 0;
  background: none;
  color: ${color.ink2};
  font: 600 13px/1.4 ${font.text};
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
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

/** A message that stands over a form, for what concerns no single field. */
export const Notice = styled.div.attrs<{ role?: "alert" | "status" }>(({ role = "alert" }) => ({ role }))`
  border-left: 5px solid ${color.lacquer};
  background: ${color.sheet};
  padding: 10px 14px;
  margin: 12px 0;
  max-width: 60em;
`;

export const Key = styled.kbd`
  ${TOUCH} {
    display: none;
  }
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

/** Text as a person wrote it, with its line breaks. */
export const Written = styled.p`
  white-space: pre-line;
  max-width: 46em;
  margin: 8px 0 12px;
`;
