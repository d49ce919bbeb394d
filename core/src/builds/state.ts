import type { Day } from "../amounts/index.ts";
import { type BuildStage, isOpen, isWorked } from "./stages.ts";

export interface BuildState {
  /** Its due day is past. */
  overdue: boolean;
  /** It should have been begun: its start day is past and nothing of it is handed out or made. */
  late: boolean;
  /** All it still has to take is there, in its turn. */
  ready: boolean;
  /** It is queued or on the bench and cannot get all it needs. */
  blocked: boolean;
}

/** Where a build stands today; `waits` says whether it cannot get enough of a part in its turn. */
export function buildState(
  build: { stage: BuildStage; due: Day | null; start: Day | null; begun: boolean },
  waits: boolean,
  today: Day,
): BuildState {
  const open = isOpen(build.stage);
  const worked = isWorked(build.stage);
  const overdue = open && build.due !== null && build.due < today;
  return {
    overdue,
    late: open && !overdue && !build.begun && build.start !== null && build.start < today,
    ready: worked && !waits,
    blocked: worked && waits,
  };
}
