import { LARGEST_ATTACHMENT, routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveBytes, serveCommand } from "../http/index.ts";
import { attachFile, fileContent, removeFile } from "./service.ts";

// Base64 makes four characters of three bytes; with room for a thumbnail and the rest of the body.
const UPLOAD_LIMIT = 1.5 * LARGEST_ATTACHMENT;

export function fileRoutes(app: FastifyInstance, store: Store): void {
  serveBytes(app, store, routes.file, async (ctx, { params, query }) => ({
    ...(await fileContent(ctx, params.id, query.small)),
    // A file never changes: another picture is another file.
    forever: true,
  }));
  serveCommand(app, store, routes.attachFile, (ctx, { body }) => attachFile(ctx, body), UPLOAD_LIMIT);
  serveCommand(app, store, routes.removeFile, async (ctx, { params }) => {
    await removeFile(ctx, params.id);
    return {};
  });
}
