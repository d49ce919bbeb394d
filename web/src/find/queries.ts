import { useQuery } from "@tanstack/react-query";
import { findRoutes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

/** A day that begins changes what is late, though nobody changed anything. */
const WAITING_REFRESH_MS = 300_000;

/** What waits at each entry of the rail, kept fresh while the page is open. */
export const useWaiting = () =>
  useQuery({ ...asking(findRoutes.waiting, {}), refetchInterval: WAITING_REFRESH_MS });
