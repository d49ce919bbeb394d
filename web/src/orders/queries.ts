import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useOrders = () => useQuery(asking(routes.orders, {}));
export const useOrder = (id: number) => useQuery(asking(routes.order, { params: { id } }));
