export const BUILD_STAGES = ["draft", "queued", "finished", "cancelled"] as const;
export type BuildStage = (typeof BUILD_STAGES)[number];

/** What may be done with a build at each stage. */
export const BUILD_STEPS = {
  change: ["draft"],
  queue: ["draft"],
  finish: ["queued"],
  cancel: ["draft", "queued"],
} as const satisfies Record<string, readonly BuildStage[]>;
export type BuildStep = keyof typeof BUILD_STEPS;

export function mayBuild(step: BuildStep, stage: BuildStage): boolean {
  return (BUILD_STEPS[step] as readonly BuildStage[]).includes(stage);
}
