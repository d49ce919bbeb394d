import { useQuery } from "@tanstack/react-query";
import { type CoverQuestion, cost, coverRoutes } from "@yosegi/contract";
import { isDay } from "@yosegi/core";
import { asking, following, useSettled } from "../api/index.ts";

/** A question about nothing, where nothing is asked yet. */
export const NOTHING_ASKED: CoverQuestion = { demands: [], store: "", stock: [], incoming: [] };

/** The answer to a question, following while it is typed, and `old` until that to the last key is there; nothing is asked while it cannot be read. */
export function useCover(question: CoverQuestion | null) {
  const { settled, overtaken } = useSettled(question);
  const { data, error, isPlaceholderData } = useQuery({
    ...following(coverRoutes.cover, { body: settled ?? NOTHING_ASKED }),
    enabled: settled !== null,
    retry: false,
  });
  return { data, error, old: overtaken || isPlaceholderData };
}

/** What so many of the product are expected to cost; 0 asks for none. */
export const useExpected = (item: number, quantity: string) =>
  useQuery({
    ...following(coverRoutes.expected, { params: { id: item }, query: { quantity } }),
    enabled: item !== 0,
    retry: false,
  });

/** One part's stock day by day, with what is asked for. */
export const useTimeline = (question: CoverQuestion, item: number) =>
  useQuery(asking(coverRoutes.partTimeline, { body: { ...question, item } }));

export const useSavedChecks = () => useQuery(asking(coverRoutes.savedChecks, {}));

/** How many of the first product could be finished by a day; nothing is asked until it is one. */
export const useMostByDay = (question: CoverQuestion, day: string) =>
  useQuery({
    ...following(coverRoutes.solveByDay, { body: { question, day } }),
    enabled: isDay(day),
    retry: false,
  });

/** How many of the first product a sum buys the parts for; nothing is asked while the sum can't be read. */
export const useMostForSum = (question: CoverQuestion, sum: string) =>
  useQuery({
    ...following(coverRoutes.solveBySum, { body: { question, sum } }),
    enabled: cost.safeParse(sum).success,
    retry: false,
  });
