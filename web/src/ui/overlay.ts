import { css } from "styled-components";
import { color, radius } from "./theme.ts";

/** What covers the page under a dialog. */
export const veil = css`
  position: fixed;
  inset: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  place-items: start center;
  background: rgb(30 20 12 / 0.45);
  overflow: auto;
`;

/** A sheet that lies over the page. */
export const panel = css`
  background: ${color.paper};
  border: 1px solid ${color.line};
  border-radius: ${radius};
  box-shadow: 0 20px 60px rgb(0 0 0 / 0.35);
  h2 {
    font-size: 21px;
  }
`;
