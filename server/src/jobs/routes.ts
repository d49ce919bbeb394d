import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk } from "../http/index.ts";
import { jobsOf } from "./jobs.ts";

export function jobRoutes(app: FastifyInstance, store: Store): void {
  const jobs = jobsOf(store);
  serveAsk(app, store, routes.jobProgress, async (_, { params }) => ({
    progress: jobs.progress(params.job),
  }));
  serveAsk(app, store, routes.cancelJob, async (_, { params }) => ({ cancelled: jobs.cancel(params.job) }));
}
