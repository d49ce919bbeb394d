import { lazy, Suspense } from "react";
import styled from "styled-components";
import type { StepChartProps } from "./stepchart.tsx";
import { color } from "./theme.ts";

export type { Step } from "./stepchart.tsx";

const Drawn = lazy(async () => ({ default: (await import("./stepchart.tsx")).StepChart }));

/** Stock over days, as steps. What draws it is loaded when one is shown. */
export const StepChart = (props: StepChartProps) => (
  <Suspense fallback={<Shape aria-hidden />}>
    <Drawn {...props} />
  </Suspense>
);

const Shape = styled.div`
  height: 230px;
  background: ${color.sunk};
`;
