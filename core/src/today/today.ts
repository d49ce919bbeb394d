import { compareDays, type Day } from "../amounts/index.ts";
import type { BuildStage } from "../builds/index.ts";

/** What can be done next with a document: its one next step. */
export const NEXT_STEPS = [
  "queue",
  "pick",
  "finish",
  "ship",
  "send",
  "receive",
  "count",
  "inspect",
  "work",
  "look",
] as const;
export type NextStep = (typeof NEXT_STEPS)[number];

/** A step, and by when it is needed; null where nobody said. */
export interface Due {
  step: NextStep;
  day: Day | null;
}

export interface BuildToDo {
  stage: BuildStage;
  due: Day | null;
  start: Day | null;
  /** It waits for parts. */
  blocked: boolean;
  /** Parts are still to be handed out before the work. */
  toHandOut: boolean;
}

/** What comes next for an open build: what it begins with is needed by its start day, its finish by its due day. */
export function buildNext({ stage, due, start, blocked, toHandOut }: BuildToDo): Due {
  const begin = start ?? due;
  if (stage === "draft") return { step: "queue", day: begin };
  if (blocked) return { step: "look", day: begin };
  return toHandOut ? { step: "pick", day: begin } : { step: "finish", day: due };
}

export interface OrderToDo {
  due: Day | null;
  /** Open lines, and those of which all is in stock. */
  lines: number;
  linesReady: number;
  /** Something that is in stock for it is not packed yet. */
  toPack: boolean;
}

/** What comes next for an open order: it is packed and shipped once all of it is there, and looked at before. */
export function orderNext({ due, lines, linesReady, toPack }: OrderToDo): Due {
  if (linesReady < lines) return { step: "look", day: due };
  return { step: toPack ? "pick" : "ship", day: due };
}

/** What comes next for a purchase order that has not ended; a draft is to be sent today. */
export const purchaseNext = (isDraft: boolean, expected: Day | null, today: Day): Due =>
  isDraft ? { step: "send", day: today } : { step: "receive", day: expected };

export interface ReworkToDo {
  due: Day | null;
  /** Its steps that are not done, the next one first. */
  steps: readonly { due: Day | null }[];
}

/** What comes next for an open rework: its next step by when that is due, else by when the rework is; then its finish. */
export const reworkNext = ({ due, steps: [next] }: ReworkToDo): Due =>
  next ? { step: "work", day: next.due ?? due } : { step: "finish", day: due };

/** By when it is needed, undated last; then what is done before what is only looked at. */
export const byNeed = (a: Due, b: Due): number =>
  compareDays(a.day, b.day) || Number(a.step === "look") - Number(b.step === "look");
