import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

export const useOrders = (search: string) => usePages(routes.orders, { search }, (page) => page.orders);
export const useOrder = (id: number) => useQuery(asking(routes.order, { params: { id } }));
