import { isIP } from "node:net";
import { hostname } from "node:os";
import { Refusal } from "@yosegi/contract";
import type { FastifyInstance, FastifyRequest } from "fastify";

/**
 * Answers only those who call this server by a name of its own, and no page of another address: else a foreign name that
 * points here could read and change everything through the browser of whoever opens it. Its own names are localhost, any IP
 * address, those of this machine, and `more`.
 */
export function guardOrigin(app: FastifyInstance, more: readonly string[]): void {
  const machine = hostname().toLowerCase();
  const names = new Set([
    "localhost",
    machine,
    `${machine}.local`,
    ...more.map((name) => name.toLowerCase()),
  ]);
  app.addHook("onRequest", async (request) => {
    const host = request.headers.host ?? "";
    const name = nameOf(host);
    if (!names.has(name) && isIP(name) === 0) throw new Refusal("host-unknown", { host: host.slice(0, 100) });
    refuseForeign(request, host);
  });
}

/** A browser says by Origin which page sends a request; it may only be one of this server. */
function refuseForeign({ headers }: FastifyRequest, host: string): void {
  const { origin } = headers;
  if (origin === undefined) return;
  const from = URL.canParse(origin) ? new URL(origin).host : origin;
  if (from !== host.toLowerCase()) throw new Refusal("origin-foreign", { origin: origin.slice(0, 100) });
}

/** A host without its port, and an IPv6 address without its brackets. */
const nameOf = (host: string): string =>
  host
    .toLowerCase()
    .replace(/:\d+$/, "")
    .replace(/^\[(.*)\]$/, "$1");
