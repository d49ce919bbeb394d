import { useInfiniteQuery } from "@tanstack/react-query";
import type { AnswerOf, QueryOf, Route } from "@yosegi/contract";
import { call, type Input } from "./call.ts";
import { useSettledSearch } from "./settled.ts";

/** A route that answers page by page. */
type PagedRoute = Route & { query: { _output: { after?: string | undefined; limit: number } } };

/** What of a list is on the page so far, and how to get more of it. */
export interface Pages<R extends Route, Row> {
  rows: Row[];
  /** How many there are, listed or not. */
  total: number;
  /** The first page's answer. */
  first: AnswerOf<R>;
  /** What is shown was asked for before: what is asked for now is on its way. */
  old: boolean;
  /** Asks for the next page; null where all is listed, or while it is asked. */
  onMore: (() => void) | null;
}

const PAGE = 100;

/** A list page by page, as it is scrolled or asked for; the last answer stays while another search is under way. */
export function usePages<R extends PagedRoute, Row>(
  route: R,
  query: Partial<Omit<QueryOf<R>, "after" | "limit">>,
  rowsOf: (answer: AnswerOf<R>) => Row[],
): { data: Pages<R, Row> | undefined; error: Error | null } {
  const typed = "search" in query ? String(query.search) : "";
  const { settled, overtaken } = useSettledSearch(typed);
  const asked = "search" in query ? { ...query, search: settled } : query;
  const pages = useInfiniteQuery({
    queryKey: [route.area, route.path, "pages", asked],
    queryFn: ({ pageParam, signal }) =>
      call(
        route,
        {
          query: { ...asked, limit: PAGE, ...(pageParam !== "" && { after: pageParam }) },
        } as unknown as Input<R>,
        signal,
      ),
    initialPageParam: "",
    getNextPageParam: (page: AnswerOf<R>) => (page as { next: string | null }).next ?? undefined,
    placeholderData: (before) => before,
  });
  const first = pages.data?.pages[0];
  if (first === undefined) return { data: undefined, error: pages.error };
  return {
    data: {
      rows: (pages.data?.pages ?? []).flatMap(rowsOf),
      total: (first as { total: number }).total,
      first,
      old: overtaken || pages.isPlaceholderData,
      onMore: pages.hasNextPage && !pages.isFetchingNextPage ? () => void pages.fetchNextPage() : null,
    },
    error: pages.error,
  };
}
