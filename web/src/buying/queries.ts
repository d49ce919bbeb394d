import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking, following } from "../api/index.ts";

export const usePurchases = () => useQuery(asking(routes.purchases, { query: {} }));
export const usePurchase = (id: number) => useQuery(asking(routes.purchase, { params: { id } }));
export const useReorder = (search: string) => useQuery(following(routes.reorder, { query: { search } }));
export const useOutbox = () => useQuery(asking(routes.outbox, {}));
export const useMessage = (id: number) => useQuery(asking(routes.outboxMessage, { params: { id } }));
