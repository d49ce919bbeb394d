import { ask, askWith } from "./route.ts";
import { z } from "./zod.ts";

/** A name that the caller of long work gives it, to ask for its progress and to stop it. */
export const job = z
  .string()
  .min(1)
  .max(60)
  .meta({ description: "A name of your own, to ask for its progress" });

const one = { params: z.object({ job }) };

export const jobRoutes = {
  jobProgress: ask("/api/jobs/:job", {
    permission: "look",
    summary: "Progress of long work; null where none of this name runs",
    ...one,
    answer: z.object({ progress: z.object({ step: z.string(), done: z.int(), of: z.int() }).nullable() }),
  }),
  cancelJob: askWith("/api/jobs/:job/cancel", {
    permission: "look",
    summary: "Stop long work; nothing of it is written",
    ...one,
    body: z.object({}),
    answer: z.object({ cancelled: z.boolean() }),
  }),
};
