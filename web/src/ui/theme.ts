import { createGlobalStyle, css } from "styled-components";

/** Colours by what they mean. Wood tones are for data only; lacquer is for what is short or late. */
const LIGHT = {
  paper: "#f6f1e6",
  sheet: "#fffcf5",
  sunk: "#ebe3d3",
  line: "#d8ccb6",
  ink: "#2b211a",
  ink2: "#5f5042",
  ink3: "#75644f",
  walnut: "#6b4226",
  zelkova: "#c08a4a",
  mulberry: "#e2b659",
  magnolia: "#7c8b5a",
  lacquer: "#a83a24",
  focus: "#1d5c63",
  press: "#35271d",
  onPress: "#fff8e8",
  marked: "#fbf1d9",
};

const DARK: typeof LIGHT = {
  paper: "#1e1814",
  sheet: "#28201a",
  sunk: "#171210",
  line: "#43372d",
  ink: "#f2e8d8",
  ink2: "#c6b6a2",
  ink3: "#a99885",
  walnut: "#c08a55",
  zelkova: "#d9a968",
  mulberry: "#e8c274",
  magnolia: "#a9b983",
  lacquer: "#f08d72",
  focus: "#7cc7ce",
  press: "#ead9b8",
  onPress: "#241a13",
  marked: "#43362a",
};

type Tokens = { [Name in keyof typeof LIGHT]: string };

/** The tokens as styles use them; the values change with the theme. */
export const color = Object.fromEntries(Object.keys(LIGHT).map((name) => [name, `var(--${name})`])) as Tokens;

export const font = {
  text: '"Source Sans 3 Variable", sans-serif',
  title: '"Bricolage Grotesque Variable", sans-serif',
};

export const radius = "3px";
/** Below this width a page is a list, then a sheet. */
export const NARROW = "@media (max-width: 860px)";
/** Where things are pressed with a finger: on a narrow screen, and on a tablet. */
export const TOUCH = "@media (max-width: 860px), (pointer: coarse)";
/** The least height of what a finger presses. */
export const TARGET = "44px";
/** The same on a handheld, with gloves on. */
export const HANDHELD = "48px";

const variables = (tokens: Tokens) =>
  Object.entries(tokens)
    .map(([name, value]) => `--${name}: ${value};`)
    .join(" ");

/** What the person chose; "system" follows the device. */
export type ThemeChoice = "system" | "light" | "dark";
export const THEME_CHOICES: readonly ThemeChoice[] = ["system", "light", "dark"];

export const focusRing = css`
  outline: 2px solid ${color.focus};
  outline-offset: 1px;
`;

/** Takes something out of sight and leaves it to screen readers. */
export const unseen = css`
  position: absolute;
  clip-path: inset(50%);
  width: 1px;
  height: 1px;
  overflow: hidden;
  white-space: nowrap;
`;

export const GlobalStyle = createGlobalStyle`
  :root { ${variables(LIGHT)} color-scheme: light; }
  @media (prefers-color-scheme: dark) { :root:not([data-theme="light"]) { ${variables(DARK)} color-scheme: dark; } }
  :root[data-theme="dark"] { ${variables(DARK)} color-scheme: dark; }
  *, *::before, *::after { box-sizing: border-box; }
  html, body, #root { height: 100%; }
  body {
    margin: 0; background: ${color.paper}; color: ${color.ink};
    font: 15px/1.4 ${font.text}; font-variant-numeric: tabular-nums lining-nums;
  }
  h1, h2, h3 { font-family: ${font.title}; letter-spacing: -0.01em; margin: 0; }
  h1 { font-size: 27px; font-weight: 600; line-height: 1.22; letter-spacing: -0.015em; }
  h2 { font-size: 18px; font-weight: 600; }
  a { color: inherit; text-underline-offset: 3px; }
  /* A link among figures is as easy to press as a button, and takes no more room. */
  ${TOUCH} { td a, dd a { display: inline-block; padding-block: 12px; margin-block: -12px; } }
  :focus-visible { ${focusRing} }
`;
