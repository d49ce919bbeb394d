import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { NoAnswer, Refused } from "./call.ts";
import { refresh } from "./refresh.ts";

/** What became of one of several documents; `why` is null where the step was done. */
export interface StepResult {
  id: number;
  number: string;
  why: string | null;
  done: string;
}

/** What is done to each of several documents; `run` gives null, or why it can't be done. */
export interface Step<Row> {
  run: (row: Row) => Promise<string | null>;
  /** What is said of one where it was done. */
  done: string;
}

/** Does a step to several documents one after the other, each by itself: what can't be done is named and keeps none of the others back. */
export function useOneByOne<Row extends { id: number; number: string }>() {
  const client = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [results, setResults] = useState<StepResult[]>([]);
  /** Gives what became of each. */
  const doAll = async (rows: readonly Row[], step: Step<Row>): Promise<StepResult[]> => {
    setBusy(true);
    const done: StepResult[] = [];
    for (const row of rows) {
      const why = await refusalOf(() => step.run(row));
      done.push({ id: row.id, number: row.number, why, done: step.done });
      setResults([...done]);
    }
    await refresh(client, null);
    setBusy(false);
    return done;
  };
  return { doAll, busy, results };
}

/** Why a step is refused; null where it was done. */
async function refusalOf(step: () => Promise<string | null>): Promise<string | null> {
  try {
    return await step();
  } catch (error) {
    if (error instanceof Refused || error instanceof NoAnswer) return error.message;
    throw error;
  }
}
