import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { type QueryOf, stockRoutes } from "@yosegi/contract";
import { asking, call, usePages } from "../api/index.ts";

const PAGE = 200;

/** Movements page by page, latest first. */
export const useMovementPages = (query: Partial<Omit<QueryOf<typeof stockRoutes.movements>, "before">>) =>
  useInfiniteQuery({
    queryKey: [stockRoutes.movements.area, stockRoutes.movements.path, query],
    queryFn: ({ pageParam, signal }) =>
      call(
        stockRoutes.movements,
        { query: { ...query, limit: PAGE, ...(pageParam > 0 && { before: pageParam }) } },
        signal,
      ),
    initialPageParam: 0,
    getNextPageParam: (page) => (page.movements.length < PAGE ? undefined : page.movements.at(-1)?.id),
  });

/** All stores, archived ones too. */
export const useAllStores = () => useQuery(asking(stockRoutes.stores, {}));

/** Where everything is, or was at the end of a day; "" for today. */
export const useStockPlaces = (search: string, day: string) =>
  usePages(stockRoutes.stockPlaces, { search, ...(day !== "" && { day }) }, (page) => page.items);
