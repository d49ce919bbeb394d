import {
  type AnswerOf,
  type BodyOf,
  type ErrorAnswer,
  errorAnswer,
  KEY_HEADER,
  type ParamsOf,
  PERSON_HEADER,
  type QueryOf,
  type Route,
} from "@yosegi/contract";

/** What a route takes; parts that it has none of may be left out. */
export type Input<R extends Route> = Part<"params", ParamsOf<R>> &
  Part<"query", Partial<QueryOf<R>>> &
  Part<"body", BodyOf<R>>;
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

/** Calls a route of the contract. Throws `Refused` or `NoAnswer`. */
export async function call<R extends Route>(route: R, input: Input<R>, key?: string): Promise<AnswerOf<R>> {
  const response = await send(address(route, input), {
    method: route.method,
    headers: {
      accept: "application/json",
      ...(route.method !== "GET" && { "content-type": "application/json" }),
      ...(working !== null && { [PERSON_HEADER]: String(working) }),
      ...(key !== undefined && { [KEY_HEADER]: key }),
    },
    ...(route.method !== "GET" && { body: JSON.stringify(input.body ?? {}) }),
  });
  const body: unknown = await response.json().catch(() => {
    throw new NoAnswer(`The server answered with ${response.status} and no JSON.`);
  });
  if (response.ok) return body as AnswerOf<R>;
  const refused = errorAnswer.safeParse(body);
  if (!refused.success) throw new NoAnswer(`The server answered with ${response.status}.`);
  throw new Refused(refused.data);
}

async function send(url: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(url, init);
  } catch (cause) {
    throw new NoAnswer("The server does not answer. Nothing was recorded; try again.", { cause });
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
