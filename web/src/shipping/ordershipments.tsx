import type { AnswerOf, OrderSheet, shippingRoutes } from "@yosegi/contract";
import { Link } from "react-router";
import { Section, SheetTable, useFormat } from "../ui/index.ts";
import { useOrderShipments } from "./queries.ts";
import { marginWords } from "./words.ts";

/** The shipments of an order, and what they earned; nothing while there is none. */
export function OrderShipments({ order }: { order: Pick<OrderSheet, "id" | "number"> }) {
  const format = useFormat();
  const { data } = useOrderShipments(order.id);
  if (!data) return null;
  const [message] = data.messages.slice(-1);
  return (
    <>
      {message && (
        <p>
          <Link to={`/outbox/${message.id}`}>{message.subject}</Link>{" "}
          {message.sent ? `sent ${format.moment(message.sent)}` : "in the outbox, not marked sent"}
        </p>
      )}
      {data.shipments.length > 0 && <Shipments data={data} />}
    </>
  );
}

function Shipments({ data }: { data: AnswerOf<typeof shippingRoutes.orderShipments> }) {
  const format = useFormat();
  return (
    <Section title="Shipments">
      <SheetTable
        label="Shipments"
        rows={data.shipments}
        rowId={(shipment) => shipment.id}
        columns={[
          {
            header: "Shipment",
            cell: (shipment) => (
              <>
                <Link to={`/shipments/${shipment.id}`}>{shipment.number}</Link>
                {shipment.undone && <small>undone</small>}
              </>
            ),
          },
          { header: "Shipped on", cell: ({ day }) => format.day(day) },
          {
            header: "What left",
            cell: ({ shipped }) =>
              format.list(
                shipped.map(({ item, units }) =>
                  units === "0"
                    ? `pieces of ${item.code}`
                    : `${format.amount(units, item.unit)} ${item.code}`,
                ),
              ),
          },
          { header: "Revenue", end: true, cell: ({ revenue }) => format.money(revenue) },
          { header: "Cost", end: true, cell: ({ cost }) => format.money(cost) },
          { header: "Margin", end: true, cell: ({ margin }) => format.money(margin) },
        ]}
        sum={{ words: `Shipped for ${format.money(data.revenue)}`, figure: marginWords(data, format) }}
      />
    </Section>
  );
}
