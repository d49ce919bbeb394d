import { type FetchBody, type PickRound, type PickStop, pickingRoutes } from "@yosegi/contract";
import { NOTHING_SCANNED, type Scanned, type ScanStop, scanAt, stopsLeft } from "@yosegi/core";
import { useState } from "react";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { Unanswered, useLostAt, usePress } from "../api/index.ts";
import { useWorking } from "../people/index.ts";
import {
  Actions,
  Button,
  color,
  Fold,
  HANDHELD,
  Notice,
  Page,
  ScanSaid,
  Section,
  TileStrip,
  useFormat,
  useScanSaid,
  useScans,
  useTitle,
} from "../ui/index.ts";
import { List } from "./list.tsx";
import { OtherQuantity } from "./otherquantity.tsx";
import { useRound } from "./queries.ts";
import { RoundMenu } from "./roundmenu.tsx";
import { StopCard } from "./stopcard.tsx";
import { Substitutes } from "./substitutes.tsx";
import { type Fetches, useFetches } from "./waiting.ts";
import { WaitingFetches } from "./waitingfetches.tsx";
import { NEXT, pieceWords, scanWords } from "./words.ts";

/** A round on a handheld: where to go, what to take, and what was scanned. */
export function RoundPage() {
  const { id = "" } = useParams();
  const { data, error } = useRound(Number(id));
  const fetches = useFetches(Number(id));
  if (!data) return <Unanswered error={error} shape="sheet" />;
  return <Round key={data.id} round={data} fetches={fetches} />;
}

export const stopKey = ({ location, bin, item, lot, serial }: PickStop): string =>
  JSON.stringify([location, bin, item.id, lot, serial]);

const scanStop = (stop: PickStop): ScanStop => ({ ...stop, key: stopKey(stop) });

/** The fetch of a stop as it is suggested, but for what is said. */
const fetchOf = (stop: PickStop, day: string, change: Partial<FetchBody> = {}): FetchBody => ({
  location: stop.location,
  bin: stop.bin,
  item: stop.item.id,
  lot: stop.lot,
  serial: stop.serial,
  quantity: stop.quantity,
  there: null,
  more: false,
  reason: "",
  day,
  ...change,
});

function Round({ round, fetches }: { round: PickRound; fetches: Fetches }) {
  useTitle(round.number);
  const format = useFormat();
  const { person } = useWorking();
  const lostAt = useLostAt();
  const [scanned, setScanned] = useState<Scanned>(NOTHING_SCANNED);
  const [said, say] = useScanSaid();
  const [other, setOther] = useState(false);
  const waiting = fetches.waiting.filter((one) => one.refused === null);
  const stops = stopsLeft(
    round.stops,
    waiting.map((one) => one.body),
  );
  const at = stops.find((stop) => stopKey(stop) === scanned.stop) ?? stops[0];
  const take = (stop: PickStop, change: Partial<FetchBody> = {}) => {
    const body = fetchOf(stop, format.settings.today, change);
    const { item } = stop;
    say(true, format.sentence(`${format.amount(body.quantity, item.unit)} ${item.code} taken`));
    setOther(false);
    // What comes next at the same bin needs no second scan of it.
    const next = stopsLeft(stops, [body])[0];
    setScanned({
      ...NOTHING_SCANNED,
      bin: scanned.bin && next?.bin === stop.bin && next.location === stop.location,
    });
    // Where the device can't store it, nothing was recorded.
    fetches.add(body, person?.id ?? null).catch((error: Error) => {
      console.error(error);
      say(false, `This was not recorded: ${error.message}`);
    });
  };
  const scan = (code: string) => {
    const { scanned: next, result } = scanAt(
      stops.map(scanStop),
      { ...scanned, stop: scanned.stop ?? (at ? stopKey(at) : null) },
      code,
      format.settings.today,
    );
    const stop = stops.find((one) => stopKey(one) === next.stop) ?? at;
    if (result.ok && result.what === "taken" && stop) {
      const quantity = result.quantity.toFixed();
      return take(stop, { quantity, lot: result.lot, serial: result.serial });
    }
    setScanned(next);
    say(result.ok, scanWords(result, code));
  };
  useScans(scan);
  const done = round.fetched.length + waiting.length;
  const begun = scanned.bin || scanned.item ? 1 : 0;
  const all = done + stops.length;
  return (
    <Page>
      <Head>
        <h1>{round.number}</h1>
        <span>{round.documents.map(({ number }) => number).join(", ")}</span>
        <RoundMenu round={round} />
      </Head>
      <TileStrip
        wanted={String(Math.max(1, all))}
        there={String(done)}
        coming={String(begun)}
        rest="open"
        says={`${done} of ${all} fetched`}
        most={14}
      />
      <Small>
        {done} of {all} fetched{begun > 0 && ", 1 begun"}
        {waiting.length > 0 &&
          ` · ${waiting.length} kept on this device${lostAt === null ? "" : " until the server is back"}`}
      </Small>
      <ScanSaid said={said} />
      <WaitingFetches fetches={fetches} round={round} />
      {round.endedAt !== null ? (
        <Notice role="status">This round has ended.</Notice>
      ) : at ? (
        <>
          <StopCard
            stop={at}
            scanned={scanned}
            onScan={scan}
            onTake={() => take(at, scanned.piece === null ? {} : pieceOf(at, scanned.piece))}
            onOther={() => setOther(true)}
          />
          {other && (
            <OtherQuantity
              stop={at}
              round={round.id}
              onClose={() => setOther(false)}
              onTake={(change) => take(at, change)}
            />
          )}
          <Others
            stops={stops.filter((stop) => stop !== at)}
            onGo={(stop) => setScanned({ ...NOTHING_SCANNED, stop: stopKey(stop) })}
          />
        </>
      ) : (
        <Next round={round} />
      )}
      {round.missing.length > 0 && (
        <Small>
          Not fetched:{" "}
          {format.list(
            round.missing.map(
              ({ number, item, quantity, leftShort }) =>
                `${format.amount(quantity, item.unit)} ${item.code} for ${number} (${leftShort ? "left short" : "not in stock"})`,
            ),
          )}
        </Small>
      )}
      {round.endedAt === null && <Substitutes round={round} />}
      <Fetched round={round} />
    </Page>
  );
}

/** A scanned lot or serial as it is sent. */
const pieceOf = ({ item }: PickStop, piece: string): Partial<FetchBody> =>
  item.tracking === "serial" ? { serial: piece } : { lot: piece };

function Others({ stops, onGo }: { stops: readonly PickStop[]; onGo: (stop: PickStop) => void }) {
  const format = useFormat();
  return (
    <List aria-label="Then">
      {stops.map((stop) => (
        <li key={stopKey(stop)}>
          <button type="button" onClick={() => onGo(stop)}>
            <span>
              {stop.item.name}
              <small>
                {[`${stop.store} ${stop.bin}`.trim(), pieceWords(stop, format)].filter(Boolean).join(" · ")}
              </small>
            </span>
            <b>{format.amount(stop.quantity, stop.item.unit)}</b>
          </button>
        </li>
      ))}
    </List>
  );
}

/** All is fetched: what comes next for each of the round's documents. */
function Next({ round }: { round: PickRound }) {
  const end = usePress(pickingRoutes.endRound);
  const format = useFormat();
  const cancelled = round.documents.filter(({ next }) => next === "cancelled");
  return (
    <Section title="All fetched">
      <Small>Nothing more is to be fetched in this round.</Small>
      {cancelled.length > 0 && (
        <Notice role="status">
          {format.list(cancelled.map(({ number }) => number))} {cancelled.length === 1 ? "was" : "were"}{" "}
          cancelled meanwhile. By the books the goods are back in the bins they came from: put them there.
        </Notice>
      )}
      <Actions>
        {round.documents
          .filter(({ kind, next }) => kind === "order" && next === "ship")
          .map(({ id, number }) => (
            <Go key={`check ${number}`} to={`/orders/${id}/packed`}>
              Check what is packed for {number}
            </Go>
          ))}
        {round.documents.map(({ kind, id, number, next }) => (
          <Go key={number} to={`/${kind}s/${id}`}>
            {next === "finish"
              ? `Finish ${number}`
              : next === "ship"
                ? `Ship ${number}`
                : `${number}: ${NEXT[next]}`}
          </Go>
        ))}
        <Button isPending={end.busy} onPress={() => void end.run({ params: { id: round.id } })}>
          End the round
        </Button>
      </Actions>
    </Section>
  );
}

/** What was fetched; each can be undone alone. */
function Fetched({ round }: { round: PickRound }) {
  const format = useFormat();
  const undo = usePress(pickingRoutes.undoFetch);
  if (round.fetched.length === 0) return null;
  return (
    <Fold summary={`${format.count(round.fetched.length, "fetch", "fetches")} recorded`}>
      <List aria-label="Fetched">
        {round.fetched.map(({ posting, item, quantity, from, lot, serial, numbers, person }) => (
          <li key={posting}>
            <span>
              {format.amount(quantity, item.unit)} {item.code}
              <small>
                {[from, serial || lot, `for ${format.list(numbers)}`, person].filter(Boolean).join(" · ")}
              </small>
            </span>
            <Button
              look="link"
              isPending={undo.busy}
              aria-label={`Undo ${item.code} ${serial || lot}`.trim()}
              onPress={() => void undo.run({ params: { id: round.id }, body: { posting } })}
            >
              Undo
            </Button>
          </li>
        ))}
      </List>
    </Fold>
  );
}

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: space-between;
  gap: 4px 12px;
  max-width: 560px;
  h1 {
    margin: 0;
    font-size: 22px;
  }
  span {
    color: ${color.ink2};
  }
`;

const Small = styled.p`
  margin: 4px 0;
  font-size: 14px;
  color: ${color.ink2};
`;

const Go = styled(Link)`
  display: inline-flex;
  align-items: center;
  min-height: ${HANDHELD};
  padding: 0 16px;
  border: 1px solid ${color.ink3};
  color: ${color.ink};
  font-weight: 600;
`;
