import type { Day } from "../amounts/index.ts";

/** How a company writes a date on its papers, each by the same day as an example. */
export const DATE_STYLES = ["23 Nov 2026", "23.11.2026", "23/11/2026", "11/23/2026", "2026-11-23"] as const;
export type DateStyle = (typeof DATE_STYLES)[number];

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** A day as papers write it. */
export function writtenDay(written: Day, style: DateStyle): string {
  const [year = "", month = "", day = ""] = written.split("-");
  switch (style) {
    case "23 Nov 2026":
      return `${Number(day)} ${MONTHS[Number(month) - 1] ?? month} ${year}`;
    case "23.11.2026":
      return `${day}.${month}.${year}`;
    case "23/11/2026":
      return `${day}/${month}/${year}`;
    case "11/23/2026":
      return `${month}/${day}/${year}`;
    case "2026-11-23":
      return written;
  }
}

/** A text with what stands for `{names}` in it; a name that is not known stays as it is written. */
export const filledIn = (text: string, values: Readonly<Record<string, string>>): string =>
  text.replace(/\{(\w+)\}/g, (whole, name: string) => values[name] ?? whole);
