import { routes } from "@yosegi/contract";
import { usePages } from "../api/index.ts";
import type { ItemsQuery } from "../fields/index.ts";

/** Items page by page, as the table is scrolled. */
export const useItemPages = (query: ItemsQuery) => usePages(routes.items, query, (page) => page.items);
