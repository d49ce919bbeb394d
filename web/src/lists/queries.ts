import { useQuery } from "@tanstack/react-query";
import { listRoutes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useLists = (product: number) => useQuery(asking(listRoutes.lists, { params: { id: product } }));

/** The lines of one revision for an editor: what is being edited must not change under the person's hands. */
export const useRevision = (id: number | undefined) =>
  useQuery({
    ...asking(listRoutes.revision, { params: { id: id ?? 0 } }),
    enabled: id !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  });

/** What differs between two revisions. */
export const useComparison = (from: number, to: number) =>
  useQuery(asking(listRoutes.compareRevisions, { params: { id: to }, query: { with: from } }));
