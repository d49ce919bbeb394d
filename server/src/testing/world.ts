import { mkdtemp, readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import {
  type AnswerOf,
  type DemandCoverAnswer,
  type ErrorAnswer,
  type FinishBody,
  IMPORT_KINDS,
  IMPORT_NAMES,
  type ImportFile,
  type ImportKind,
  KEY_HEADER,
  type PartCoverAnswer,
  PERSON_HEADER,
  PLAIN_BUILD,
  PLAIN_FINISH,
  PLAIN_LINE,
  type Route,
  routes,
} from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { afterEach } from "vitest";
import { makeApp } from "../app.ts";
import { openStore, read, type Store } from "../db/index.ts";
import { audit } from "../ledger/index.ts";

/** The day on which every test happens. */
export const TODAY = "2026-11-23";

interface Call {
  params?: Record<string, number | string>;
  query?: Record<string, number | string>;
  body?: unknown;
  key?: string;
  person?: number | null;
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
}

const closing: (() => Promise<void>)[] = [];
afterEach(async () => {
  for (const close of closing.splice(0)) await close();
});

let keys = 0;

/** A new, empty database. */
export async function emptyWorld(): Promise<World> {
  const folder = await mkdtemp(join(tmpdir(), "yosegi-"));
  const file = join(folder, "test.db");
  const store = await openStore(file, () => new Date(`${TODAY}T09:00:00Z`));
  const app = await makeApp(store);
  closing.push(async () => {
    await app.close();
    await store.db.close();
    await rm(folder, { recursive: true });
  });
  const call: World["call"] = async (route, { params = {}, query = {}, body, key, person = 1 } = {}) => {
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
        [KEY_HEADER]: key ?? `test-${keys++}`,
      },
      ...(route.method !== "GET" && { payload: (body ?? {}) as object }),
    });
    const json = response.json();
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
  return { app, store, file, call, ok, idOf, queued, check, audit: () => read(store, audit) };
}

/** A company with one store and one person, and nothing else. */
export async function bareWorld(): Promise<World> {
  const world = await emptyWorld();
  await world.ok(routes.setUp, {
    body: {
      name: "Brackenmere Bee Supply",
      currency: "EUR",
      timeZone: "Europe/Vienna",
      store: "Front store",
      person: "Ines",
    },
    person: null,
  });
  return world;
}

/** A file as the page sends it. */
export const fileOf = (
  kind: ImportKind,
  content: string | Buffer,
  change: Partial<ImportFile> = {},
): ImportFile => ({
  kind,
  name: `${IMPORT_NAMES[kind]}.csv`,
  content: Buffer.from(content).toString("base64"),
  columns: {},
  ...change,
});

/** The text of a file that ships with the demo. */
export const demoText = (kind: ImportKind): Promise<string> =>
  readFile(new URL(`../../../demo/${IMPORT_NAMES[kind]}.csv`, import.meta.url), "utf8");

/** All files that ship with the demo. */
export async function demoFiles(): Promise<ImportFile[]> {
  return Promise.all(IMPORT_KINDS.map(async (kind) => fileOf(kind, await demoText(kind))));
}

/** The demo company's catalog and opening stock, with no builds yet. */
export async function demoWorld(): Promise<World> {
  const world = await bareWorld();
  for (const name of ["Tobias", "Maren"]) await world.ok(routes.addPerson, { body: { name } });
  const body = { files: await demoFiles(), update: false, job: "demo" };
  const { token } = await world.ok(routes.checkImport, { body });
  await world.ok(routes.import, { body: { ...body, token, goodRowsOnly: false } });
  return world;
}

/** A finish with nothing changed from the plan. */
export function finishOf(good: string, change: Partial<FinishBody> = {}): FinishBody {
  return { ...PLAIN_FINISH, good, day: TODAY, store: "Front store", ...change };
}

/** What was really used of a line. */
export const usedOf = (
  line: number,
  used: string,
  change: Partial<FinishBody["lines"][number]> = {},
): FinishBody["lines"][number] => ({ ...PLAIN_LINE, line, used, ...change });

/** "field code" of each field of a refusal. */
export const fieldsOf = (error: ErrorAnswer): string[] => error.fields.map((f) => `${f.field} ${f.code}`);
