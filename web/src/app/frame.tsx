import type { AnswerOf, findRoutes } from "@yosegi/contract";
import { Menu } from "lucide-react";
import { type ReactNode, Suspense, useState } from "react";
import { Link, NavLink, useLocation } from "react-router";
import styled from "styled-components";
import { ScanField, ScanGun, useWaiting } from "../find/index.ts";
import { NoticeBell } from "../notices/index.ts";
import { PersonMenu } from "../people/index.ts";
import { Button, color, font, NARROW, SideSheet, TARGET, type ThemeChoice, TOUCH } from "../ui/index.ts";
import { LostBanner } from "./lostbanner.tsx";
import { Mark } from "./mark.tsx";

interface State {
  words: string;
  to: string;
}

interface Entry {
  to: string;
  /** Other addresses that belong to it. */
  also?: readonly string[];
  name: string;
  /** How much waits there; null where nothing ever waits. */
  waits: number | null;
  /** How it stands with what waits, in a few words each, which lead to the list of just those. */
  state?: readonly State[];
  onGo?: () => void;
}

export interface FrameProps {
  company: string;
  theme: ThemeChoice;
  onTheme: (theme: ThemeChoice) => void;
  children: ReactNode;
}

/** The rail with the work in its order, the field that takes a scan, and who is working. */
export function Frame({ company, theme, onTheme, children }: FrameProps) {
  const { data } = useWaiting();
  const [opened, setOpened] = useState(false);
  const [gun, setGun] = useState(false);
  const work: Entry[] = [
    { to: "/today", name: "Today", waits: null },
    {
      to: "/orders",
      name: "Orders",
      waits: data?.orders ?? 0,
      state: data ? ordersState(data) : [],
    },
    { to: "/check", name: "Check", waits: null },
    {
      to: "/builds",
      name: "Builds",
      waits: data?.builds ?? 0,
      also: ["/labels"],
      state: data ? stateOf(data) : [],
    },
    {
      to: "/pick",
      name: "Pick",
      waits: data?.picks ?? 0,
      state: data ? countWords([[data.rounds, "under way", "/pick"]]) : [],
    },
  ];
  const keeping: Entry[] = [
    {
      to: "/catalog",
      name: "Catalog",
      waits: null,
      also: ["/prices", "/price-lists", "/replace", "/suppliers", "/customers", "/import"],
    },
    { to: "/stock", name: "Stock", waits: null, also: ["/trace"] },
    { to: "/buying", name: "Buying", waits: data?.buying ?? 0, also: ["/reorder", "/outbox"] },
    { to: "/settings", name: "Settings", waits: null },
  ];
  const inside = (
    <>
      <Brand>
        <Mark />
        Yosegi
      </Brand>
      {work.map((entry) => (
        <RailLink key={entry.to} {...entry} onGo={() => setOpened(false)} />
      ))}
      <hr />
      {keeping.map((entry) => (
        <RailLink key={entry.to} {...entry} onGo={() => setOpened(false)} />
      ))}
      <Company>{company}</Company>
    </>
  );
  return (
    <App>
      <Beside>
        <Rail aria-label="Main menu">{inside}</Rail>
      </Beside>
      <SideSheet label="Menu" isOpen={opened} onClose={() => setOpened(false)}>
        <Rail aria-label="Main menu">{inside}</Rail>
      </SideSheet>
      <Main>
        <Top>
          <OnNarrow>
            <Button look="icon" aria-label="Menu" onPress={() => setOpened(true)}>
              <Menu />
            </Button>
          </OnNarrow>
          <ScanField />
          <NoticeBell />
          <PersonMenu theme={theme} onTheme={onTheme} onScanGun={() => setGun(!gun)} />
        </Top>
        <LostBanner />
        {children}
      </Main>
      {gun && (
        <Suspense>
          <ScanGun onClose={() => setGun(false)} />
        </Suspense>
      )}
    </App>
  );
}

type Waiting = AnswerOf<typeof findRoutes.waiting>;

/** How the open builds stand. */
const stateOf = (waiting: Waiting): State[] =>
  countWords([
    [waiting.overdue, "overdue", "/builds?state=overdue"],
    [waiting.blocked, "blocked", "/builds?state=blocked"],
    [waiting.ready, "ready", "/builds?state=ready"],
    [waiting.suggested, "to plan", "/builds/repeat"],
  ]);

/** How the open orders stand. */
const ordersState = (waiting: Waiting): State[] =>
  countWords([
    [waiting.ordersOverdue, "overdue", "/orders?state=overdue"],
    [waiting.ordersMissing, "short", "/orders?state=short"],
  ]);

/** Counts in words; what there is none of is left out. */
function countWords(counts: readonly (readonly [count: number, word: string, to: string])[]): State[] {
  return counts.flatMap(([count, word, to]) => (count === 0 ? [] : [{ words: `${count} ${word}`, to }]));
}

function RailLink({ to, name, waits, also = [], state = [], onGo }: Entry) {
  const { pathname } = useLocation();
  const within = also.some((path) => pathname.startsWith(path));
  const waiting = waits !== null && waits > 0;
  return (
    <Place>
      <Go
        to={to}
        $waits={waiting}
        onClick={onGo}
        className={within ? "active" : ""}
        aria-label={[waiting ? `${name}, ${waits} waiting` : name, ...state.map(({ words }) => words)].join(
          ", ",
        )}
      >
        <i aria-hidden />
        {name}
        {waiting && <b>{waits}</b>}
      </Go>
      {state.length > 0 && (
        <States>
          {state.map(({ words, to: list }) => (
            <Link key={list} to={list} onClick={onGo} aria-label={`${name}: ${words}`}>
              {words}
            </Link>
          ))}
        </States>
      )}
    </Place>
  );
}

const Place = styled.div`
  border-block: 1px solid transparent;
  &:has(> .active) {
    background: ${color.sheet};
    border-color: ${color.line};
  }
`;

const States = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  margin-top: -8px;
  padding: 0 16px 7px 44px;
  font-size: 13px;
  line-height: 1.3;
  a {
    color: ${color.ink2};
    text-decoration: none;
  }
  a:hover {
    color: ${color.ink};
    text-decoration: underline;
  }
  ${TOUCH} {
    margin-top: 0;
    a {
      padding-block: 8px;
    }
  }
`;

const App = styled.div`
  display: grid;
  grid-template-columns: 188px minmax(0, 1fr);
  height: 100%;
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
  }
  @media print {
    display: block;
  }
`;

/** The rail stands beside the page where there is room, and opens over it where there is none. */
const Beside = styled.div`
  display: grid;
  min-height: 0;
  ${NARROW} {
    display: none;
  }
  @media print {
    display: none;
  }
`;

const OnNarrow = styled.div`
  display: none;
  ${NARROW} {
    display: block;
  }
`;

const Rail = styled.nav`
  min-height: 100%;
  background: ${color.sunk};
  border-right: 1px solid ${color.line};
  padding-top: 14px;
  display: flex;
  flex-direction: column;
  overflow: auto;
  hr {
    width: calc(100% - 32px);
    border: 0;
    border-top: 1px solid ${color.line};
    margin: 10px 16px;
  }
`;

const Brand = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 16px 14px;
  font: 700 21px ${font.title};
  letter-spacing: -0.01em;
`;

const Go = styled(NavLink)<{ $waits: boolean }>`
  display: grid;
  grid-template-columns: 18px 1fr auto;
  gap: 10px;
  align-items: center;
  padding: 8px 16px;
  color: ${color.ink2};
  text-decoration: none;
  font-weight: 500;
  i {
    width: 14px;
    height: 14px;
    transform: rotate(45deg);
    border: 1.5px solid ${color.ink3};
    ${({ $waits }) =>
      $waits &&
      `background: repeating-linear-gradient(90deg, ${color.zelkova} 0 2px, transparent 2px 4px); border-color: ${color.zelkova};`}
  }
  b {
    font-size: 13px;
    color: ${color.ink};
  }
  &:hover {
    color: ${color.ink};
  }
  &.active {
    color: ${color.ink};
    font-weight: 650;
    i {
      background: ${color.walnut};
      border-color: ${color.walnut};
    }
  }
  &:focus-visible {
    outline-offset: -2px;
  }
  ${TOUCH} {
    min-height: ${TARGET};
  }
`;

const Company = styled.div`
  margin-top: auto;
  padding: 14px 16px;
  font-size: 13px;
  color: ${color.ink2};
`;

const Main = styled.div`
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
`;

const Top = styled.header`
  display: flex;
  justify-content: space-between;
  gap: 16px;
  align-items: center;
  padding: 9px 28px;
  border-bottom: 1px solid ${color.line};
  ${NARROW} {
    gap: 8px;
    padding: 6px 10px 6px 6px;
  }
  @media print {
    display: none;
  }
`;
