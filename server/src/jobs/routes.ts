import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveWork } from "../http/index.ts";
import { jobsOf } from "./jobs.ts";

export function jobRoutes(app: FastifyInstance, store: Store): void {
  const jobs = jobsOf(store);
  serveWork(app, routes.jobProgress, async ({ params }) => ({ progress: jobs.progress(params.job) }));
  serveWork(app, routes.cancelJob, async ({ params }) => ({ cancelled: jobs.cancel(params.job) }));
}
