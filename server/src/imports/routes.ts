import { LARGEST_FILE, routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { checkImport, importFiles } from "./service.ts";

// Three files of the largest size, with room for what JSON escapes in them.
const IMPORT_LIMIT = 4 * LARGEST_FILE;

export function importRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.checkImport, (ctx, { body }) => checkImport(ctx, body), IMPORT_LIMIT);
  serveCommand(app, store, routes.import, (ctx, { body }) => importFiles(ctx, body), IMPORT_LIMIT);
}
