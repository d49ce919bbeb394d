import { X509Certificate } from "node:crypto";
import { mkdtemp, stat } from "node:fs/promises";
import { request } from "node:https";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { routes } from "@yosegi/contract";
import { expect, it } from "vitest";
import { makeApp } from "../app.ts";
import { bareWorld } from "../testing/world.ts";
import { serverCertificate } from "./certificate.ts";

const NOW = new Date("2026-11-23T09:00:00Z");
const later = (days: number) => new Date(NOW.getTime() + days * 86_400_000);
const folder = () => mkdtemp(join(tmpdir(), "yosegi-cert-"));

it("is for all names, signed by an authority that stays while it is made anew", async () => {
  const at = await folder();
  const first = await serverCertificate(at, ["localhost", "127.0.0.1"], NOW);
  const cert = new X509Certificate(first.cert);
  expect([cert.checkHost("localhost"), cert.checkIP("127.0.0.1"), cert.checkHost("other")]).toEqual([
    "localhost",
    "127.0.0.1",
    undefined,
  ]);
  expect(cert.verify(new X509Certificate(first.authority).publicKey)).toBe(true);
  expect((await stat(join(at, "server-key.pem"))).mode & 0o777).toBe(0o600);
  expect(await serverCertificate(at, ["localhost"], later(1))).toEqual(first);
  const named = await serverCertificate(at, ["localhost", "bees.example"], later(2));
  expect(named.cert).not.toBe(first.cert);
  const renewed = await serverCertificate(at, ["localhost", "bees.example"], later(380));
  expect(renewed.cert).not.toBe(named.cert);
  expect([named.authority, renewed.authority]).toEqual([first.authority, first.authority]);
});

it("is what the server answers HTTPS with, and who trusts its authority trusts it", async () => {
  const certificate = await serverCertificate(await folder(), ["localhost"], new Date());
  const { store } = await bareWorld();
  const app = await makeApp(store, { certificate, addresses: () => ["https://192.0.2.7:3210"] });
  await app.listen({ port: 0, host: "127.0.0.1" });
  const { port } = app.server.address() as AddressInfo;
  const get = (path: string, ca?: string) =>
    new Promise<{ status: number; body: string }>((resolve, reject) => {
      const options = {
        host: "127.0.0.1",
        port,
        path,
        servername: "localhost",
        headers: { host: "localhost" },
        ca,
      };
      const sent = request(options, (response) => {
        let body = "";
        response.on("data", (chunk) => {
          body += String(chunk);
        });
        response.on("end", () => resolve({ status: response.statusCode ?? 0, body }));
      });
      sent.on("error", reject).end();
    });
  const { body } = await get(routes.reach.path, certificate.authority);
  expect(JSON.parse(body)).toMatchObject({
    certificate: true,
    addresses: [{ address: "https://192.0.2.7:3210", svg: expect.stringContaining("<svg") }],
  });
  expect((await get(routes.authority.path, certificate.authority)).body).toBe(certificate.authority);
  await expect(get(routes.reach.path)).rejects.toThrow(/self-signed|unable to verify/);
  await app.close();
});

it("is none where the server speaks plain HTTP", async () => {
  const world = await bareWorld();
  expect(await world.ok(routes.reach, {})).toEqual({ addresses: [], certificate: false });
  expect((await world.call(routes.authority, {})).error.code).toBe("no-certificate");
});
