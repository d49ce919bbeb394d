import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

export const usePurchases = (search: string) =>
  usePages(routes.purchases, { search }, (page) => page.purchases);
export const usePurchase = (id: number) => useQuery(asking(routes.purchase, { params: { id } }));
export const useReorder = (search: string) => usePages(routes.reorder, { search }, (page) => page.rows);
export const useMessages = (search: string) => usePages(routes.outbox, { search }, (page) => page.messages);
export const useMessage = (id: number) => useQuery(asking(routes.outboxMessage, { params: { id } }));
