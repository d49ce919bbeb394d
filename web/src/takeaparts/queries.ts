import { useQuery } from "@tanstack/react-query";
import { type BodyOf, type CoverQuestion, takeApartRoutes } from "@yosegi/contract";
import { asking, following, usePages, useSettled } from "../api/index.ts";

export const useTakeAparts = (search: string) =>
  usePages(takeApartRoutes.takeAparts, { search }, (page) => page.takeAparts);
export const useTakeApart = (id: number) => useQuery(asking(takeApartRoutes.takeApart, { params: { id } }));

/** Which units are taken apart. */
export interface Units {
  item: number;
  lot: string;
  serial: string;
  quantity: string;
  build: number;
  revision: number;
}

/** What the units should hold; not asked while no product or no quantity is known. */
export function useProposal(units: Units) {
  const { settled } = useSettled(units);
  return useQuery({
    ...following(takeApartRoutes.takeApartProposal, { query: settled }),
    enabled: settled.item !== 0 && takeApartRoutes.takeApartProposal.query.safeParse(settled).success,
    retry: false,
  });
}

/** What taking finished products apart would bring of what a check is short of, following what is typed. */
export function useTakeApartWays(question: CoverQuestion) {
  const { settled } = useSettled(question);
  return useQuery({ ...following(takeApartRoutes.takeApartWays, { body: settled }), retry: false });
}

/** Where the value would land, following what is typed; the earlier answer stays while a figure can't be read. */
export function useTakeApartPreview(body: BodyOf<typeof takeApartRoutes.previewTakeApart>) {
  const { settled, overtaken } = useSettled(body);
  const query = useQuery({
    ...following(takeApartRoutes.previewTakeApart, { body: settled }),
    enabled: takeApartRoutes.previewTakeApart.body.safeParse(settled).success,
    retry: false,
  });
  return { data: query.data, old: overtaken || query.isPlaceholderData };
}
