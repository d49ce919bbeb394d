import { type Decimal, divideUp, max, ZERO } from "../amounts/index.ts";

/** A content of a set, with how much of it is in one and how much came back. */
export interface ReturnedContent {
  item: number;
  per: Decimal;
  returned: Decimal;
}

/** What is missing of the sets that came back: as many sets as it takes for what did, less that. */
export function missingOfSets(contents: readonly ReturnedContent[]): { item: number; quantity: Decimal }[] {
  const sets = contents
    .filter(({ per }) => per.gt(0))
    .map(({ per, returned }) => divideUp(returned, per, 0))
    .reduce(max, ZERO);
  return contents
    .map(({ item, per, returned }) => ({ item, quantity: sets.times(per).minus(returned) }))
    .filter(({ quantity }) => quantity.gt(0));
}
