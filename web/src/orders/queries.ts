import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking, following } from "../api/index.ts";

export const useOrders = (ended?: number) => useQuery(following(routes.orders, { query: { ended } }));
export const useOrder = (id: number) => useQuery(asking(routes.order, { params: { id } }));
