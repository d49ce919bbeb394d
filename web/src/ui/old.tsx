import styled, { css } from "styled-components";

/** An earlier answer is greyed until the new one has arrived. */
export const oldAnswer = css<{ $old?: boolean | undefined }>`
  transition: opacity 120ms;
  ${({ $old }) => $old && "opacity: 0.5;"}
`;

/** A part of a page that shows an answer. */
export const AnswerPart = styled.div.attrs<{ $old?: boolean | undefined }>(({ $old }) => ({
  "aria-busy": $old || undefined,
}))`
  display: flex;
  flex-direction: column;
  flex: none;
  ${oldAnswer}
`;
