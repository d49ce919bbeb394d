import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { AnswerOf, ErrorAnswer, Route } from "@yosegi/contract";
import { useRef, useState } from "react";
import { call, type Input, NoAnswer, Refused } from "./call.ts";
import { newKey } from "./key.ts";

/** Messages by field path, as forms show them. */
export type FieldErrors = Record<string, string>;

export interface Command<R extends Route> {
  /** Checks the input by the route's own schema, then sends it. Gives the answer, or null where it was refused. */
  run: (input: Input<R>) => Promise<AnswerOf<R> | null>;
  busy: boolean;
  errors: FieldErrors;
  /** The refusal as a whole, for what concerns no single field. */
  refusal: ErrorAnswer | null;
  /** Forgets the errors. */
  clear: () => void;
}

/**
 * A command of the page: one schema for server and screen, messages at their fields, and one idempotency key for as long
 * as the same input is tried again, so that a lost answer never makes it happen twice.
 */
export function useCommand<R extends Route>(route: R, done?: (answer: AnswerOf<R>) => void): Command<R> {
  const client = useQueryClient();
  const [refusal, setRefusal] = useState<ErrorAnswer | null>(null);
  const attempt = useRef({ input: "", key: "" });
  const mutation = useMutation({
    mutationFn: (input: Input<R>) => {
      const text = JSON.stringify(input);
      if (attempt.current.input !== text) attempt.current = { input: text, key: newKey() };
      return call(route, input, attempt.current.key);
    },
  });
  const run = async (input: Input<R>) => {
    const local = check(route, input.body);
    if (local) {
      setRefusal(local);
      return null;
    }
    try {
      const answer = await mutation.mutateAsync(input);
      attempt.current = { input: "", key: "" };
      setRefusal(null);
      // Figures on other pages depend on nearly everything; what is in view is fetched anew at once.
      await client.invalidateQueries();
      done?.(answer);
      return answer;
    } catch (error) {
      if (error instanceof Refused) setRefusal(error.answer);
      else if (error instanceof NoAnswer)
        setRefusal({ code: "no-answer", message: error.message, fields: [] });
      else throw error;
      return null;
    }
  };
  const errors = Object.fromEntries((refusal?.fields ?? []).map((f) => [f.field, f.message]));
  return { run, busy: mutation.isPending, errors, refusal, clear: () => setRefusal(null) };
}

function check(route: Route, body: unknown): ErrorAnswer | null {
  const parsed = route.body.safeParse(body ?? {});
  if (parsed.success) return null;
  return {
    code: "invalid-input",
    message: "Some of this cannot be right; see the fields.",
    fields: parsed.error.issues.map((issue) => ({
      field: issue.path.join("."),
      code: "invalid-input",
      message: issue.message,
    })),
  };
}
