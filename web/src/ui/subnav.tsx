import { Link, useLocation } from "react-router";
import styled from "styled-components";
import { color, TARGET, TOUCH } from "./theme.ts";

export interface SubNavProps {
  label: string;
  pages: readonly { to: string; name: string }[];
}

/** The pages of one entry of the rail, side by side. */
export function SubNav({ label, pages }: SubNavProps) {
  const { pathname } = useLocation();
  const within = (to: string) => pathname === to || pathname.startsWith(`${to}/`);
  // Where one page's address begins with another's, the longer one is open.
  const open = pages
    .map((page) => page.to)
    .filter(within)
    .sort((a, b) => b.length - a.length)[0];
  return (
    <Bar aria-label={label}>
      {pages.map(({ to, name }) => (
        <Link key={to} to={to} aria-current={to === open ? "page" : undefined}>
          {name}
        </Link>
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
  ${TOUCH} {
    a {
      display: flex;
      align-items: center;
      min-height: ${TARGET};
    }
  }
  a:hover {
    color: ${color.ink};
  }
  a[aria-current] {
    color: ${color.ink};
    border-color: ${color.walnut};
  }
`;
