import { priceRoutes } from "@yosegi/contract";
import { usePages } from "../api/index.ts";

/** Products and kits below a margin, the worst first; an empty wish is the one of the last time. */
export const usePrices = (wish: string, search: string) =>
  usePages(priceRoutes.prices, { search, ...(wish !== "" && { wish }) }, (page) => page.rows);
