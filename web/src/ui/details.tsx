import styled from "styled-components";
import { color } from "./theme.ts";

/** Fields of a form that are seldom filled in, behind one line. */
export const Details = styled.details`
  summary {
    cursor: pointer;
    font-weight: 600;
    color: ${color.ink2};
    margin-bottom: 10px;
  }
`;
