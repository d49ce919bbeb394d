import type { BuildRow } from "@yosegi/contract";
import { Link } from "react-router";
import styled from "styled-components";
import { Unanswered } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import { color, NARROW, Page, Section, Short, Sub, useFormat } from "../ui/index.ts";
import { lastDayOf, overdueBefore, weeksFrom } from "./calendar.ts";
import { useOpenBuilds } from "./queries.ts";
import { stateWords } from "./words.ts";

const WEEKS = 5;

/** The next weeks: what is due on which day. */
export function CalendarPage() {
  const format = useFormat();
  const { today } = format.settings;
  const dated = useOpenBuilds({ until: lastDayOf(today, WEEKS) });
  const rest = useOpenBuilds({ undated: true });
  const error = dated.error ?? rest.error;
  if (!dated.data || !rest.data) return <Unanswered error={error} shape="table" />;
  const weeks = weeksFrom(today, WEEKS, dated.data.builds);
  const before = overdueBefore(today, dated.data.builds);
  const undated = rest.data.builds;
  const due = weeks.flat().flatMap((day) => day.due).length;
  return (
    <>
      <BuildsNav />
      <Page>
        <h1>
          {format.count(due, "build is", "builds are")} due in the next {WEEKS} weeks
        </h1>
        <Sub>
          {before.length > 0 && (
            <Short>{format.count(before.length, "build was", "builds were")} due before this week. </Short>
          )}
          {undated.length > 0 && `${format.count(undated.length, "has", "have")} no date.`}
        </Sub>
        <Grid role="table" aria-label="Calendar of builds">
          <Week role="row">
            {weeks[0]?.map(({ day }) => (
              <Head key={day} role="columnheader">
                {new Intl.DateTimeFormat(format.wording, { weekday: "short", timeZone: "UTC" }).format(
                  new Date(`${day}T00:00:00Z`),
                )}
              </Head>
            ))}
          </Week>
          {weeks.map((week) => (
            <Week key={week[0]?.day} role="row">
              {week.map(({ day, due }) => (
                <Cell
                  key={day}
                  role="cell"
                  $today={day === today}
                  $past={day < today}
                  $empty={due.length === 0}
                >
                  <time dateTime={day}>{format.day(day)}</time>
                  {due.map((build) => (
                    <Entry key={build.id} build={build} />
                  ))}
                </Cell>
              ))}
            </Week>
          ))}
        </Grid>
        {before.length > 0 && <Beside title="Due before this week" builds={before} />}
        {undated.length > 0 && <Beside title="No date" builds={undated} />}
      </Page>
    </>
  );
}

function Beside({ title, builds }: { title: string; builds: BuildRow[] }) {
  return (
    <Section title={title}>
      <Row>
        {builds.map((build) => (
          <Entry key={build.id} build={build} />
        ))}
      </Row>
    </Section>
  );
}

function Entry({ build }: { build: BuildRow }) {
  const format = useFormat();
  const words = build.stage === "draft" ? "draft" : stateWords(build, format);
  return (
    <Build to={`/builds/${build.id}`} $blocked={build.blocked}>
      <b>
        {format.amount(build.quantity)} × {build.product.code}
      </b>
      <small>
        {build.number}
        {words && ` · ${words}`}
      </small>
    </Build>
  );
}

const Grid = styled.div`
  border: 1px solid ${color.line};
  background: ${color.sheet};
  flex: none;
`;

const Week = styled.div`
  display: grid;
  grid-template-columns: repeat(7, minmax(0, 1fr));
  & + & {
    border-top: 1px solid ${color.line};
  }
  ${NARROW} {
    grid-template-columns: 1fr;
    &:first-child {
      display: none;
    }
  }
`;

const Head = styled.div`
  padding: 6px 10px;
  font-size: 13px;
  font-weight: 600;
  color: ${color.ink2};
`;

const Cell = styled.div<{ $today: boolean; $past: boolean; $empty: boolean }>`
  min-height: 88px;
  padding: 6px;
  display: flex;
  flex-direction: column;
  gap: 4px;
  border-left: 1px solid ${color.line};
  &:first-child {
    border-left: 0;
  }
  background: ${({ $past }) => ($past ? color.sunk : "none")};
  time {
    font-size: 13px;
    padding: 0 4px;
    color: ${color.ink2};
    ${({ $today }) => $today && `font-weight: 700; color: ${color.ink}; border-bottom: 3px solid ${color.walnut}; align-self: flex-start;`}
  }
  ${NARROW} {
    min-height: 0;
    border-left: 0;
    border-top: 1px solid ${color.line};
    ${({ $empty }) => $empty && "display: none;"}
  }
`;

const Build = styled(Link)<{ $blocked: boolean }>`
  display: block;
  padding: 3px 6px;
  text-decoration: none;
  background: ${color.paper};
  border-left: 4px ${({ $blocked }) => ($blocked ? `dashed ${color.lacquer}` : `solid ${color.walnut}`)};
  b {
    font-weight: 600;
    font-size: 14px;
  }
  small {
    display: block;
    color: ${color.ink2};
    font-size: 13px;
  }
  &:hover {
    background: ${color.sunk};
  }
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
`;
