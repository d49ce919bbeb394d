import { randomUUID } from "node:crypto";
import {
  type AnswerOf,
  type DemandCoverAnswer,
  type ErrorAnswer,
  KEY_HEADER,
  type PartCoverAnswer,
  PERSON_HEADER,
  PLAIN_BUILD,
  type Route,
  routes,
  VERSION_HEADER,
} from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { makeApp } from "../app.ts";
import { audit } from "../audits.ts";
import { read, type Store } from "../db/index.ts";
import { openStore } from "../store.ts";

/** The day on which every test happens. */
export const TODAY = "2026-11-23";

interface Call {
  params?: Record<string, number | string>;
  query?: Record<string, number | string>;
  body?: unknown;
  key?: string;
  person?: number | null;
  /** Of the document that is changed. */
  version?: number;
}

export interface Reply<R extends Route> {
  status: number;
  /** The answer; of a refused request it is not to be read. */
  answer: AnswerOf<R>;
  error: ErrorAnswer;
}

/** A server on a real database file, spoken to over HTTP. */
export interface World {
  app: FastifyInstance;
  store: Store;
  file: string;
  call: <R extends Route>(route: R, call?: Call) => Promise<Reply<R>>;
  /** Calls and expects success. */
  ok: <R extends Route>(route: R, call?: Call) => Promise<AnswerOf<R>>;
  idOf: (code: string) => Promise<number>;
  /** Makes and queues a build; gives its id. */
  queued: (code: string, quantity: string) => Promise<number>;
  /** Checks so many of one product; gives the answer to it, and the parts. */
  check: (item: number, quantity: string) => Promise<{ demand: DemandCoverAnswer; parts: PartCoverAnswer[] }>;
  audit: () => ReturnType<typeof audit>;
  close: () => Promise<void>;
}

/** A server on a database file, which is made where it is not there; `now` is its clock. */
export async function openWorld(
  file: string,
  now: () => Date = () => new Date(`${TODAY}T09:00:00Z`),
): Promise<World> {
  const store = await openStore(file, now);
  const app = await makeApp(store);
  const call: World["call"] = async (
    route,
    { params = {}, query = {}, body, key, person = 1, version } = {},
  ) => {
    const path = Object.entries(params).reduce<string>(
      (p, [k, v]) => p.replace(`:${k}`, String(v)),
      route.path,
    );
    const response = await app.inject({
      method: route.method,
      url: path,
      query: Object.fromEntries(Object.entries(query).map(([k, v]) => [k, String(v)])),
      headers: {
        ...(person !== null && { [PERSON_HEADER]: String(person) }),
        [KEY_HEADER]: key ?? randomUUID(),
        ...(version !== undefined && { [VERSION_HEADER]: String(version) }),
      },
      ...(route.method !== "GET" && { payload: (body ?? {}) as object }),
    });
    // A file, and a page of one, is answered as it is.
    const json = response.headers["content-type"]?.toString().includes("json")
      ? response.json()
      : response.body;
    return { status: response.statusCode, answer: json, error: json };
  };
  const ok: World["ok"] = async (route, input) => {
    const { status, answer, error } = await call(route, input);
    if (status !== 200) throw new Error(`${route.method} ${route.path}: ${status} ${JSON.stringify(error)}`);
    return answer;
  };
  const idOf: World["idOf"] = async (code) => {
    const { items } = await ok(routes.items, { query: { search: code } });
    const item = items.find((i) => i.code === code);
    if (!item) throw new Error(`no item ${code}`);
    return item.id;
  };
  const queued: World["queued"] = async (code, quantity) => {
    const body = { ...PLAIN_BUILD, product: await idOf(code), quantity };
    const { id } = await ok(routes.newBuild, { body });
    await ok(routes.queueBuild, { params: { id } });
    return id;
  };
  const check: World["check"] = async (item, quantity) => {
    const { demands, parts } = await ok(routes.cover, { body: { demands: [{ item, quantity }] } });
    const [demand] = demands;
    if (!demand) throw new Error("the check has no answer");
    return { demand, parts };
  };
  const close = async () => {
    await app.close();
    await store.close();
  };
  return { app, store, file, call, ok, idOf, queued, check, audit: () => read(store, audit), close };
}
