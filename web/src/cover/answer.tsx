import type { CoverAnswer } from "@yosegi/contract";
import styled from "styled-components";
import { color, font, useFormat } from "../ui/index.ts";
import { sentences } from "./sentences.ts";

/** The answer first, in large letters; what stands in the way stands out. */
export function Answer({ cover, beside = "" }: { cover: CoverAnswer; beside?: string }) {
  const { main, obstacle, when } = sentences(cover, useFormat());
  return (
    <>
      <Title aria-live="polite">
        {main} {obstacle && <em>{obstacle}</em>} {when}
      </Title>
      <Beside>{beside}</Beside>
    </>
  );
}

/** The same where two answers stand side by side. */
export function SmallAnswer({ cover }: { cover: CoverAnswer }) {
  const { main, obstacle, when } = sentences(cover, useFormat());
  return (
    <Small>
      {main} {obstacle && <em>{obstacle}</em>} {when}
    </Small>
  );
}

const Title = styled.h1`
  margin: 18px 0 4px;
  max-width: 34em;
  em {
    font-style: normal;
    color: ${color.lacquer};
  }
`;

const Small = styled.p`
  margin: 0 0 8px;
  font: 550 18px/1.35 ${font.title};
  em {
    font-style: normal;
    color: ${color.lacquer};
  }
`;

const Beside = styled.p`
  color: ${color.ink2};
  margin: 0 0 4px;
`;
