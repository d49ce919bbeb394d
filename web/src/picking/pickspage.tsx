import { type PickRow, pickingRoutes } from "@yosegi/contract";
import { Footprints } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { Unanswered, usePress } from "../api/index.ts";
import { useStores } from "../fields/index.ts";
import { useShownStore } from "../stock/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  color,
  DueDay,
  EmptyPage,
  font,
  Page,
  Row,
  Select,
  ShowMore,
  Sub,
  TextField,
  useAddress,
  useFormat,
} from "../ui/index.ts";
import { usePicks } from "./queries.ts";

const keyOf = ({ kind, id }: Pick<PickRow, "kind" | "id">): string => `${kind} ${id}`;

/** What is to be fetched, for builds and orders: several are chosen and walked in one round. */
export function PicksPage() {
  const format = useFormat();
  const navigate = useNavigate();
  const stores = useStores();
  const [store, setStore] = useShownStore();
  const address = useAddress();
  const search = address.get("search");
  const { data, error } = usePicks(search, store);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const start = usePress(pickingRoutes.startRound, (round) => void navigate(`/pick/${round.id}`));
  if (!data) return <Unanswered error={error} shape="list" />;
  const free = data.rows;
  const { rounds } = data.first;
  const picked = free.filter((row) => chosen.has(keyOf(row)));
  const toggle = (key: string, on: boolean) => {
    const next = new Set(chosen);
    if (on) next.add(key);
    else next.delete(key);
    setChosen(next);
  };
  const go = (rows: readonly PickRow[]) =>
    void start.run({ body: { documents: rows.map(({ kind, id }) => ({ kind, id })) } });
  if (data.total === 0 && rounds.length === 0 && search === "" && store === "")
    return (
      <EmptyPage title="Nothing to fetch">
        Builds that are queued and orders that have stock are listed here, to be fetched in one round.
      </EmptyPage>
    );
  return (
    <Page>
      <h1>Pick</h1>
      <Sub>
        {free.length === 0
          ? "Nothing else is to be fetched."
          : `${format.count(data.total, "build or order", "builds and orders")} to fetch for. Choose several to walk once.`}
      </Sub>
      <Row>
        <Select
          label="Store"
          value={store}
          width="158px"
          none="All stores"
          options={(stores.data?.stores ?? []).map(({ name }) => ({ value: name, label: name }))}
          onChange={setStore}
        />
        <TextField
          label="Search"
          width="158px"
          value={search}
          onChange={(text) => address.set("search", text)}
        />
      </Row>
      {rounds.length > 0 && (
        <List aria-label="Rounds under way">
          {rounds.map((round) => (
            <li key={round.id}>
              <Line>
                <Link to={`/pick/${round.id}`}>
                  {round.number} · {round.picker}
                </Link>
                <small>{round.documents.join(", ") || "all fetched"}</small>
              </Line>
              <Button look="main" onPress={() => void navigate(`/pick/${round.id}`)}>
                Go on
              </Button>
            </li>
          ))}
        </List>
      )}
      <List aria-label="To be fetched">
        {free.map((row) => (
          <li key={keyOf(row)}>
            <Checkbox isSelected={chosen.has(keyOf(row))} onChange={(on) => toggle(keyOf(row), on)}>
              <Line>
                <b>{row.name}</b>
                <small>
                  {[row.number, row.reference, format.count(row.lines, "line", "lines")]
                    .filter(Boolean)
                    .join(" · ")}
                  {row.missing > 0 && ` · ${row.missing} not in stock`}
                </small>
              </Line>
            </Checkbox>
            <DueDay day={row.due} late={row.overdue} />
          </li>
        ))}
      </List>
      <ShowMore listed={free.length} total={data.total} onMore={data.onMore} />
      <Actions>
        <Button
          look="main"
          isPending={start.busy}
          isDisabled={free.length === 0}
          onPress={() => go(picked.length > 0 ? picked : free.slice(0, 1))}
        >
          <Footprints />
          {picked.length > 1
            ? `Walk ${picked.length} in one round`
            : `Pick ${picked[0]?.number ?? free[0]?.number ?? ""}`}
        </Button>
      </Actions>
    </Page>
  );
}

const List = styled.ul`
  list-style: none;
  margin: 14px 0 0;
  padding: 0;
  max-width: 720px;
  li {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 12px;
    min-height: 56px;
    padding: 6px 2px;
    border-bottom: 1px solid ${color.line};
  }
`;

const Line = styled.span`
  display: flex;
  flex-direction: column;
  font-family: ${font.text};
  small {
    color: ${color.ink2};
  }
`;
