import { type BinToCountAnswer, type CountRow, countsRoutes } from "@yosegi/contract";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { Unanswered, usePress } from "../api/index.ts";
import { StockNav } from "../nav/index.ts";
import {
  Button,
  color,
  DocumentPage,
  EmptyPage,
  EntryLink,
  useAddress,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { CountSheetView } from "./countsheet.tsx";
import { NewCount } from "./newcount.tsx";
import { useCountNext, useCountSheet, useCounts } from "./queries.ts";
import { countOfBin, STATE_WORDS } from "./words.ts";

/** So many suggestions stand above the list. */
const SHOWN = 5;

/** Count sheets, with what to count next above them, beside the one that is open. */
export function CountsPage() {
  const search = useAddress().get("search");
  const { data, error } = useCounts(search);
  const [isNew, setNew] = useState(false);
  useShortcut("n", "New count", () => setNew(true));
  if (!data) return <Unanswered error={error} shape="list" />;
  return (
    <DocumentPage
      label="Counts"
      path="/stock/counts"
      nav={<StockNav />}
      pages={data}
      narrowed={search !== ""}
      empty={
        <EmptyPage
          title="Count your stock"
          action={
            <>
              <Button look="main" onPress={() => setNew(true)}>
                New count
              </Button>
              <Next alone />
            </>
          }
        >
          A count sheet lists what should be in a bin. Enter what is really there; differences are shown in
          quantity and money before the stock is corrected.
        </EmptyPage>
      }
      choose="Select a count, or start one from what to count next."
      groupOf={(count) => STATE_WORDS[count.state]}
      none="No counts match."
      onNew={() => setNew(true)}
      filters={<Next />}
      entry={(count, _, kept) => <CountEntry count={count} search={kept} />}
      sheet={(id) => <OpenCount id={id} />}
    >
      {isNew && <NewCount onClose={() => setNew(false)} />}
    </DocumentPage>
  );
}

function OpenCount({ id }: { id: number }) {
  const { data, error } = useCountSheet(id);
  return data ? <CountSheetView count={data} /> : <Unanswered error={error} shape="sheet" />;
}

function CountEntry({ count, search }: { count: CountRow; search: string }) {
  const format = useFormat();
  const { id, number, note, bins, counted, lines, person, moment } = count;
  return (
    <EntryLink to={{ pathname: `/stock/counts/${id}`, search }}>
      <b>{note || bins.join(", ") || number}</b>
      <span>{[number, person, format.day(format.dayOf(moment)), `${counted} of ${lines}`].join(" · ")}</span>
    </EntryLink>
  );
}

/** What to count next: one press makes the sheet of a bin. */
function Next({ alone = false }: { alone?: boolean }) {
  const format = useFormat();
  const navigate = useNavigate();
  const { data } = useCountNext();
  const start = usePress(countsRoutes.newCount, ({ id }) => void navigate(`/stock/counts/${id}`));
  if (!data || data.bins.length === 0) return null;
  const why = ({ value, moves, lastCounted }: BinToCountAnswer) =>
    [
      format.money(value),
      format.count(moves, "movement", "movements"),
      lastCounted === null ? "never counted" : `counted ${format.day(lastCounted)}`,
    ].join(" · ");
  return (
    <Suggested aria-label="Count next" $alone={alone}>
      {data.bins.slice(0, SHOWN).map((one) => (
        <li key={`${one.location} ${one.bin}`}>
          <Button
            look="quiet"
            isPending={start.busy}
            onPress={() => void start.run({ body: countOfBin(one) })}
          >
            Count {one.bin || one.store}
          </Button>
          <small>{why(one)}</small>
        </li>
      ))}
    </Suggested>
  );
}

const Suggested = styled.ul<{ $alone: boolean }>`
  list-style: none;
  margin: 8px 0;
  padding: ${({ $alone }) => ($alone ? "0" : "0 16px")};
  li {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 3px 0;
  }
  li button {
    flex: none;
    min-width: 108px;
  }
  small {
    color: ${color.ink2};
  }
`;
