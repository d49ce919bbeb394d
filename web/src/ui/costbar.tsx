import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from "chart.js";
import { Bar } from "react-chartjs-2";
import styled from "styled-components";
import { useFormat } from "./format.ts";
import { lengths } from "./lengths.ts";
import { color } from "./theme.ts";
import { useColors } from "./usecolors.ts";

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

const TONES = ["walnut", "zelkova", "mulberry", "magnolia"] as const;

export interface CostBarProps {
  /** What the cost is of, where it is not plain. */
  of?: string;
  /** Money by the word for it: exact decimal text, not below zero. */
  cost: Record<string, string>;
}

/** What a cost is made of: a stacked bar of wood tones, and the same in words. */
export function CostBar({ of, cost }: CostBarProps) {
  const format = useFormat();
  const tones = useColors(TONES);
  const parts = Object.entries(cost).map(([label, money]) => ({ label, money }));
  const { each, all } = lengths(parts.map(({ money }) => money));
  const data = {
    labels: [""],
    datasets: parts.map(({ label }, i) => ({
      label,
      data: [each[i] ?? 0],
      backgroundColor: tones[i % tones.length] ?? "",
    })),
  };
  return (
    <div>
      <Canvas aria-hidden>
        <Bar
          data={data}
          options={{
            indexAxis: "y",
            maintainAspectRatio: false,
            animation: false,
            scales: {
              x: { stacked: true, display: false, max: all || 1 },
              y: { stacked: true, display: false },
            },
            datasets: { bar: { barPercentage: 1, categoryPercentage: 1 } },
            plugins: {
              tooltip: {
                displayColors: false,
                callbacks: {
                  label: ({ datasetIndex }) => {
                    const part = parts[datasetIndex];
                    return part ? `${part.label} ${format.money(part.money)}` : "";
                  },
                },
              },
            },
          }}
        />
      </Canvas>
      <Caption>
        {of && <b>{of}</b>}
        {parts.map((part, i) => (
          <span key={part.label}>
            <i style={{ background: `var(--${TONES[i % TONES.length]})` }} aria-hidden />
            {part.label} {format.money(part.money)}
          </span>
        ))}
      </Caption>
    </div>
  );
}

const Canvas = styled.div`
  position: relative;
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
