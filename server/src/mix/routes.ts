import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveWork } from "../http/index.ts";
import { jobsOf } from "../jobs/index.ts";
import { mixOf } from "./service.ts";

export function mixRoutes(app: FastifyInstance, store: Store): void {
  serveWork(app, routes.mix, ({ body }) => jobsOf(store).run(body.job, (job) => mixOf(store, body, job)));
}
