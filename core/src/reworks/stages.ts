/** How far a piece of work in a rework is. */
export const STEP_STATES = ["waiting", "under way", "done"] as const;
export type StepState = (typeof STEP_STATES)[number];

/** How far a rework is, as its steps say; *done* once its units are out. */
export const REWORK_STATES = ["waiting", "under way", "to finish", "done"] as const;
export type ReworkState = (typeof REWORK_STATES)[number];

/** The state of a rework: *to finish* where it has steps and all of them are done. */
export function reworkState(isOut: boolean, steps: readonly StepState[]): ReworkState {
  if (isOut) return "done";
  if (steps.length > 0 && steps.every((state) => state === "done")) return "to finish";
  return steps.some((state) => state !== "waiting") ? "under way" : "waiting";
}

/** What becomes of a unit: it comes out, as the same item or another; it is scrapped; or good parts are taken out and the rest is scrapped. */
export const REWORK_OUTCOMES = ["good", "scrap", "parts"] as const;
export type ReworkOutcome = (typeof REWORK_OUTCOMES)[number];
