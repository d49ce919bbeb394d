import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { changePiece, pieceCard, writePieceContents } from "./card.ts";

export function pieceRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.piece, (ctx, { query }) => pieceCard(ctx, query));
  serveCommand(app, store, routes.changePiece, (ctx, { body }) => changePiece(ctx, body));
  serveCommand(app, store, routes.writeContents, (ctx, { body }) => writePieceContents(ctx, body));
}
