import { jobRoutes } from "@yosegi/contract";
import { useState } from "react";
import { ProgressBar } from "react-aria-components";
import styled from "styled-components";
import { call } from "../api/index.ts";
import { Button, color, sayFailed, useFormat } from "../ui/index.ts";
import { useProgress } from "./queries.ts";

/** The progress of a long job, with a button to stop it. A job that ends at once shows nothing. */
export function Progress({ job }: { job: string }) {
  const format = useFormat();
  const [stopping, setStopping] = useState(false);
  const { data } = useProgress(job);
  const progress = data?.progress;
  if (!progress) return null;
  const cancel = () => {
    setStopping(true);
    call(jobRoutes.cancelJob, { params: { job }, body: {} }).catch((error: Error) =>
      sayFailed(error.message),
    );
  };
  return (
    <Line>
      <ProgressBar
        aria-label={progress.step}
        value={progress.done}
        maxValue={progress.of === 0 ? 1 : progress.of}
      >
        {({ percentage = 0 }) => (
          <Bar>
            <i style={{ width: `${percentage}%` }} />
          </Bar>
        )}
      </ProgressBar>
      <span role="status">
        {progress.step}: {format.amount(String(progress.done))} of {format.amount(String(progress.of))}
      </span>
      <Button onPress={cancel} isPending={stopping}>
        Stop
      </Button>
    </Line>
  );
}

const Line = styled.div`
  display: flex;
  gap: 14px;
  align-items: center;
  margin-top: 16px;
`;
const Bar = styled.div`
  width: 260px;
  height: 14px;
  border: 1px solid ${color.line};
  background: ${color.sunk};
  i {
    display: block;
    height: 100%;
    background: ${color.walnut};
  }
`;
