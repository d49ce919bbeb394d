import { useInfiniteQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { call } from "../api/index.ts";
import type { ItemsQuery } from "../fields/index.ts";

const PAGE = 100;

/** Items page by page, as the table is scrolled. */
export const useItemPages = (query: ItemsQuery) =>
  useInfiniteQuery({
    queryKey: [routes.items.path, "pages", query],
    queryFn: ({ pageParam }) =>
      call(routes.items, { query: { ...query, limit: PAGE, ...(pageParam !== "" && { after: pageParam }) } }),
    initialPageParam: "",
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: (before) => before,
  });
