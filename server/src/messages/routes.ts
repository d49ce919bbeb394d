import { LARGEST_LIST, routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { readMessage } from "./reading.ts";
import { customerWords, forgetWords, rememberWords } from "./words.ts";

/** A file is a third larger in base64. */
const READ_LIMIT = 1.5 * LARGEST_LIST;

export function messageRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.readMessage, (ctx, { body }) => readMessage(ctx, body), READ_LIMIT);
  serveAsk(app, store, routes.customerWords, (ctx, { params }) => customerWords(ctx, params.id));
  serveCommand(app, store, routes.rememberWords, async (ctx, { params, body }) => {
    await rememberWords(ctx, params.id, body);
    return customerWords(ctx, params.id);
  });
  serveCommand(app, store, routes.forgetWords, async (ctx, { params, body }) => {
    await forgetWords(ctx, params.id, body.words);
    return customerWords(ctx, params.id);
  });
}
