import { type BodyOf, PLAIN_FINISH, type routes } from "@yosegi/contract";

/** The day on which every stress happens. */
export const DAY = "2026-11-23";

/** A finish of so many as planned. */
export const plainFinish = (good: string): BodyOf<typeof routes.finishBuild> => ({
  ...PLAIN_FINISH,
  good,
  day: DAY,
  store: "Front store",
  bin: "02-A",
});
