import { useQuery } from "@tanstack/react-query";
import { type BodyOf, returnRoutes } from "@yosegi/contract";
import { asking, following, usePages, useSettled } from "../api/index.ts";

export const useReturns = (search: string) =>
  usePages(returnRoutes.returns, { search }, (page) => page.returns);
export const useReturn = (id: number) => useQuery(asking(returnRoutes.return, { params: { id } }));
/** What a shipment took out of stock, and what of it came back. */
export const useReturnable = (shipment: number) =>
  useQuery(asking(returnRoutes.returnable, { params: { id: shipment } }));

/** What a return would be credited, following what is typed; the earlier answer stays while a figure can't be read. */
export function useReturnPreview(body: BodyOf<typeof returnRoutes.previewReturn>) {
  const { settled, overtaken } = useSettled(body);
  const query = useQuery({
    ...following(returnRoutes.previewReturn, { body: settled }),
    enabled: returnRoutes.previewReturn.body.safeParse(body).success,
    retry: false,
  });
  return { data: query.data, old: overtaken || query.isPlaceholderData };
}
