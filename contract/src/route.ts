import type { Parsed } from "./amounts.ts";
import type { Permission } from "./permissions.ts";
import { z } from "./zod.ts";

type Shape = z.ZodType;

/** One thing the API can do. The server serves it, the page calls it, and the OpenAPI document is made from it. */
export interface Route<
  P extends Shape = Shape,
  Q extends Shape = Shape,
  B extends Shape = Shape,
  A extends Shape = Shape,
> {
  method: "GET" | "POST" | "PUT";
  path: `/api/${string}`;
  summary: string;
  /** The area it belongs to. */
  area: string;
  /** What a person must be allowed to do for it. */
  permission: Permission;
  /** A command changes the database: it is one transaction, says who does it, and is done once per idempotency key. */
  command: boolean;
  /** A command that may come before there is anybody to name. */
  anonymous: boolean;
  params: P;
  query: Q;
  body: B;
  answer: A;
}

const nothing = z.object({});
type Nothing = typeof nothing;

interface Parts<P extends Shape, Q extends Shape, B extends Shape, A extends Shape> {
  summary: string;
  permission: Permission;
  params?: P;
  query?: Q;
  body?: B;
  answer: A;
  anonymous?: boolean;
}

function route<P extends Shape, Q extends Shape, B extends Shape, A extends Shape>(
  method: Route["method"],
  path: Route["path"],
  command: boolean,
  parts: Parts<P, Q, B, A>,
): Route<P, Q, B, A> {
  return {
    method,
    path,
    summary: parts.summary,
    permission: parts.permission,
    area: path.split("/")[2] ?? "",
    command,
    anonymous: parts.anonymous ?? false,
    params: (parts.params ?? nothing) as P,
    query: (parts.query ?? nothing) as Q,
    body: (parts.body ?? nothing) as B,
    answer: parts.answer,
  };
}

/** A question: changes nothing. */
export const ask = <A extends Shape, P extends Shape = Nothing, Q extends Shape = Nothing>(
  path: Route["path"],
  parts: Parts<P, Q, Nothing, A>,
): Route<P, Q, Nothing, A> => route("GET", path, false, parts);

/** A question too long for an address, so it is asked with a body; it changes nothing either. */
export const askWith = <B extends Shape, A extends Shape, P extends Shape = Nothing>(
  path: Route["path"],
  parts: Parts<P, Nothing, B, A>,
): Route<P, Nothing, B, A> => route("POST", path, false, parts);

/** A command that makes or does something. */
export const command = <A extends Shape, P extends Shape = Nothing, B extends Shape = Nothing>(
  path: Route["path"],
  parts: Parts<P, Nothing, B, A>,
): Route<P, Nothing, B, A> => route("POST", path, true, parts);

/** A command that replaces the stored value. */
export const replace = <A extends Shape, P extends Shape = Nothing, B extends Shape = Nothing>(
  path: Route["path"],
  parts: Parts<P, Nothing, B, A>,
): Route<P, Nothing, B, A> => route("PUT", path, true, parts);

export type ParamsOf<R extends Route> = z.output<R["params"]>;
export type QueryOf<R extends Route> = z.output<R["query"]>;
export type BodyOf<R extends Route> = z.output<R["body"]>;
/** A body and a query as a use case gets them: amounts are exact decimals. */
export type ParsedBody<R extends Route> = Parsed<R["body"]>;
export type ParsedQuery<R extends Route> = Parsed<R["query"]>;
export type AnswerOf<R extends Route> = z.output<R["answer"]>;

/** Headers of a command. */
export const PERSON_HEADER = "yosegi-person";
export const KEY_HEADER = "idempotency-key";
/** What the person calls the device, as it stands in an address (encodeURIComponent): a header has plain letters only. */
export const DEVICE_HEADER = "yosegi-device";
/** The version of the document that a change was made of; where somebody changed it since, the change is refused. */
export const VERSION_HEADER = "yosegi-version";
