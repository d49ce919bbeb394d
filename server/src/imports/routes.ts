import { IMPORT_KINDS, LARGEST_FILE, routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { jobsOf } from "../jobs/index.ts";
import { importRuns } from "./runs.ts";
import { checkImport, exportKind, importFiles } from "./service.ts";
import { undoImport } from "./undoing.ts";

// Files of the largest size for a few kinds at once; base64 makes four characters of three bytes.
const IMPORT_LIMIT = (IMPORT_KINDS.length / 2) * 1.5 * LARGEST_FILE;

export function importRoutes(app: FastifyInstance, store: Store): void {
  const jobs = jobsOf(store);
  serveAsk(
    app,
    store,
    routes.checkImport,
    (ctx, { body }) => jobs.run(body.job, (job) => checkImport(ctx, body, job)),
    IMPORT_LIMIT,
  );
  serveCommand(
    app,
    store,
    routes.import,
    (ctx, { body }) => jobs.run(body.job, (job) => importFiles(ctx, body, job)),
    IMPORT_LIMIT,
  );
  serveAsk(app, store, routes.importRuns, async (ctx) => ({ imports: await importRuns(ctx) }));
  serveCommand(app, store, routes.undoImport, (ctx, { params: { id } }) =>
    jobs.run(`undo ${id}`, (job) => undoImport(ctx, id, job)),
  );
  serveBytes(app, store, routes.export, (ctx, { params, query }) => exportKind(ctx, params.kind, query));
}
