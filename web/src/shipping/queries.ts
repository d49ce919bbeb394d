import { useQuery } from "@tanstack/react-query";
import { type BodyOf, shippingRoutes } from "@yosegi/contract";
import { asking, following, usePages, useSettled } from "../api/index.ts";

export const useShipments = (search: string) =>
  usePages(shippingRoutes.shipments, { search }, (page) => page.shipments);
/** Orders that can leave complete today, and why the others can't. */
export const useReadyToShip = () => useQuery(asking(shippingRoutes.readyToShip, {}));
export const useShipment = (id: number) => useQuery(asking(shippingRoutes.shipment, { params: { id } }));
export const useOrderShipments = (id: number) =>
  useQuery(asking(shippingRoutes.orderShipments, { params: { id } }));

/** What a shipment would take and bring, following what is typed; the earlier answer stays while a figure can't be read. */
export function useShipPreview(id: number, body: BodyOf<typeof shippingRoutes.previewShipment>) {
  const { settled, overtaken } = useSettled(body);
  const query = useQuery({
    ...following(shippingRoutes.previewShipment, { params: { id }, body: settled }),
    enabled: shippingRoutes.previewShipment.body.safeParse(body).success,
    retry: false,
  });
  return { data: query.data, error: query.error, old: overtaken || query.isPlaceholderData };
}
