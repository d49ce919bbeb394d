import type { PickRound } from "@yosegi/contract";
import styled from "styled-components";
import { Button, color, Notice, useFormat } from "../ui/index.ts";
import type { Fetches, KeptFetch } from "./waiting.ts";

/** Fetches that the server refused: each is settled by a person, and holds back only its own line until then. */
export function WaitingFetches({ fetches, round }: { fetches: Fetches; round: PickRound }) {
  const refused = fetches.waiting.filter((one) => one.refused !== null);
  return refused.map((one) => <Refused key={one.key} fetch={one} round={round} fetches={fetches} />);
}

function Refused({ fetch, round, fetches }: { fetch: KeptFetch; round: PickRound; fetches: Fetches }) {
  const format = useFormat();
  const { body, refused, at, key } = fetch;
  const item =
    round.stops.find((stop) => stop.item.id === body.item)?.item ??
    round.fetched.find((one) => one.item.id === body.item)?.item ??
    round.missing.find((one) => one.item.id === body.item)?.item;
  const why = refused?.fields[0]?.message ?? refused?.message ?? "";
  return (
    <Notice>
      <b>
        {format.amount(body.quantity, item?.unit)} {item?.code} from {body.bin}, scanned {format.moment(at)},
        was not recorded.
      </b>{" "}
      {why}
      <Settle>
        <Button onPress={() => void fetches.sendAgain(key, { ...body, there: "0" })}>
          Record it: the bin is empty now
        </Button>
        <Button onPress={() => void fetches.sendAgain(key, body)}>Try again</Button>
        <Button onPress={() => void fetches.drop(key)}>Put it back, forget it</Button>
      </Settle>
    </Notice>
  );
}

const Settle = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
  color: ${color.ink};
  button {
    min-height: 48px;
  }
`;
