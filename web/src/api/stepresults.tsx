import { Link } from "react-router";
import { Notice } from "../ui/index.ts";
import type { StepResult } from "./onebyone.ts";

/** What became of each of several documents, with a way to it. */
export function StepResults({ results, path }: { results: readonly StepResult[]; path: string }) {
  if (results.length === 0) return null;
  return (
    <Notice role="status">
      {results.map(({ id, number, why, done }) => (
        <div key={id}>
          <Link to={`${path}/${id}`}>{number}</Link>
          {/* A refusal may begin with the number itself. */}
          {why?.startsWith(`${number} `) ? why.slice(number.length) : `: ${why ?? done}`}
        </div>
      ))}
    </Notice>
  );
}
