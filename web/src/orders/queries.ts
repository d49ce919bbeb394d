import { useQuery } from "@tanstack/react-query";
import { orderRoutes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

export const useOrders = (search: string, state?: "overdue" | "short") =>
  usePages(orderRoutes.orders, { search, ...(state && { state }) }, (page) => page.orders);
/** What open orders lack that can be built. */
export const useLinesToBuild = () => useQuery(asking(orderRoutes.linesToBuild, {}));
export const useOrder = (id: number) => useQuery(asking(orderRoutes.order, { params: { id } }));
