import { useQuery } from "@tanstack/react-query";
import { jobRoutes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

const EVERY = 400;

/** The progress of a job, polled until it ends. */
export const useProgress = (job: string) =>
  useQuery({
    ...asking(jobRoutes.jobProgress, { params: { job } }),
    refetchInterval: EVERY,
    gcTime: 0,
  });
