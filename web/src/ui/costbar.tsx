import styled from "styled-components";
import { useFormat } from "./format.ts";
import { color } from "./theme.ts";

const TONES = [color.walnut, color.zelkova, color.mulberry, color.magnolia];

export interface CostBarProps {
  /** What the cost is of, where it is not plain. */
  of?: string;
  /** Money by the word for it: exact decimal text, not below zero. */
  cost: Record<string, string>;
}

/** What a cost is made of: a bar of wood tones, and the same in words. */
export function CostBar({ of, cost }: CostBarProps) {
  const format = useFormat();
  const parts = Object.entries(cost).map(([label, money]) => ({ label, money }));
  return (
    <div>
      <Bar aria-hidden>
        {parts.map((part, i) => (
          <i key={part.label} style={{ flexGrow: part.money, background: TONES[i % TONES.length] }} />
        ))}
      </Bar>
      <Caption>
        {of && <b>{of}</b>}
        {parts.map((part, i) => (
          <span key={part.label}>
            <i style={{ background: TONES[i % TONES.length] }} aria-hidden />
            {part.label} {format.money(part.money)}
          </span>
        ))}
      </Caption>
    </div>
  );
}

const Bar = styled.div`
  display: flex;
  height: 22px;
  margin: 6px 0 4px;
  border: 1px solid ${color.line};
  background: ${color.sunk};
  i {
    flex: 0 0 0;
    min-width: 0;
  }
`;

const Caption = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  font-size: 13px;
  color: ${color.ink2};
  i {
    display: inline-block;
    width: 11px;
    height: 11px;
    margin-right: 6px;
  }
`;
