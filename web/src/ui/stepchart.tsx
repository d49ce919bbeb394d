import { Chart, Filler, LinearScale, LineController, LineElement, PointElement, Tooltip } from "chart.js";
import { Line } from "react-chartjs-2";
import styled from "styled-components";
import { heights } from "./lengths.ts";
import { color, font } from "./theme.ts";
import { useColors } from "./usecolors.ts";

Chart.register(LineController, LineElement, PointElement, LinearScale, Tooltip, Filler);

export interface Step {
  /** Days from today. */
  at: number;
  /** Exact decimal text. */
  value: string;
  /** What a pointer over the step is told, line by line. */
  says: string[];
}

export interface StepChartProps {
  /** What a screen reader hears instead of the picture. */
  says: string;
  steps: readonly Step[];
  /** A line across, such as the reorder level. */
  level: string | null;
  /** The last day the picture shows, in days from today. */
  until: number;
  dayWords: (at: number) => string;
  unit: string;
}

const FONT = { family: font.text, size: 13 };
const NAMES = ["walnut", "lacquer", "zelkova", "ink2", "line"] as const;

/** Stock over days, as steps: each receipt goes up, each need goes down; what is below zero stands out. */
export function StepChart({ says, steps, level, until, dayWords, unit }: StepChartProps) {
  const [walnut = "", lacquer = "", zelkova = "", ink = "", line = ""] = useColors(NAMES);
  const values = heights(steps.map((step) => step.value));
  const points = steps.map((step, i) => ({ x: step.at, y: values[i] ?? 0 }));
  const last = points.at(-1);
  const flat =
    level === null
      ? []
      : heights([level]).flatMap((y) => [
          { x: 0, y },
          { x: until, y },
        ]);
  const tone = (y: number | null | undefined) => ((y ?? 0) < 0 ? lacquer : walnut);
  return (
    <Canvas>
      <Line
        aria-label={says}
        data={{
          datasets: [
            {
              data: last ? [...points, { x: until, y: last.y }] : [],
              stepped: true,
              borderColor: walnut,
              borderWidth: 2.5,
              segment: { borderColor: (ctx) => tone(ctx.p0.parsed.y) },
              pointRadius: (ctx) => (ctx.dataIndex < points.length ? 4 : 0),
              pointBackgroundColor: (ctx) => tone(ctx.parsed?.y),
              pointBorderColor: (ctx) => tone(ctx.parsed?.y),
              pointHitRadius: 12,
              fill: { target: { value: 0 }, above: "transparent", below: `${lacquer}22` },
            },
            {
              data: flat,
              borderColor: zelkova,
              borderWidth: 1.5,
              borderDash: [5, 4],
              pointRadius: 0,
              pointHitRadius: 0,
            },
          ],
        }}
        options={{
          maintainAspectRatio: false,
          animation: false,
          clip: false,
          scales: {
            x: {
              type: "linear",
              min: 0,
              max: until,
              ticks: {
                font: FONT,
                color: ink,
                maxTicksLimit: 7,
                precision: 0,
                callback: (value) => dayWords(Number(value)),
              },
              grid: { display: false },
              border: { color: line },
            },
            y: {
              suggestedMin: 0,
              ticks: { font: FONT, color: ink, maxTicksLimit: 6 },
              grid: { color: (ctx) => (ctx.tick?.value === 0 ? ink : line) },
              border: { display: false },
              title: { display: true, text: unit, color: ink, font: FONT },
            },
          },
          plugins: {
            tooltip: {
              displayColors: false,
              filter: ({ datasetIndex, dataIndex }) => datasetIndex === 0 && dataIndex < steps.length,
              callbacks: {
                title: ([item]) => (item ? dayWords(steps[item.dataIndex]?.at ?? 0) : ""),
                label: ({ dataIndex }) => steps[dataIndex]?.says ?? [],
              },
            },
          },
        }}
      />
    </Canvas>
  );
}

const Canvas = styled.div`
  position: relative;
  height: 230px;
  background: ${color.sheet};
  border: 1px solid ${color.line};
  padding: 10px 12px 6px;
`;
