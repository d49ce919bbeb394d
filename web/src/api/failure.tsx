import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import styled, { keyframes } from "styled-components";
import { Button, color } from "../ui/index.ts";
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
      {error instanceof Refused && error.answer.fields.map((f) => <div key={f.field}>{f.message}</div>)}
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
export function Unanswered({ error }: { error: Error | null }) {
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), SHOWN_AFTER_MS);
    return () => clearTimeout(timer);
  }, []);
  if (error) return <Failure error={error} />;
  return (
    <Waiting aria-busy="true" role="status" aria-label={late ? "Loading" : ""}>
      {late && [62, 90, 78, 84].map((width) => <i key={width} style={{ width: `${width}%` }} />)}
    </Waiting>
  );
}

const breathe = keyframes`
  50% { opacity: 0.45; }
`;

const Waiting = styled.div`
  padding: 24px 28px;
  max-width: 44em;
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
