import { useQuery } from "@tanstack/react-query";
import { itemSheetRoutes, stockRoutes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";
import type { ItemsQuery } from "../fields/index.ts";

/** Items page by page, as the table is scrolled. */
export const useItemPages = (query: ItemsQuery) =>
  usePages(itemSheetRoutes.items, query, (page) => page.items);

const LAST = 8;

/** The newest movements of an item. */
export const useLastMovements = (item: number) =>
  useQuery(asking(stockRoutes.movements, { query: { item, limit: LAST } }));

export const useUses = (item: number) =>
  useQuery(asking(itemSheetRoutes.whereUsed, { params: { id: item } }));
