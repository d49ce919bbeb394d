import styled from "styled-components";
import { useLostAt } from "../api/index.ts";
import { color, useFormat } from "../ui/index.ts";

/** Says since when the server can't be reached: what the page shows is from then. */
export function LostBanner() {
  const lostAt = useLostAt();
  const format = useFormat();
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
