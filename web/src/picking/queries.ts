import { useQuery } from "@tanstack/react-query";
import { type PickRound, pickingRoutes } from "@yosegi/contract";
import { useEffect } from "react";
import { asking } from "../api/index.ts";
import { keepRound, keptRound } from "./waiting.ts";

/** What can be picked for, and the rounds that are walked. */
export const usePicks = () => useQuery(asking(pickingRoutes.picks, {}));

/** A round; as it was last seen on this device while the server is away. */
export function useRound(id: number): { data: PickRound | undefined; error: Error | null } {
  const { data, error } = useQuery(asking(pickingRoutes.pickRound, { params: { id } }));
  useEffect(() => {
    if (data) void keepRound(data);
  }, [data]);
  const kept = useQuery({
    queryKey: ["kept", id],
    queryFn: () => keptRound(id),
    networkMode: "always",
    enabled: !data,
    gcTime: 0,
  });
  return { data: data ?? kept.data ?? undefined, error };
}
