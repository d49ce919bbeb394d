import { buildRoutes, itemSheetRoutes, peopleRoutes } from "@yosegi/contract";
import { afterEach, describe, expect, it, vi } from "vitest";
import { call, command, NoAnswer, Refused, setWorking } from "./call.ts";

interface Sent {
  url: string;
  method: string | undefined;
  headers: Record<string, string>;
  body: string | undefined;
}

/** Stands in for the network: answers once, and keeps what was sent. */
function network(status: number, body: unknown): Sent[] {
  const sent: Sent[] = [];
  vi.stubGlobal("fetch", async (url: string, init: RequestInit) => {
    sent.push({
      url,
      method: init.method,
      headers: init.headers as Record<string, string>,
      body: init.body as string | undefined,
    });
    return new Response(typeof body === "string" ? body : JSON.stringify(body), { status });
  });
  return sent;
}
afterEach(() => {
  vi.unstubAllGlobals();
  setWorking(null);
});

describe("calling a route", () => {
  it("puts parameters into the path and questions behind it, without empty ones", async () => {
    const sent = network(200, { items: [], total: 0 });
    await call(itemSheetRoutes.items, { query: { search: "50 % & more", limit: 3 } });
    await call(itemSheetRoutes.items, { query: { search: "" } });
    await call(itemSheetRoutes.item, { params: { id: 12 } });
    expect(sent.map((s) => `${s.method} ${s.url} ${s.body}`)).toEqual([
      "GET /api/items?search=50+%25+%26+more&limit=3 undefined",
      "GET /api/items undefined",
      "GET /api/items/12 undefined",
    ]);
  });
  it("says who is working and sends the key of a command", async () => {
    const sent = network(200, {});
    setWorking(3);
    await command(buildRoutes.queueBuild, { params: { id: 7 } }, "key-1");
    expect(sent[0]).toMatchObject({ method: "POST", url: "/api/builds/7/queue", body: "{}" });
    expect(sent[0]?.headers).toMatchObject({
      "yosegi-person": "3",
      "idempotency-key": "key-1",
      "content-type": "application/json",
    });
  });
  it("tells a refusal, with its fields, from an answer that never came", async () => {
    const refusal = {
      code: "code-taken",
      message: "Taken.",
      fields: [{ field: "code", code: "code-taken", message: "Taken." }],
    };
    network(409, refusal);
    const refused = await call(peopleRoutes.people, {}).catch((e) => e);
    expect(refused).toBeInstanceOf(Refused);
    expect(refused.answer).toEqual(refusal);
    network(502, "<html>Bad gateway</html>");
    expect(await call(peopleRoutes.people, {}).catch((e) => e)).toBeInstanceOf(NoAnswer);
    network(500, { error: "another server's words" });
    expect(await call(peopleRoutes.people, {}).catch((e) => e)).toBeInstanceOf(NoAnswer);
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("Failed to fetch")));
    const lost = await call(peopleRoutes.people, {}).catch((e) => e);
    expect([lost instanceof NoAnswer, lost.message]).toEqual([true, "Can't reach the server."]);
  });
});
