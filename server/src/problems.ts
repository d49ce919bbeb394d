import { messageOf, Refusal } from "@yosegi/contract";
import type { Problem } from "@yosegi/core";

/** Refuses a form for what the core found wrong with it; `path` turns a problem's row into the field's path. */
export function refuseProblems(problems: readonly Problem[], path: (problem: Problem) => string): void {
  const [first] = problems;
  if (!first) return;
  const fields = problems.map((p) => ({
    field: path(p),
    code: p.code,
    message: messageOf(p.code, p.params),
  }));
  throw problems.length === 1
    ? new Refusal(first.code, first.params, fields)
    : new Refusal("invalid-input", {}, fields);
}
