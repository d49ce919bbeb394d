import styled from "styled-components";
import { color, focusRing, HANDHELD } from "../ui/index.ts";

/** Lines of a round that a thumb can press. */
export const List = styled.ul`
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  max-width: 560px;
  li,
  li > button {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 12px;
    width: 100%;
    min-height: ${HANDHELD};
    text-align: start;
  }
  li {
    border-bottom: 1px solid ${color.line};
  }
  li > button:not([data-rac]) {
    padding: 8px 2px;
    border: 0;
    background: none;
    color: inherit;
    font: inherit;
    cursor: pointer;
    &:focus-visible {
      ${focusRing}
    }
  }
  li > button[data-rac] {
    width: auto;
  }
  small {
    display: block;
    color: ${color.ink2};
  }
`;
