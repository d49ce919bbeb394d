import { get } from "react-hook-form";

/**
 * Where the lines of a list stand in a form that sends only some of them: gives, for a path in what is sent, the name of the
 * field in the form.
 */
export const sentLines =
  <Line>(list: string, isSent: (line: Line) => boolean) =>
  (path: string, values: object): string => {
    const [name, at, ...rest] = path.split(".");
    if (name !== list || at === undefined) return path;
    const sent = ((get(values, list) ?? []) as Line[]).flatMap((line, i) => (isSent(line) ? [i] : []));
    return [list, sent[Number(at)] ?? at, ...rest].join(".");
  };
