import { keepPreviousData, queryOptions, type UseQueryOptions } from "@tanstack/react-query";
import type { AnswerOf, Route } from "@yosegi/contract";
import { call, type Input } from "./call.ts";

/** Options of a query for a question of the contract; its key is the area, the route, and what it is asked with. */
export function asking<R extends Route>(
  route: R,
  input: Input<R>,
): UseQueryOptions<AnswerOf<R>, Error, AnswerOf<R>, readonly unknown[]> {
  return queryOptions({
    queryKey: [route.area, route.path, route.method, input] as readonly unknown[],
    // What is overtaken by another question, or not looked at any more, is dropped.
    queryFn: ({ signal }) => call(route, input, signal),
  });
}

/** The same, showing the earlier answer while a new one is on its way: for figures that follow while typing. */
export function following<R extends Route>(
  route: R,
  input: Input<R>,
): UseQueryOptions<AnswerOf<R>, Error, AnswerOf<R>, readonly unknown[]> {
  return { ...asking(route, input), placeholderData: keepPreviousData };
}
