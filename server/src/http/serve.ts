import {
  type AnswerOf,
  CHANGED_HEADER,
  type DataArea,
  DEVICE_HEADER,
  errorAnswer,
  KEY_HEADER,
  type ParamsOf,
  type ParsedBody,
  type ParsedQuery,
  PERSON_HEADER,
  parseAmounts,
  Refusal,
  type Route,
  VERSION_HEADER,
} from "@yosegi/contract";
import type { FastifyInstance, FastifyReply, FastifyRequest } from "fastify";
import { z } from "zod";
import { change, type Reading, read, type Store, type Writing } from "../db/index.ts";
import { once } from "./requests.ts";

interface Input<R extends Route> {
  params: ParamsOf<R>;
  query: ParsedQuery<R>;
  body: ParsedBody<R>;
  /** The version of the document that a change was made of; null where it is not said. */
  version: number | null;
}

const commandHeaders = z.object({
  [KEY_HEADER]: z
    .string()
    .optional()
    .meta({ description: "Any text of your own; the same key is done once" }),
  [PERSON_HEADER]: z.string().optional().meta({ description: "Id of the person who does it" }),
  [DEVICE_HEADER]: z.string().optional().meta({ description: "What the device is called, URI-encoded" }),
});

/** What replaces a document may say which version it was made of. */
const changeHeaders = commandHeaders.extend({
  [VERSION_HEADER]: z
    .string()
    .regex(/^\d{1,9}$/, "A version is a whole number.")
    .optional()
    .meta({
      description: "Version of the document that is changed; refused where somebody changed it since",
    }),
});

/** Larger bodies are refused before they are read; imports have their own limit. */
export const BODY_LIMIT = 1_000_000;

function schemaOf(route: Route) {
  return {
    summary: route.summary,
    tags: [route.area],
    params: route.params,
    querystring: route.query,
    ...(route.method !== "GET" && { body: route.body }),
    ...(route.command && { headers: route.method === "PUT" ? changeHeaders : commandHeaders }),
    response: { 200: route.answer, "4xx": errorAnswer, "5xx": errorAnswer },
  };
}

/** Serves a question of the contract. */
export function serveAsk<R extends Route>(
  app: FastifyInstance,
  store: Store,
  route: R,
  handle: (ctx: Reading, input: Input<R>) => Promise<AnswerOf<R>>,
  bodyLimit = BODY_LIMIT,
): void {
  register(app, route, bodyLimit, (request) =>
    read(store, (ctx) => handle(ctx, inputOf(route, request)), asking(request)),
  );
}

/** Serves a question that is not one reading of the database: long work, which reads for itself what it needs, and word of it. */
export function serveWork<R extends Route>(
  app: FastifyInstance,
  route: R,
  handle: (input: Input<R>) => Promise<AnswerOf<R>>,
): void {
  register(app, route, BODY_LIMIT, (request) => handle(inputOf(route, request)));
}

/** Serves a command of the contract: one transaction, done once per idempotency key. */
export function serveCommand<R extends Route>(
  app: FastifyInstance,
  store: Store,
  route: R,
  handle: (ctx: Writing, input: Input<R>) => Promise<AnswerOf<R>>,
  bodyLimit = BODY_LIMIT,
): void {
  register(app, route, bodyLimit, (request, reply) => {
    const key = header(request, KEY_HEADER);
    if (key === null) throw new Refusal("key-needed");
    const work = async (ctx: Writing) => {
      if (!ctx.company && !route.anonymous) throw new Refusal("not-set-up");
      const keyed = { key, route: `${route.method} ${request.url}`, body: request.body };
      return once(ctx, keyed, () => handle(ctx, inputOf(route, request)));
    };
    const changed = (areas: readonly DataArea[]) => reply.header(CHANGED_HEADER, areas.join(","));
    return change(store, personOf(request, route), work, { key, changed, device: deviceOf(request) });
  });
}

export interface Bytes {
  name: string;
  type: string;
  content: Buffer;
  /** It never changes under its address, so that the page may keep it. */
  forever: boolean;
}

/** Serves a question whose answer is a file. What a browser may show by itself it shows; all else is kept under its name. */
export function serveBytes<R extends Route>(
  app: FastifyInstance,
  store: Store,
  route: R,
  handle: (ctx: Reading, input: Input<R>) => Promise<Bytes>,
): void {
  app.route({
    method: route.method,
    url: route.path,
    schema: schemaOf(route),
    // The bytes are sent as they are; only a refusal is written, as JSON like all others.
    serializerCompiler: () => (data) => JSON.stringify(data),
    handler: async (request, reply) => {
      const file = await read(store, (ctx) => handle(ctx, inputOf(route, request)), asking(request));
      const shown = file.type.startsWith("image/") || file.type === "application/pdf";
      return reply
        .header("content-type", file.type)
        .header("cache-control", file.forever ? "private, max-age=31536000, immutable" : "no-store")
        .header(
          "content-disposition",
          `${shown ? "inline" : "attachment"}; filename*=UTF-8''${encodeURIComponent(file.name)}`,
        )
        .send(file.content);
    },
  });
}

function register(
  app: FastifyInstance,
  route: Route,
  bodyLimit: number,
  handler: (request: FastifyRequest, reply: FastifyReply) => Promise<unknown>,
): void {
  app.route({ method: route.method, url: route.path, bodyLimit, schema: schemaOf(route), handler });
}

const PERSON_ID = /^\d{1,9}$/;

/** What a route takes, with its amounts parsed: no use case reads a number from text. */
function inputOf<R extends Route>(route: R, request: FastifyRequest): Input<R> {
  return {
    params: request.params as ParamsOf<R>,
    query: parseAmounts(route.query, request.query) as ParsedQuery<R>,
    body: parseAmounts(route.body, request.body) as ParsedBody<R>,
    version: versionOf(request),
  };
}

function versionOf(request: FastifyRequest): number | null {
  const value = header(request, VERSION_HEADER);
  return value === null ? null : Number(value);
}

function header(request: FastifyRequest, name: string): string | null {
  const value = request.headers[name];
  return typeof value === "string" && value !== "" ? value : null;
}

/** Who asks a question, where the request says so. */
function asking(request: FastifyRequest): number | null {
  const value = header(request, PERSON_HEADER);
  return value !== null && PERSON_ID.test(value) ? Number(value) : null;
}

/** What the device is called; a name that can't be read is none. */
function deviceOf(request: FastifyRequest): string {
  const value = header(request, DEVICE_HEADER) ?? "";
  try {
    return decodeURIComponent(value).slice(0, MOST_OF_DEVICE);
  } catch (error) {
    if (error instanceof URIError) return "";
    throw error;
  }
}

const MOST_OF_DEVICE = 40;

function personOf(request: FastifyRequest, route: Route): number | null {
  const value = header(request, PERSON_HEADER);
  if (route.anonymous) return null;
  if (value === null || !PERSON_ID.test(value)) throw new Refusal("person-needed");
  return Number(value);
}
