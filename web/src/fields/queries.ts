import { useQuery, useQueryClient } from "@tanstack/react-query";
import {
  type AnswerOf,
  type FirmKind,
  firmRoutes,
  itemRoutes,
  itemSheetRoutes,
  type QueryOf,
  stockRoutes,
  type UnitAnswer,
} from "@yosegi/contract";
import { DIMENSIONS, decimal, type Unit, type Units } from "@yosegi/core";
import { asking, following, useSettledSearch } from "../api/index.ts";

export type ItemsQuery = Partial<Omit<QueryOf<typeof itemSheetRoutes.items>, "after">>;

/** The first items of a search. */
export function useItems(query: ItemsQuery) {
  const { settled: search } = useSettledSearch(query.search ?? "");
  return useQuery(following(itemSheetRoutes.items, { query: { ...query, search } }));
}

/** One item; 0 asks for none. */
export const useItem = (id: number) =>
  useQuery({ ...asking(itemSheetRoutes.item, { params: { id } }), enabled: id !== 0 });

const inUse = ({ stores }: AnswerOf<typeof stockRoutes.stores>) => ({
  stores: stores.filter((store) => !store.archived),
});

const askedStores = { ...asking(stockRoutes.stores, {}), select: inUse };

/** Stores that stock may go to, with their bins. */
export const useStores = () => useQuery(askedStores);

/** The same, awaited: a scanner may be faster than the first answer. */
export function useStoresOnceKnown(): () => Promise<ReturnType<typeof inUse>["stores"]> {
  const client = useQueryClient();
  return async () => (await client.query({ ...askedStores, staleTime: "static" })).stores;
}

/** So many are offered while somebody types. */
export const OFFERED = 40;

/** The first suppliers or customers of a search. */
export function useFirmSearch(kind: FirmKind, typed: string) {
  const { settled: search } = useSettledSearch(typed);
  return useQuery(following(firmRoutes.firms, { query: { kind, search, limit: OFFERED } }));
}

/** Units of measure by their code; they change so seldom that they are asked for once. */
export function useUnits(): Units {
  const { data } = useQuery({
    ...asking(itemRoutes.units, {}),
    staleTime: Number.POSITIVE_INFINITY,
    select: unitsOf,
  });
  return data ?? NONE;
}

const NONE: Units = new Map();

function unitsOf({ units }: { units: UnitAnswer[] }): Units {
  const known = units.flatMap((unit): Unit[] => {
    const dimension = DIMENSIONS.find((d) => d === unit.dimension);
    return dimension ? [{ ...unit, dimension, factor: decimal(unit.factor) }] : [];
  });
  return new Map(known.map((unit) => [unit.code, unit]));
}
