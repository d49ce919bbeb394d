import { useQuery } from "@tanstack/react-query";
import { type BodyOf, type BuildRow, routes } from "@yosegi/contract";
import { asking, following } from "../api/index.ts";

export const useBuilds = (query: BuildQuery = {}) => useQuery(following(routes.builds, { query }));

export const useBuild = (id: number) => useQuery(asking(routes.build, { params: { id } }));

export const useUsedSerials = (id: number) => useQuery(asking(routes.usedSerials, { params: { id } }));

export const useLinkableOrders = (id: number) => useQuery(asking(routes.linkableOrders, { params: { id } }));

/** What the list of builds is narrowed to. */
export interface BuildQuery {
  stage?: BuildRow["stage"];
  person?: number;
  product?: number;
  tag?: string;
  /** Most of those that have ended. */
  ended?: number | undefined;
}

/**
 * What a finish would take and cost, following what is typed. While a figure cannot be read nothing is asked: the last
 * answer stays, `readable` is false, and `unread` says why at each field.
 */
export function useFinishPreview(id: number, body: BodyOf<typeof routes.previewFinish>) {
  const parsed = routes.previewFinish.body.safeParse(body);
  const query = useQuery({
    ...following(routes.previewFinish, { params: { id }, body }),
    enabled: parsed.success,
    retry: false,
  });
  const unread = (parsed.error?.issues ?? []).map((issue) => ({
    field: issue.path.join("."),
    message: issue.message,
  }));
  return { data: query.data, error: query.error, readable: parsed.success, unread };
}
