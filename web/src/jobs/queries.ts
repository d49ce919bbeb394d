import { useQuery } from "@tanstack/react-query";
import { jobRoutes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

const EVERY = 400;

/** How far a job is, asked again and again until it ends. */
export const useProgress = (job: string) =>
  useQuery({
    ...asking(jobRoutes.jobProgress, { params: { job } }),
    refetchInterval: EVERY,
    gcTime: 0,
  });
