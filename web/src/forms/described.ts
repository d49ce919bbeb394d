import { get } from "react-hook-form";
import type { Claims, Described } from "../ui/index.ts";

/** A name within a line of a list: the list, and what of the line. */
const IN_LINE = /^(.+?)\.\d+\.(.+)$/;

/** What the values of a form say, by what its fields show of them: to be held against what somebody else saved meanwhile. */
export function describeBy(claims: Claims, values: object): Described {
  const lists = new Map<string, Set<string>>();
  const single: [string, string][] = [];
  for (const [name, { label }] of claims) {
    const [, list, part] = IN_LINE.exec(name) ?? [];
    if (list === undefined || part === undefined) single.push([label, said(get(values, name))]);
    else lists.set(list, (lists.get(list) ?? new Set()).add(part));
  }
  const lines = [...lists].flatMap(([list, parts]) =>
    ((get(values, list) ?? []) as object[])
      .map((line) =>
        [...parts]
          .map((part) => said(get(line, part)))
          .filter(Boolean)
          .join(" "),
      )
      .filter(Boolean)
      .map((text): [string, string] => ["Line", text]),
  );
  return [...single, ...lines].filter(([label]) => label !== "");
}

/** A value as text: what was chosen by its code or name. */
function said(value: unknown): string {
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value !== "object" || value === null) return String(value ?? "");
  const { code, name } = value as { code?: string; name?: string };
  return code || name || "";
}
