import { type PickRound, pickingRoutes } from "@yosegi/contract";
import { useState } from "react";
import { useCommand, usePress } from "../api/index.ts";
import { Actions, AmountField, Button, Dialog, Fold, Notice, Stack, Sub, useFormat } from "../ui/index.ts";
import { List } from "./list.tsx";

type Substitutable = PickRound["substitutable"][number];
interface Offer {
  line: Substitutable;
  substitute: Substitutable["substitutes"][number];
  /** How much of the part can't be fetched, in its stock unit; "0" where all of it can. */
  short: string;
}

/** Substitutes that the parts lists allow: first for what can't be fetched, the others on request; and those that were taken. */
export function Substitutes({ round }: { round: PickRound }) {
  const [offer, setOffer] = useState<Offer | null>(null);
  const offers = round.substitutable.flatMap((line) => {
    const missing = round.missing.find(
      ({ number, item }) => number === line.number && item.id === line.item.id,
    );
    return line.substitutes.map((substitute) => ({ line, substitute, short: missing?.quantity ?? "0" }));
  });
  const wanted = offers.filter(({ short }) => short !== "0");
  const others = offers.filter(({ short }) => short === "0");
  return (
    <>
      {wanted.length > 0 && <Offers offers={wanted} onTake={setOffer} />}
      <Taken round={round} />
      {others.length > 0 && (
        <Fold summary="Take a substitute">
          <Offers offers={others} onTake={setOffer} />
        </Fold>
      )}
      {offer && <TakeSubstitute round={round.id} offer={offer} onClose={() => setOffer(null)} />}
    </>
  );
}

function Offers({ offers, onTake }: { offers: readonly Offer[]; onTake: (offer: Offer) => void }) {
  const format = useFormat();
  return (
    <List aria-label="Substitutes allowed">
      {offers.map((offer) => {
        const { line, substitute } = offer;
        return (
          <li key={`${line.build} ${line.line} ${substitute.item.id}`}>
            <span>
              {substitute.item.name}
              <small>
                instead of {line.item.code} for {line.number} ·{" "}
                {format.amount(substitute.free, substitute.item.unit)} free
              </small>
            </span>
            <Button
              aria-label={`Take ${substitute.item.code} instead of ${line.item.code} for ${line.number}`}
              onPress={() => onTake(offer)}
            >
              Take …
            </Button>
          </li>
        );
      })}
    </List>
  );
}

interface TakeProps {
  round: number;
  offer: Offer;
  onClose: () => void;
}

function TakeSubstitute({ round, offer: { line, substitute, short }, onClose }: TakeProps) {
  const format = useFormat();
  const [quantity, setQuantity] = useState(short === "0" ? line.open : short);
  const take = useCommand(pickingRoutes.takeSubstitute, onClose);
  const typed = pickingRoutes.takeSubstitute.body.shape.quantity.safeParse(quantity);
  return (
    <Dialog
      title={`${substitute.item.code} instead of ${line.item.code}`}
      isOpen
      onClose={onClose}
      width="420px"
    >
      <Stack>
        <Sub>
          {format.amount(line.open, line.item.unit)} of {line.item.code} are still needed for {line.number}.{" "}
          {format.amount("1", line.item.unit)} of it is replaced by{" "}
          {format.amount(substitute.factor, substitute.item.unit)} of {substitute.item.code};{" "}
          {format.amount(substitute.free, substitute.item.unit)} are free.
        </Sub>
        <AmountField
          label={`Of ${line.item.code}, to be replaced`}
          width="180px"
          unit={line.item.unit}
          value={quantity}
          onChange={setQuantity}
          error={typed.success ? take.errors.quantity : typed.error.issues[0]?.message}
        />
        {take.refusal && !take.errors.quantity && <Notice>{take.refusal.message}</Notice>}
        <Actions>
          <Button
            look="main"
            isPending={take.busy}
            isDisabled={!typed.success}
            onPress={() =>
              void take.run({
                params: { id: round },
                body: { build: line.build, line: line.line, item: substitute.item.id, quantity },
              })
            }
          >
            Fetch {substitute.item.code} instead
          </Button>
        </Actions>
      </Stack>
    </Dialog>
  );
}

/** Substitutes that were taken and are not fetched yet: the part can be taken again. */
function Taken({ round }: { round: PickRound }) {
  const format = useFormat();
  const undo = usePress(pickingRoutes.undoSubstitute);
  if (round.substituted.length === 0) return null;
  return (
    <List aria-label="Substitutes taken">
      {round.substituted.map(({ build, number, line, item, insteadOf, replaces }) => (
        <li key={`${build} ${line}`}>
          <span>
            {item.code}
            <small>
              instead of {format.amount(replaces, insteadOf.unit)} {insteadOf.code} for {number}
            </small>
          </span>
          <Button
            look="link"
            isPending={undo.busy}
            aria-label={`Take ${insteadOf.code} again for ${number}`}
            onPress={() => void undo.run({ params: { id: round.id }, body: { build, line } })}
          >
            Undo
          </Button>
        </li>
      ))}
    </List>
  );
}
