import styled, { css } from "styled-components";

/** What was asked for before is greyed until what is asked for now is there. */
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
