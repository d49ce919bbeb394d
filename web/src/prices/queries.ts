import { useQuery } from "@tanstack/react-query";
import { priceRoutes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

/** Products and kits below a margin, the worst first; an empty wish is the one of the last time. */
export const usePrices = (wish: string, search: string) =>
  usePages(priceRoutes.prices, { search, ...(wish !== "" && { wish }) }, (page) => page.rows);
/** Price lists page by page: of groups, then of customers. */
export const usePriceLists = (search: string) =>
  usePages(priceRoutes.priceLists, { search }, (page) => page.lists);
export const usePriceList = (id: number) => useQuery(asking(priceRoutes.priceList, { params: { id } }));
