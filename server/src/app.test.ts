import { mkdir, mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { FastifyInstance } from "fastify";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { makeApp } from "./app.ts";
import type { Store } from "./db/index.ts";
import { openStore } from "./store.ts";

let folder = "";
let store: Store;
let app: FastifyInstance;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "yosegi-page-"));
  const page = join(folder, "dist");
  await mkdir(join(page, "assets"), { recursive: true });
  await writeFile(join(page, "index.html"), "<!doctype html><title>Yosegi</title>");
  await writeFile(join(page, "assets/index-1.js"), "export {}");
  store = await openStore(join(folder, "a.db"));
  app = await makeApp(store, { page });
});
afterAll(async () => {
  await app.close();
  await store.close();
  await rm(folder, { recursive: true });
});

describe("the page", () => {
  it.each(["/", "/check?product=38&quantity=40", "/builds/7", "/catalog/38/parts-list"])(
    "is served at %s, never from a cache",
    async (url) => {
      const answer = await app.inject(url);
      expect([answer.statusCode, answer.headers["content-type"]]).toEqual([200, "text/html; charset=utf-8"]);
      expect(answer.body).toContain("<title>Yosegi</title>");
      expect(answer.headers["cache-control"]).toBe("public, max-age=0");
    },
  );
  it("has its parts kept by the browser for a year, for their names change with them", async () => {
    const answer = await app.inject("/assets/index-1.js");
    expect(answer.headers["cache-control"]).toBe("public, max-age=31536000, immutable");
  });
  it("may load nothing from elsewhere, nor be framed", async () => {
    const policy = String((await app.inject("/")).headers["content-security-policy"]);
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("frame-ancestors 'none'");
  });
  it("does not stand in for an address of the API", async () => {
    const answer = await app.inject("/api/no-such-thing");
    expect([answer.statusCode, answer.json().code]).toEqual([404, "no-route"]);
  });
  it("does not stand in for a part of it that is gone", async () => {
    expect((await app.inject("/assets/index-0.js")).statusCode).toBe(404);
  });
  it("does not lead out of its folder", async () => {
    const answer = await app.inject("/assets/..%2f..%2fa.db");
    expect(answer.body).not.toContain("SQLite format");
  });
});

it("serves the API alone where the page was not built", async () => {
  const bare = await makeApp(store, { page: join(folder, "nothing") });
  expect((await bare.inject("/api/company")).json()).toEqual({ company: null });
  expect((await bare.inject("/")).statusCode).toBe(404);
  await bare.close();
});
