import { type AnswerOf, type OrderSheet, orderRoutes } from "@yosegi/contract";
import { useCommand } from "../api/index.ts";
import { Actions, Button, type Format, Notice, sayDone, useFormat } from "../ui/index.ts";

export type Offer = AnswerOf<typeof orderRoutes.changeOrder>["offers"][number];

interface OffersFormProps {
  order: OrderSheet;
  offers: readonly Offer[];
  /** The build that was changed. */
  onDone: (build: number) => void;
  onClose: () => void;
}

/** How builds could follow the change of their order, each by one press. */
export function OffersForm({ order, offers, onDone, onClose }: OffersFormProps) {
  const format = useFormat();
  return (
    <>
      <p>The order has changed. These builds are for it, and stay as they are unless you change them.</p>
      {offers.map((offer) => (
        <OfferLine
          key={offer.id}
          order={order}
          offer={offer}
          format={format}
          onDone={() => onDone(offer.id)}
        />
      ))}
      <Actions>
        <Button onPress={onClose}>Leave them as they are</Button>
      </Actions>
    </>
  );
}

interface OfferLineProps {
  order: OrderSheet;
  offer: Offer;
  format: Format;
  onDone: () => void;
}

function OfferLine({ order, offer, format, onDone }: OfferLineProps) {
  const follow = useCommand(orderRoutes.followOrder, () => {
    sayDone(`${offer.number} follows ${order.number}.`);
    onDone();
  });
  const { quantity, due } = offer;
  return (
    <Actions style={{ marginTop: 0 }}>
      {follow.refusal && <Notice>{follow.refusal.message}</Notice>}
      <span>{offerWords(offer, format)}</span>
      <Button
        isPending={follow.busy}
        onPress={() =>
          void follow.run({
            params: { id: order.id, build: offer.id },
            body: { quantity: quantity?.to ?? null, due: due?.to ?? null },
          })
        }
      >
        {quantity?.to === "0" ? `Cancel ${offer.number}` : `Change ${offer.number}`}
      </Button>
    </Actions>
  );
}

function offerWords({ number, stage, quantity, due }: Offer, format: Format): string {
  const day = (of: string | null) => (of === null ? "no date" : format.day(of));
  const changes = [
    quantity && `${format.amount(quantity.from)} → ${format.amount(quantity.to, quantity.unit)}`,
    due && `due ${day(due.from)} → ${day(due.to)}`,
  ].filter(Boolean);
  return `${number} (${stage}): ${changes.join(", ")}`;
}
