import { useQuery } from "@tanstack/react-query";
import { pickingRoutes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

/** What can be picked for, and the rounds that are walked. */
export const usePicks = (search: string, store: string) =>
  usePages(pickingRoutes.picks, { search, store }, (page) => page.picks);
/** What is packed for an order. */
export const usePacked = (id: number) => useQuery(asking(pickingRoutes.packedOrder, { params: { id } }));
/** A round; while the server is away, as it was last seen on this device. */
export const useRound = (id: number) => useQuery(asking(pickingRoutes.pickRound, { params: { id } }));
