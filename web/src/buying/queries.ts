import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking, following } from "../api/index.ts";

export const usePurchases = (ended?: number) => useQuery(following(routes.purchases, { query: { ended } }));
export const usePurchase = (id: number) => useQuery(asking(routes.purchase, { params: { id } }));
export const useReorder = (search: string) => useQuery(following(routes.reorder, { query: { search } }));
export const useOutbox = (ended?: number) => useQuery(following(routes.outbox, { query: { ended } }));
export const useMessage = (id: number) => useQuery(asking(routes.outboxMessage, { params: { id } }));
