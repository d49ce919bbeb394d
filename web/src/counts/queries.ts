import { useQuery } from "@tanstack/react-query";
import { countsRoutes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

export const useCounts = (search: string) => usePages(countsRoutes.counts, { search }, (page) => page.counts);
/** Which bins to count next. */
export const useCountNext = () => useQuery(asking(countsRoutes.countNext, {}));
export const useCountSheet = (id: number) => useQuery(asking(countsRoutes.countSheet, { params: { id } }));
