import type { ShipmentRow } from "@yosegi/contract";
import { Unanswered } from "../api/index.ts";
import { OrdersNav } from "../nav/index.ts";
import { DocumentPage, EmptyPage, EntryLink, useAddress, useFormat } from "../ui/index.ts";
import { useShipment, useShipments } from "./queries.ts";
import { ShipmentView } from "./shipment.tsx";
import { shipmentGroup } from "./words.ts";

/** What left the house, the latest first, and the shipment that is open. */
export function ShipmentsPage() {
  const format = useFormat();
  const search = useAddress().get("search");
  const { data, error } = useShipments(search);
  if (!data) return <Unanswered error={error} shape="list" />;
  return (
    <DocumentPage
      label="Shipments"
      path="/shipments"
      nav={<OrdersNav />}
      pages={data}
      narrowed={search !== ""}
      empty={
        <EmptyPage title="No shipments yet">
          Ship an order from its sheet: what leaves is listed here.
        </EmptyPage>
      }
      choose="Select a shipment."
      groupOf={(shipment) => shipmentGroup(shipment, format.settings.today)}
      none="No shipments match."
      entry={(shipment, _, kept) => <ShipmentEntry shipment={shipment} search={kept} />}
      sheet={(id) => <OpenShipment id={id} />}
    />
  );
}

function OpenShipment({ id }: { id: number }) {
  const { data, error } = useShipment(id);
  return data ? <ShipmentView shipment={data} /> : <Unanswered error={error} shape="sheet" />;
}

function ShipmentEntry({ shipment, search }: { shipment: ShipmentRow; search: string }) {
  const format = useFormat();
  const { number, order, customer, day, lines, parcels } = shipment;
  return (
    <EntryLink to={{ pathname: `/shipments/${shipment.id}`, search }}>
      <b>{customer.name}</b>
      <span>
        {[
          number,
          order.number,
          format.day(day),
          format.count(lines, "line", "lines"),
          parcels !== null && format.count(parcels, "parcel", "parcels"),
        ]
          .filter(Boolean)
          .join(" · ")}
      </span>
    </EntryLink>
  );
}
