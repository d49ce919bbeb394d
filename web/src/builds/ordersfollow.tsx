import { useQuery } from "@tanstack/react-query";
import { type AnswerOf, type BuildSheet, orderRoutes } from "@yosegi/contract";
import { Link } from "react-router";
import { asking, useCommand } from "../api/index.ts";
import { Button, type Format, Notice, Row, sayDone, useFormat } from "../ui/index.ts";

type Offer = AnswerOf<typeof orderRoutes.ordersToFollow>["offers"][number];

/** Orders that could follow a build of theirs: to its day, or to what it gives. Each is changed by a press of its own. */
export function OrdersFollow({ build }: { build: BuildSheet }) {
  const { data } = useQuery(asking(orderRoutes.ordersToFollow, { params: { id: build.id } }));
  return data?.offers.map((offer) => <OrderFollows key={offer.line} offer={offer} build={build} />);
}

function OrderFollows({ offer, build }: { offer: Offer; build: BuildSheet }) {
  const format = useFormat();
  const follow = useCommand(orderRoutes.followBuild, (saved) => sayDone(`${saved.number} changed.`));
  const run = (body: { quantity: string | null; due: string | null }) =>
    void follow.run({ params: { id: offer.id, line: offer.line }, version: offer.version, body });
  return (
    <div>
      {follow.refusal && <Notice>{follow.refusal.message}</Notice>}
      <Row style={{ alignItems: "center" }}>
        <span>
          <Link to={`/orders/${offer.id}`}>{offer.number}</Link> {offerWords(offer, build, format)}
        </span>
        {offer.due && (
          <Button isPending={follow.busy} onPress={() => run({ quantity: null, due: offer.due?.to ?? null })}>
            Move {offer.number} to {format.day(offer.due.to)}
          </Button>
        )}
        {offer.quantity && (
          <Button
            isPending={follow.busy}
            onPress={() => run({ quantity: offer.quantity?.to ?? null, due: null })}
          >
            Change {offer.number} to {format.amount(offer.quantity.to, offer.quantity.unit)}
          </Button>
        )}
      </Row>
    </div>
  );
}

/** Why an order could follow. */
function offerWords({ due, quantity }: Offer, build: BuildSheet, format: Format): string {
  const late = due && `is wanted on ${format.day(due.from ?? "")}, before ${build.number} is due.`;
  const few =
    quantity &&
    `asks for ${format.amount(quantity.from, quantity.unit)}; stock and builds give ${format.amount(quantity.to, quantity.unit)}.`;
  return [late, few].filter(Boolean).join(" It ");
}
