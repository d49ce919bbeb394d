import { useQuery } from "@tanstack/react-query";
import { type BodyOf, type BuildRow, buildRoutes } from "@yosegi/contract";
import type { Day } from "@yosegi/core";
import { asking, following, usePages, useSettled } from "../api/index.ts";

/** Builds page by page. */
export const useBuilds = (query: BuildQuery = {}) =>
  usePages(buildRoutes.builds, query, (page) => page.builds);
/** Open builds of a span of days, or those without a day: as many as a page shows at all. */
export const useOpenBuilds = (query: { from?: Day; until?: Day; undated?: boolean } = {}) =>
  useQuery(following(buildRoutes.builds, { query: { ...query, open: true, limit: MOST } }));

export const useBuild = (id: number) => useQuery(asking(buildRoutes.build, { params: { id } }));

/** What was handed out for a build. */
export const useHandOuts = (id: number) => useQuery(asking(buildRoutes.handOuts, { params: { id } }));

export const useUsedSerials = (id: number) => useQuery(asking(buildRoutes.usedSerials, { params: { id } }));

/** Numbers and place for the next units of a product; 0 asks for none. */
export const useNextNumbers = (product: number) =>
  useQuery({ ...asking(buildRoutes.nextNumbers, { query: { product } }), enabled: product !== 0 });

export const useLinkableOrders = (id: number) =>
  useQuery(asking(buildRoutes.linkableOrders, { params: { id } }));

/** The most rows that an answer has. */
const MOST = 1000;

/** What the list of builds is narrowed to. */
export interface BuildQuery {
  stage?: BuildRow["stage"];
  state?: "overdue" | "blocked" | "ready";
  person?: number;
  product?: number;
  tag?: string;
  search?: string;
}

/**
 * What a finish would take and cost, following what is typed. While a figure cannot be read nothing is asked: the last
 * answer stays, `readable` is false, and `unread` says why at each field. `old`: the answer to the last key is on its way.
 */
export function useFinishPreview(id: number, body: BodyOf<typeof buildRoutes.previewFinish>) {
  const parsed = buildRoutes.previewFinish.body.safeParse(body);
  const { settled, overtaken } = useSettled(body);
  const query = useQuery({
    ...following(buildRoutes.previewFinish, { params: { id }, body: settled }),
    enabled: parsed.success,
    retry: false,
  });
  const unread = (parsed.error?.issues ?? []).map((issue) => ({
    field: issue.path.join("."),
    message: issue.message,
  }));
  const old = overtaken || query.isPlaceholderData;
  return { data: query.data, error: query.error, old, readable: parsed.success, unread };
}
