import { useQuery } from "@tanstack/react-query";
import { orderRoutes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

export const useOrders = (search: string) => usePages(orderRoutes.orders, { search }, (page) => page.orders);
export const useOrder = (id: number) => useQuery(asking(orderRoutes.order, { params: { id } }));
