import { useQuery } from "@tanstack/react-query";
import { type QueryOf, traceRoutes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

type Piece = Pick<QueryOf<typeof traceRoutes.trace>, "item" | "lot" | "serial">;

/** Where a lot or serial number went, or what went into it. */
export const useTrace = (piece: Piece, direction: "forward" | "backward") =>
  useQuery({ ...asking(traceRoutes.trace, { query: { ...piece, direction } }), enabled: piece.item > 0 });
