import { useQuery } from "@tanstack/react-query";
import { type FirmKind, type QueryOf, routes, type UnitAnswer } from "@yosegi/contract";
import { DIMENSIONS, decimal, type Unit, type Units } from "@yosegi/core";
import { asking, following } from "../api/index.ts";

export type ItemsQuery = Partial<Omit<QueryOf<typeof routes.items>, "after">>;

/** The first items of a search. */
export const useItems = (query: ItemsQuery) => useQuery(following(routes.items, { query }));

/** One item; 0 asks for none. */
export const useItem = (id: number) =>
  useQuery({ ...asking(routes.item, { params: { id } }), enabled: id !== 0 });

/** Stores that stock may go to, with their bins. */
export const useStores = () =>
  useQuery({
    ...asking(routes.stores, {}),
    select: ({ stores }) => ({ stores: stores.filter((store) => !store.archived) }),
  });

/** So many are offered while somebody types. */
const OFFERED = 40;

/** The most that a choice offers. */
const MOST = 1000;

/** The first suppliers or customers of a search. */
export const useFirmSearch = (kind: FirmKind, search: string) =>
  useQuery(following(routes.firms, { query: { kind, search, limit: OFFERED } }));

/** Suppliers or customers, by name. */
export const useFirms = (kind: "supplier" | "customer") =>
  useQuery(asking(routes.firms, { query: { kind, limit: MOST } }));

/** Units of measure by their code; they change so seldom that they are asked for once. */
export function useUnits(): Units {
  const { data } = useQuery({
    ...asking(routes.units, {}),
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
