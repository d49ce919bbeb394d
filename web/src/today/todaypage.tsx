import { useQuery } from "@tanstack/react-query";
import { type AnswerOf, countsRoutes, pickingRoutes, type TodayTask, todayRoutes } from "@yosegi/contract";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { asking, Unanswered, usePress } from "../api/index.ts";
import { countOfBin, useCountNext } from "../counts/index.ts";
import {
  Button,
  color,
  DueDay,
  EmptyPage,
  type Format,
  NARROW,
  Page,
  Row,
  Section,
  Short,
  Sub,
  TileStrip,
  useFormat,
} from "../ui/index.ts";

type Answer = AnswerOf<typeof todayRoutes.today>;

/** What to do next across everything, each with its one next step; theirs first for who is working. */
export function TodayPage() {
  const format = useFormat();
  const { data, error } = useQuery(asking(todayRoutes.today, {}));
  if (!data) return <Unanswered error={error} shape="list" />;
  if (data.total === 0)
    return (
      <EmptyPage title="Nothing to do yet">
        Orders, builds and purchase orders that are open are listed here, each with its next step.
      </EmptyPage>
    );
  const late = data.tasks.filter((task) => task.late).length;
  const mine = data.tasks.filter((task) => task.mine);
  const others = data.tasks.filter((task) => !task.mine);
  return (
    <Page>
      <h1>{sentenceOf(data, late, format)}</h1>
      <Sub>
        {format.count(data.total, "open document", "open documents")}, by when the next step is needed.
      </Sub>
      <Days days={data.days} />
      {mine.length > 0 && (
        <Section title="Yours">
          <Tasks label="Yours" tasks={mine} />
        </Section>
      )}
      <Section title={mine.length > 0 ? "All others" : "To do"}>
        <Tasks label="To do" tasks={others} />
      </Section>
      {data.tasks.every(({ kind }) => kind !== "count") && <CountNext />}
    </Page>
  );
}

function sentenceOf({ tasks }: Answer, late: number, format: Format): string {
  const today = format.settings.today;
  const due = tasks.filter(({ day, late: isLate }) => !isLate && day !== null && day <= today).length;
  const parts = [
    late > 0 && `${format.count(late, "step is", "steps are")} late`,
    due > 0 && `${due} to be done today`,
  ].filter((part) => part !== false);
  return parts.length === 0 ? "Nothing is late, and nothing is due today." : `${format.list(parts)}.`;
}

/** The coming ten days: what is due on each, in tiles and words. */
function Days({ days }: { days: Answer["days"] }) {
  const format = useFormat();
  return (
    <Strip aria-label="The coming ten days">
      {days.map(({ day, builds, receipts, shipments }) => {
        const words = [
          builds > 0 && format.count(builds, "build", "builds"),
          receipts > 0 && format.count(receipts, "receipt", "receipts"),
          shipments > 0 && format.count(shipments, "shipment", "shipments"),
        ].filter((part) => part !== false);
        const all = builds + receipts + shipments;
        return (
          <li key={day}>
            <b>{format.day(day)}</b>
            {all > 0 && (
              <TileStrip wanted={String(all)} there="0" rest="open" most={8} small says={words.join(", ")} />
            )}
            <small>{words.length === 0 ? "–" : words.join(", ")}</small>
          </li>
        );
      })}
    </Strip>
  );
}

/** The bin whose count would tell most, for when there is time. */
function CountNext() {
  const navigate = useNavigate();
  const bin = useCountNext().data?.bins[0];
  const start = usePress(countsRoutes.newCount, ({ id }) => void navigate(`/stock/counts/${id}`));
  if (!bin) return null;
  return (
    <Section title="When there is time">
      <Row style={{ alignItems: "center" }}>
        <Button isPending={start.busy} onPress={() => void start.run({ body: countOfBin(bin) })}>
          Count {bin.bin || bin.store}
        </Button>
        <Sub style={{ margin: 0 }}>Much is in it and moved often since it was counted.</Sub>
      </Row>
    </Section>
  );
}

const WHERE: Record<TodayTask["kind"], string> = {
  build: "/builds",
  order: "/orders",
  purchase: "/buying",
  count: "/stock/counts",
  return: "/returns",
  rework: "/reworks",
};

const STEP_WORDS: Record<TodayTask["step"], string> = {
  queue: "Queue",
  pick: "Pick",
  finish: "Finish",
  ship: "Ship",
  send: "Send",
  receive: "Receive",
  look: "See",
  count: "Count",
  inspect: "Inspect",
  work: "Work on",
};

function Tasks({ tasks, label }: { tasks: readonly TodayTask[]; label: string }) {
  return (
    <List aria-label={label}>
      {tasks.map((task) => (
        <li key={`${task.kind} ${task.id}`}>
          <span>
            <Link to={`${WHERE[task.kind]}/${task.id}`}>{task.name}</Link>
            <small>
              {[task.number, task.assigned].filter(Boolean).join(" · ")}
              {task.why !== "" && (
                <>
                  {" · "}
                  {task.late ? <Short>{task.why}</Short> : task.why}
                </>
              )}
            </small>
          </span>
          <DueDay day={task.day} late={task.late} />
          <Step task={task} />
        </li>
      ))}
    </List>
  );
}

/** The one next step. Picking starts at once; everything else is done on the sheet of its document. */
function Step({ task }: { task: TodayTask }) {
  const navigate = useNavigate();
  const start = usePress(pickingRoutes.startRound, (round) => void navigate(`/pick/${round.id}`));
  const words = `${STEP_WORDS[task.step]} ${task.number}`;
  const { kind, round } = task;
  if (round !== null)
    return <Button onPress={() => void navigate(`/pick/${round}`)}>Go on picking {task.number}</Button>;
  if (task.step === "pick" && (kind === "build" || kind === "order"))
    return (
      <Button
        isPending={start.busy}
        onPress={() => void start.run({ body: { documents: [{ kind, id: task.id }] } })}
      >
        {words}
      </Button>
    );
  return (
    <Button
      look={task.step === "look" ? "link" : "quiet"}
      onPress={() => void navigate(`${WHERE[kind]}/${task.id}`)}
    >
      {words}
    </Button>
  );
}

const Strip = styled.ul`
  display: grid;
  grid-template-columns: repeat(10, minmax(0, 1fr));
  gap: 1px;
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  background: ${color.line};
  border: 1px solid ${color.line};
  li {
    display: flex;
    flex-direction: column;
    gap: 3px;
    min-height: 64px;
    padding: 6px 8px;
    background: ${color.sheet};
    font-size: 13px;
  }
  small {
    color: ${color.ink2};
  }
  ${NARROW} {
    grid-template-columns: repeat(2, minmax(0, 1fr));
    li {
      min-height: 0;
    }
  }
`;

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 170px 150px;
    gap: 4px 16px;
    align-items: center;
    min-height: 52px;
    padding: 6px 2px;
    border-bottom: 1px solid ${color.line};
  }
  small {
    display: block;
    color: ${color.ink2};
  }
  button {
    justify-self: end;
  }
  ${NARROW} {
    li {
      grid-template-columns: minmax(0, 1fr) auto;
    }
    li > :first-child {
      grid-column: 1 / -1;
    }
  }
`;
