import { useQueryClient } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { useEffect } from "react";
import styled from "styled-components";
import { refresh, useLostAt } from "../api/index.ts";
import { color, useFormat } from "../ui/index.ts";

/** Where there is no stream to tell that the server is back, something is asked for so often. */
const ASK_EVERY_MS = 5_000;

/** Says since when the server can't be reached: what the page shows is from then. */
export function LostBanner() {
  const lostAt = useLostAt();
  const format = useFormat();
  const client = useQueryClient();
  useEffect(() => {
    if (lostAt === null) return;
    const ask = () => void client.refetchQueries({ queryKey: [routes.company.area] });
    const timer = setInterval(ask, ASK_EVERY_MS);
    window.addEventListener("online", ask);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", ask);
      // It is back: what could not be read is read now, and what was, may have changed.
      void refresh(client, null);
    };
  }, [lostAt, client]);
  return (
    <div role="status">
      {lostAt !== null && (
        <Banner>
          No connection since {format.time(new Date(lostAt).toISOString())}. You see how things were then;
          what you type stays here.
        </Banner>
      )}
    </div>
  );
}

const Banner = styled.p`
  margin: 0;
  padding: 8px 28px;
  background: ${color.marked};
  border-left: 5px solid ${color.lacquer};
  font-weight: 600;
`;
