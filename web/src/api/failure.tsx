import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import styled, { keyframes } from "styled-components";
import { Button, color, NARROW } from "../ui/index.ts";
import { Refused } from "./call.ts";

const Said = styled.div.attrs({ role: "alert" })`
  margin: 24px;
  padding: 12px 16px;
  max-width: 44em;
  border-left: 5px solid ${color.lacquer};
  background: ${color.sheet};
  button {
    margin-top: 10px;
  }
`;

/** Says why something could not be read, and asks again on request. */
export function Failure({ error }: { error: Error }) {
  const client = useQueryClient();
  const again = () =>
    client.refetchQueries({ type: "active", predicate: ({ state }) => state.status === "error" });
  return (
    <Said>
      {error.message}
      {error instanceof Refused &&
        error.answer.fields
          .filter((f) => f.message !== error.message)
          .map((f) => <div key={f.field}>{f.message}</div>)}
      <div>
        <Button onPress={() => void again()}>Try again</Button>
      </div>
    </Said>
  );
}

/** What comes in a moment needs no word that it is waited for. */
const SHOWN_AFTER_MS = 250;

/**
 * Stands where an answer is not there yet: why it could not be read, or that it is waited for. Where there is an answer,
 * the page shows that, even if it could not be read again.
 */
export function Unanswered({ error, shape = "lines" }: { error: Error | null; shape?: Shape }) {
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), SHOWN_AFTER_MS);
    return () => clearTimeout(timer);
  }, []);
  if (error) return <Failure error={error} />;
  return (
    <Waiting aria-busy="true" role="status" aria-label={late ? "Loading" : ""}>
      {late && <Bars shape={shape} />}
    </Waiting>
  );
}

/** What is waited for: a list of documents beside a sheet, a sheet alone, a table, or some lines. */
type Shape = "list" | "sheet" | "table" | "lines";

/** Bars are told apart by their place. */
const placedBars = (widths: readonly number[]) => widths.map((width, at) => ({ width, at }));

/** The shape of what is waited for, in grey. */
function Bars({ shape }: { shape: Shape }) {
  const bars = (widths: readonly number[]) =>
    placedBars(widths).map(({ at, width }) => <i key={at} style={{ width: `${width}%` }} />);
  const rows = (n: number) => bars(Array.from({ length: n }, (_, i) => 100 - (i % 3)));
  switch (shape) {
    case "lines":
      return bars([62, 90, 78, 84]);
    case "table":
      return (
        <>
          <Heading />
          {rows(10)}
        </>
      );
    case "sheet":
      return (
        <>
          <Heading />
          {bars([48, 80])}
          <Gap />
          {rows(6)}
        </>
      );
    case "list":
      return (
        <Beside>
          <div>{bars([100, 72, 54, 66, 48, 74, 50, 70, 52])}</div>
          <div>
            <Heading />
            {bars([48, 80])}
            <Gap />
            {rows(6)}
          </div>
        </Beside>
      );
  }
}

const breathe = keyframes`
  50% { opacity: 0.45; }
`;

const Heading = styled.i`
  && {
    height: 30px;
    width: 38%;
    margin-bottom: 20px;
  }
`;

const Gap = styled.div`
  height: 24px;
`;

const Beside = styled.div`
  display: grid;
  grid-template-columns: 290px minmax(0, 1fr);
  gap: 48px;
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
    > :last-child {
      display: none;
    }
  }
`;

const Waiting = styled.div`
  padding: 24px 28px;
  max-width: 72em;
  i {
    display: block;
    height: 18px;
    margin-bottom: 12px;
    border-radius: 3px;
    background: ${color.line};
    animation: ${breathe} 1.6s ease-in-out infinite;
  }
  @media (prefers-reduced-motion: reduce) {
    i {
      animation: none;
    }
  }
`;
