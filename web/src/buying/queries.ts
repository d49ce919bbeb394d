import { useQuery } from "@tanstack/react-query";
import { buyingRoutes, outboxRoutes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

export const usePurchases = (search: string) =>
  usePages(buyingRoutes.purchases, { search }, (page) => page.purchases);
export const usePurchase = (id: number) => useQuery(asking(buyingRoutes.purchase, { params: { id } }));
export const useReorder = (search: string) => usePages(buyingRoutes.reorder, { search }, (page) => page.rows);
export const useMessages = (search: string) =>
  usePages(outboxRoutes.outbox, { search }, (page) => page.messages);
export const useMessage = (id: number) => useQuery(asking(outboxRoutes.outboxMessage, { params: { id } }));
