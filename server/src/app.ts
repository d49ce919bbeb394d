import { existsSync } from "node:fs";
import fastifyStatic from "@fastify/static";
import fastifySwagger from "@fastify/swagger";
import fastify, { type FastifyInstance, type FastifyServerOptions } from "fastify";
import {
  jsonSchemaTransform,
  jsonSchemaTransformObject,
  serializerCompiler,
  validatorCompiler,
} from "fastify-type-provider-zod";
import { buildRoutes } from "./builds/index.ts";
import { buyingRoutes } from "./buying/index.ts";
import { countsRoutes } from "./counts/index.ts";
import { coverRoutes } from "./cover/index.ts";
import { customFieldRoutes } from "./customfields/index.ts";
import type { Store } from "./db/index.ts";
import { fileRoutes } from "./files/index.ts";
import { findRoutes } from "./find/index.ts";
import { firmRoutes } from "./firms/index.ts";
import { BODY_LIMIT, guardOrigin, handleErrors, refuseUnreadableText, serveEvents } from "./http/index.ts";
import { importRoutes } from "./imports/index.ts";
import { itemRoutes } from "./items/index.ts";
import { itemSheetRoutes } from "./itemsheets/index.ts";
import { jobRoutes } from "./jobs/index.ts";
import { kitRoutes } from "./kits/index.ts";
import { labelRoutes } from "./labels/index.ts";
import { listRoutes } from "./lists/index.ts";
import { messageRoutes } from "./messages/index.ts";
import { mixRoutes } from "./mix/index.ts";
import { noticeRoutes } from "./notices/index.ts";
import { orderRoutes } from "./orders/index.ts";
import { outboxRoutes } from "./outbox/index.ts";
import { paperRoutes } from "./papers/index.ts";
import { peopleRoutes } from "./people/index.ts";
import { pickingRoutes } from "./picking/index.ts";
import { pieceRoutes } from "./pieces/index.ts";
import { priceRoutes } from "./prices/index.ts";
import { recurringRoutes } from "./recurring/index.ts";
import { replacingRoutes } from "./replacing/index.ts";
import { returnRoutes } from "./returns/index.ts";
import { reworkRoutes } from "./reworks/index.ts";
import { type Certificate, secureRoutes } from "./secure/index.ts";
import { shippingRoutes } from "./shipping/index.ts";
import { stockRoutes } from "./stock/index.ts";
import { storeRoutes } from "./stores/index.ts";
import { supplierReturnRoutes } from "./supplierreturns/index.ts";
import { takeApartRoutes } from "./takeaparts/index.ts";
import { todayRoutes } from "./today/index.ts";
import { traceRoutes } from "./trace/index.ts";

const AREAS = [
  peopleRoutes,
  itemRoutes,
  listRoutes,
  kitRoutes,
  messageRoutes,
  priceRoutes,
  replacingRoutes,
  itemSheetRoutes,
  firmRoutes,
  customFieldRoutes,
  fileRoutes,
  coverRoutes,
  mixRoutes,
  buyingRoutes,
  outboxRoutes,
  paperRoutes,
  orderRoutes,
  pickingRoutes,
  shippingRoutes,
  returnRoutes,
  supplierReturnRoutes,
  reworkRoutes,
  takeApartRoutes,
  buildRoutes,
  recurringRoutes,
  labelRoutes,
  storeRoutes,
  stockRoutes,
  countsRoutes,
  pieceRoutes,
  noticeRoutes,
  todayRoutes,
  traceRoutes,
  importRoutes,
  jobRoutes,
  findRoutes,
];

// Everything comes from this server; styled-components writes its rules into the page.
const POLICY =
  "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'";

export interface AppOptions {
  /** Folder of the built page; without it only the API is served. */
  page?: string;
  /** Names by which this server may be called, besides localhost, IP addresses and the machine's own names. */
  hosts?: readonly string[];
  logger?: FastifyServerOptions["logger"];
  /** What it answers HTTPS with; without it, it speaks plain HTTP. */
  certificate?: Certificate | null;
  /** Its addresses for other devices, once it listens. */
  addresses?: () => readonly string[];
}

/** The whole server: API, its OpenAPI document, and the page. */
export async function makeApp(
  store: Store,
  { page, hosts = [], logger = false, certificate = null, addresses = () => [] }: AppOptions = {},
): Promise<FastifyInstance> {
  const https = certificate && { key: certificate.key, cert: `${certificate.cert}${certificate.authority}` };
  const options: FastifyServerOptions = { logger, bodyLimit: BODY_LIMIT, ...(https && { https }) };
  const app = fastify(options);
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  handleErrors(app);
  guardOrigin(app, hosts);
  refuseUnreadableText(app);
  app.addHook("onSend", async (_request, reply) => {
    reply.header("x-content-type-options", "nosniff").header("content-security-policy", POLICY);
  });
  await app.register(fastifySwagger, {
    openapi: {
      openapi: "3.1.0",
      info: {
        title: "Yosegi",
        version: "0.1.0",
        description:
          "Parts lists, stock checks and builds. Amounts are exact decimals as text; days are calendar dates. `/api/events` streams what changes (server-sent events, each with its areas).",
      },
    },
    transform: jsonSchemaTransform,
    transformObject: jsonSchemaTransformObject,
  });
  await app.register(async (api) => {
    for (const area of AREAS) area(api, store);
    secureRoutes({ addresses, authority: certificate?.authority ?? null })(api, store);
    serveEvents(api, store);
    api.get("/api/openapi.json", { schema: { hide: true } }, async () => app.swagger());
  });
  if (page !== undefined && existsSync(page)) await servePage(app, page);
  return app;
}

/** Serves the built page; every address of its own leads to index.html, so that a reload works anywhere. */
async function servePage(app: FastifyInstance, page: string): Promise<void> {
  await app.register(fastifyStatic, {
    root: page,
    wildcard: false,
    maxAge: "1y",
    immutable: true,
    index: false,
    setHeaders: (reply, path) => {
      // A new version of the page is found by it.
      if (path.endsWith("serviceworker.js")) reply.header("cache-control", "no-cache");
    },
  });
  app.get("/*", { schema: { hide: true } }, async (request, reply) => {
    // A part of the page that is gone, for it was built anew, is not the page itself.
    if (/^\/(api|assets)\//.test(request.url)) return reply.callNotFound();
    return reply.sendFile("index.html", { maxAge: 0, immutable: false, cacheControl: true });
  });
}
