import type { CoverAnswer } from "@yosegi/contract";
import styled from "styled-components";
import { color, useFormat } from "../ui/index.ts";
import { sentences } from "./sentences.ts";

/** The answer first, in large letters; what stands in the way stands out. */
export function Answer({ cover }: { cover: CoverAnswer }) {
  const { main, obstacle, beside } = sentences(cover, useFormat());
  return (
    <>
      <Title aria-live="polite">
        {main} {obstacle && <em>{obstacle}</em>}
      </Title>
      <Beside>{beside}</Beside>
    </>
  );
}

const Title = styled.h1`
  margin: 20px 0 4px;
  max-width: 32em;
  em {
    font-style: normal;
    color: ${color.lacquer};
  }
`;

const Beside = styled.p`
  color: ${color.ink2};
  margin: 0 0 4px;
`;
