import { useQueryClient } from "@tanstack/react-query";
import type { AnswerOf, ErrorAnswer, Route } from "@yosegi/contract";
import { useRef, useState } from "react";
import { sayFailed } from "../ui/index.ts";
import { command, type Done, type Input, NoAnswer, Refused } from "./call.ts";
import { answered, keyOf } from "./key.ts";
import { refresh, whileUnderWay } from "./refresh.ts";

/** Messages by field path, as forms show them. */
export type FieldErrors = Record<string, string>;

export interface Press<R extends Route> {
  /**
   * Checks the input by the route's own schema, then sends it. Gives the answer, or null where it was refused, or another
   * press is still under way.
   */
  run: (input: Input<R>) => Promise<AnswerOf<R> | null>;
  /** From the press until everything is done: answered, and what it changed asked again. */
  busy: boolean;
}

export interface Command<R extends Route> extends Press<R> {
  errors: FieldErrors;
  /** The refusal as a whole, for what concerns no single field. */
  refusal: ErrorAnswer | null;
  /** Forgets the errors. */
  clear: () => void;
}

/**
 * A command of a form: one schema for server and screen, messages at their fields. A press counts once: nothing more is sent
 * while it is under way, and what is pressed again goes with the same idempotency key until an answer came, so that a lost
 * answer never makes it happen twice. `done` is called when everything is done; `recorded` as soon as it is recorded, before
 * what changed is asked again.
 */
export function useCommand<R extends Route>(
  route: R,
  done?: (answer: AnswerOf<R>) => void,
  recorded?: () => void,
): Command<R> {
  const [refusal, setRefusal] = useState<ErrorAnswer | null>(null);
  const press = useSend(route, { refused: setRefusal, done, recorded });
  const errors = Object.fromEntries((refusal?.fields ?? []).map((f) => [f.field, f.message]));
  return { ...press, errors, refusal, clear: () => setRefusal(null) };
}

/** The same for a button without a form: why it is refused is said in a message. */
export function usePress<R extends Route>(route: R, done?: (answer: AnswerOf<R>) => void): Press<R> {
  const say = (refusal: ErrorAnswer | null) => {
    if (refusal) sayFailed(refusal.fields[0]?.message ?? refusal.message);
  };
  return useSend(route, { refused: say, done });
}

export interface Sending<R extends Route> {
  /** Why it is refused; null once it is recorded. */
  refused: (refusal: ErrorAnswer | null) => void;
  /** It is recorded; what it changed is still to be asked again. */
  recorded?: (() => void) | undefined;
  /** Everything is done. */
  done?: ((answer: AnswerOf<R>) => void) | undefined;
}

/** A command that is sent once at a time, and once in all where its answer was lost. */
export function useSend<R extends Route>(route: R, { refused, recorded, done }: Sending<R>): Press<R> {
  const client = useQueryClient();
  const [busy, setBusy] = useState(false);
  const running = useRef(false);
  const run = async (input: Input<R>) => {
    if (running.current) return null;
    const local = check(route, input.body);
    if (local) {
      refused(local);
      return null;
    }
    running.current = true;
    setBusy(true);
    let isRecorded = false;
    try {
      const answer = await sendOnce(route, input, async (sent) => {
        isRecorded = true;
        refused(null);
        recorded?.();
        // An answer that was given before says no longer what it changed.
        await refresh(client, sent.changed.length > 0 ? sent.changed : null);
        return sent.answer;
      });
      done?.(answer);
      return answer;
    } catch (error) {
      const refusal = refusalOf(error, isRecorded);
      // What somebody else made of it is shown beside what was typed.
      if (refusal.code === "stale") await refresh(client, null);
      refused(refusal);
      return null;
    } finally {
      running.current = false;
      setBusy(false);
    }
  };
  return { run, busy };
}

/**
 * Sends a command with the same idempotency key until an answer came, and does what follows from that before others' changes are
 * told from it. Throws `Refused` or `NoAnswer`.
 */
export function sendOnce<R extends Route, T>(
  route: R,
  input: Input<R>,
  follow: (sent: Done<R>) => Promise<T>,
): Promise<T> {
  const what = `${route.method} ${route.path} ${JSON.stringify(input.params ?? {})}`;
  const key = keyOf(what);
  return whileUnderWay(key, async () => {
    const sent = await command(route, input, key).catch((error: unknown) => {
      if (error instanceof Refused) answered(what);
      throw error;
    });
    answered(what);
    return follow(sent);
  });
}

const LOST =
  "Can't reach the server. We don't know yet whether this was saved – try again, it won't be saved twice.";

/** What a person is told of an error, whatever it is, before or after it was recorded. One that nobody expected is logged too. */
function refusalOf(error: unknown, isRecorded: boolean): ErrorAnswer {
  if (error instanceof Refused)
    return error.answer.code === "key-reused"
      ? {
          ...error.answer,
          message:
            "This was recorded already, as it stood before the connection was lost. Look at it first; Save records the rest as something new.",
        }
      : error.answer;
  if (error instanceof NoAnswer) return { code: "no-answer", message: LOST, fields: [] };
  console.error(error);
  return {
    code: "unexpected",
    message: isRecorded
      ? "This was saved, but something went wrong in this page after it. Load the page again before you go on."
      : "Something went wrong in this page. What you typed is still here; try again.",
    fields: [],
  };
}

function check(route: Route, body: unknown): ErrorAnswer | null {
  const parsed = route.body.safeParse(body ?? {});
  if (parsed.success) return null;
  return {
    code: "invalid-input",
    message: "Please check the marked fields.",
    fields: parsed.error.issues.map((issue) => ({
      field: issue.path.join("."),
      code: "invalid-input",
      message: issue.message,
    })),
  };
}
