import {
  type AnswerOf,
  type BodyOf,
  CHANGED_HEADER,
  changedAreas,
  type DataArea,
  DEVICE_HEADER,
  type ErrorAnswer,
  errorAnswer,
  KEY_HEADER,
  type ParamsOf,
  PERSON_HEADER,
  type QueryOf,
  type Route,
  VERSION_HEADER,
} from "@yosegi/contract";
import { connected, disconnected } from "./connection.ts";

/** What a route takes; parts that it has none of may be left out. */
export type Input<R extends Route> = R extends Route
  ? Part<"params", ParamsOf<R>> &
      Part<"query", Partial<QueryOf<R>>> &
      Part<"body", BodyOf<R>> & {
        /** The version of the document that is changed, as it was when the change began. */
        version?: number | null;
      }
  : never;
// A part without fields is typed as a record of nothing, whose key is any string.
type Part<Name extends string, T> = string extends keyof T ? { [N in Name]?: T } : { [N in Name]: T };

/** The server refused; it says why, and at which fields. */
export class Refused extends Error {
  readonly answer: ErrorAnswer;
  constructor(answer: ErrorAnswer) {
    super(answer.message);
    this.answer = answer;
  }
}

/** No answer came: the server is not there. The same request may be sent again with its key. */
export class NoAnswer extends Error {}

let working: number | null = null;
/** Says who is working; goes with every command from now on. */
export function setWorking(person: number | null): void {
  working = person;
}

let device = "";
/** Says what this device is called; goes with every command from now on. */
export function setDevice(name: string): void {
  device = name;
}

/** What a command answered, and the areas that it changed; none where it was done before, or changed nothing. */
export interface Done<R extends Route> {
  answer: AnswerOf<R>;
  changed: DataArea[];
}

/** Asks a question of the contract. Throws `Refused`, `NoAnswer`, or the reason of `signal` where the answer is not wanted any more. */
export async function call<R extends Route>(
  route: R,
  input: Input<R>,
  signal?: AbortSignal,
): Promise<AnswerOf<R>> {
  return (await request(route, input, { person: working, signal })).answer;
}

/**
 * Sends a command of the contract; the same key is done once, however often it is sent. `person` is who did it, where that is not who works
 * now. Throws `Refused` or `NoAnswer`.
 */
export const command = <R extends Route>(
  route: R,
  input: Input<R>,
  key: string,
  person = working,
): Promise<Done<R>> => request(route, input, { key, person });

async function request<R extends Route>(
  route: R,
  input: Input<R>,
  { key, person, signal }: { key?: string; person: number | null; signal?: AbortSignal | undefined },
): Promise<Done<R>> {
  const response = await send(address(route, input), {
    method: route.method,
    signal: signal ?? null,
    headers: {
      accept: "application/json",
      ...(route.method !== "GET" && { "content-type": "application/json" }),
      ...(person !== null && { [PERSON_HEADER]: String(person) }),
      ...(device !== "" && { [DEVICE_HEADER]: encodeURIComponent(device) }),
      ...(key !== undefined && { [KEY_HEADER]: key }),
      ...(typeof input.version === "number" && { [VERSION_HEADER]: String(input.version) }),
    },
    ...(route.method !== "GET" && { body: JSON.stringify(input.body ?? {}) }),
  });
  const body: unknown = await response.json().catch(() => {
    throw new NoAnswer(`The server answered with ${response.status} and no JSON.`);
  });
  if (response.ok)
    return { answer: body as AnswerOf<R>, changed: changedAreas(response.headers.get(CHANGED_HEADER)) };
  const refused = errorAnswer.safeParse(body);
  if (!refused.success) throw new NoAnswer(`The server answered with ${response.status}.`);
  throw new Refused(refused.data);
}

/** Marks an answer that this device kept from before, for the server is away (serviceworker.js). */
const FROM_BEFORE = "yosegi-from-before";

async function send(url: string, init: RequestInit): Promise<Response> {
  try {
    const response = await fetch(url, init);
    if (response.headers.has(FROM_BEFORE)) disconnected();
    else connected();
    return response;
  } catch (cause) {
    if (init.signal?.aborted) throw cause;
    disconnected();
    throw new NoAnswer("Can't reach the server.", { cause });
  }
}

function address(route: Route, input: { params?: unknown; query?: unknown }): string {
  const params = Object.entries((input.params ?? {}) as Record<string, unknown>);
  const path = params.reduce<string>(
    (p, [name, value]) => p.replace(`:${name}`, encodeURIComponent(String(value))),
    route.path,
  );
  const query = Object.entries((input.query ?? {}) as Record<string, unknown>).filter(
    ([, v]) => v !== undefined && v !== "",
  );
  const search = new URLSearchParams(query.map(([name, value]) => [name, String(value)])).toString();
  return search === "" ? path : `${path}?${search}`;
}
