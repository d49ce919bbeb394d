export const BUILD_STAGES = ["draft", "queued", "on the bench", "finished", "cancelled"] as const;
export type BuildStage = (typeof BUILD_STAGES)[number];

/** Stages of a build that is still to be made, and those in which its parts are reserved or handed out. */
export const OPEN_STAGES = ["draft", "queued", "on the bench"] as const satisfies readonly BuildStage[];
export const WORKED_STAGES = ["queued", "on the bench"] as const satisfies readonly BuildStage[];

/** What may be done with a build at each stage. */
export const BUILD_STEPS = {
  change: ["draft"],
  plan: OPEN_STAGES,
  /** Parts that are this build's alone, as long as nothing is handed out. */
  parts: ["draft", "queued"],
  queue: ["draft"],
  unqueue: ["queued"],
  handOut: WORKED_STAGES,
  returnToStock: ["on the bench"],
  finish: WORKED_STAGES,
  undo: [...WORKED_STAGES, "finished"],
  split: OPEN_STAGES,
  join: ["draft"],
  cancel: OPEN_STAGES,
} as const satisfies Record<string, readonly BuildStage[]>;
export type BuildStep = keyof typeof BUILD_STEPS;

export function mayBuild(step: BuildStep, stage: BuildStage): boolean {
  return (BUILD_STEPS[step] as readonly BuildStage[]).includes(stage);
}

export function isOpen(stage: BuildStage): boolean {
  return (OPEN_STAGES as readonly BuildStage[]).includes(stage);
}

export function isWorked(stage: BuildStage): boolean {
  return (WORKED_STAGES as readonly BuildStage[]).includes(stage);
}
