import type { z } from "zod";

/**
 * What is said of a fault where the schema has no words of its own: the library's never reach a person. Forms, requests and
 * files are all read by schemas of this package, so it is settled here, once.
 */
export function plainWords(issue: z.core.$ZodRawIssue): string {
  switch (issue.code) {
    case "invalid_type":
      return issue.input === undefined || issue.input === null || issue.input === ""
        ? "This is missing."
        : "This can't be read.";
    case "too_small":
      if (issue.origin === "array") return "At least one is needed.";
      if (issue.origin === "string") return "This is missing.";
      return Number(issue.minimum) <= 0 && issue.inclusive === false
        ? "Choose one."
        : `This is at least ${issue.minimum}.`;
    case "too_big":
      if (issue.origin === "array") return `Up to ${issue.maximum} are allowed at once.`;
      if (issue.origin === "string") return `Up to ${issue.maximum} characters are allowed.`;
      return `This is at most ${issue.maximum}.`;
    case "invalid_value":
      return `Choose one of these: ${issue.values.map(String).join(", ")}.`;
    default:
      return "This can't be read.";
  }
}
