import { NavLink } from "react-router";
import styled from "styled-components";
import { color } from "./theme.ts";

export interface SubNavProps {
  label: string;
  pages: readonly { to: string; name: string; end?: boolean }[];
}

/** The pages of one entry of the rail, side by side. */
export function SubNav({ label, pages }: SubNavProps) {
  return (
    <Bar aria-label={label}>
      {pages.map(({ to, name, end = false }) => (
        <NavLink key={to} to={to} end={end}>
          {name}
        </NavLink>
      ))}
    </Bar>
  );
}

const Bar = styled.nav`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  padding: 10px 16px 0;
  flex: none;
  a {
    padding: 4px 0 6px;
    color: ${color.ink2};
    text-decoration: none;
    font-weight: 550;
    border-bottom: 2px solid transparent;
  }
  a:hover {
    color: ${color.ink};
  }
  a.active {
    color: ${color.ink};
    border-color: ${color.walnut};
  }
`;
