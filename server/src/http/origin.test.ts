import { hostname } from "node:os";
import { routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { makeApp } from "../app.ts";
import { bareWorld } from "../testing/world.ts";

describe("who may ask", () => {
  const ask = async (headers: Record<string, string>, hosts: string[] = []) => {
    const world = await bareWorld();
    const app = await makeApp(world.store, { hosts });
    const answer = await app.inject({ url: "/api/people", headers });
    await app.close();
    return answer.statusCode === 200 ? "answered" : answer.json().code;
  };
  it.each([
    ["localhost:3210"],
    ["127.0.0.1:3210"],
    ["192.168.1.20:3210"],
    ["[fe80::1]:3210"],
    [hostname().toUpperCase()],
    [`${hostname()}.local:3210`],
  ])("whoever calls it %s", async (host) => {
    expect(await ask({ host })).toBe("answered");
  });
  it("nobody by a name that is not its own, but for those it was told", async () => {
    expect(await ask({ host: "rebound.example" })).toBe("host-unknown");
    expect(await ask({ host: "rebound.example:3210" })).toBe("host-unknown");
    expect(await ask({ host: "stock.brackenmere.example" }, ["stock.brackenmere.example"])).toBe("answered");
  });
  it("no page of another address, be it of the same machine", async () => {
    const host = "localhost:3210";
    expect(await ask({ host, origin: "http://localhost:3210" })).toBe("answered");
    expect(await ask({ host, origin: "https://localhost:3210" })).toBe("answered");
    expect(await ask({ host, origin: "http://localhost:8080" })).toBe("origin-foreign");
    expect(await ask({ host, origin: "https://elsewhere.example" })).toBe("origin-foreign");
    expect(await ask({ host, origin: "null" })).toBe("origin-foreign");
  });
});

it("a key is known for its own person only, and for thirty days", async () => {
  const world = await bareWorld();
  const body = { code: "BOX-D", name: "Hive box", kind: "bought", unit: "pc" };
  const other = await world.ok(routes.addPerson, { body: { name: "Maren Holt" } });
  const first = await world.call(routes.newItem, { body, key: "k-1" });
  const theirs = await world.call(routes.newItem, { body, key: "k-1", person: other.id });
  // It is asked anew of the other person, and refused for what it is.
  expect([first.status, theirs.status, theirs.error.fields[0]?.code]).toEqual([200, 409, "code-taken"]);
  await world.store.db.query("UPDATE request SET moment = $moment WHERE key = 'k-1'", {
    bind: { moment: "2026-10-23T08:00:00.000Z" },
  });
  await world.ok(routes.newItem, { body: { ...body, code: "BOX-S" }, key: "k-2" });
  const [kept] = await world.store.db.query("SELECT key FROM request WHERE key IN ('k-1', 'k-2')");
  expect(kept).toEqual([{ key: "k-2" }]);
});
