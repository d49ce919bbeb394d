import styled from "styled-components";
import { useFormat } from "./format.ts";
import { lengths } from "./lengths.ts";
import { color } from "./theme.ts";

const TONES = [color.walnut, color.zelkova, color.mulberry, color.magnolia];
const toneOf = (i: number) => TONES[i % TONES.length] ?? color.walnut;

export interface CostBarProps {
  /** What the cost is of, where it is not plain. */
  of?: string;
  /** Money by the word for it: exact decimal text, not below zero. */
  cost: Record<string, string>;
}

/** What a cost is made of: a stacked bar of wood tones, and the same in words. */
export function CostBar({ of, cost }: CostBarProps) {
  const format = useFormat();
  const parts = Object.entries(cost).map(([label, money]) => ({ label, money }));
  const { each } = lengths(parts.map(({ money }) => money));
  return (
    <div>
      <Bar aria-hidden>
        {parts.map(({ label, money }, i) => (
          <i
            key={label}
            title={`${label} ${format.money(money)}`}
            style={{ flexGrow: each[i], background: toneOf(i) }}
          />
        ))}
      </Bar>
      <Caption>
        {of && <b>{of}</b>}
        {parts.map(({ label, money }, i) => (
          <span key={label}>
            <i style={{ background: toneOf(i) }} aria-hidden />
            {label} {format.money(money)}
          </span>
        ))}
      </Caption>
    </div>
  );
}

const Bar = styled.div`
  display: flex;
  height: 24px;
  margin: 6px 0 4px;
  border: 1px solid ${color.line};
  background: ${color.sunk};
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
