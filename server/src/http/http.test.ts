import { routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { handReceipt } from "../testing/companies.ts";
import { bareWorld, demoWorld, emptyWorld, fieldsOf } from "../testing/world.ts";

const box = {
  code: "BOX-D",
  name: "Hive box",
  kind: "bought",
  unit: "pc",
  tracking: "none",
  cost: "9.40",
  price: null,
  store: "",
  bin: "",
};

describe("what is refused at the door", () => {
  it("a body that is no JSON, an empty one, another type, and one too large", async () => {
    const { app } = await bareWorld();
    const post = (payload: string, type = "application/json") =>
      app.inject({ method: "POST", url: "/api/items", payload, headers: { "content-type": type } });
    expect([(await post('{"code": ')).statusCode, (await post('{"code": ')).json().code]).toEqual([
      400,
      "not-json",
    ]);
    expect((await post("")).json().code).toBe("not-json");
    expect((await post("code=1", "application/x-www-form-urlencoded")).json().code).toBe("unsupported-type");
    const large = await post(`{"code": "${"x".repeat(2_000_000)}"}`);
    expect([large.statusCode, large.json().message]).toEqual([413, "This is too large; the limit is 1 MB."]);
  });
  it("text that could not be given back, with its field, however deep a body goes", async () => {
    const { app, call } = await bareWorld();
    for (const [body, field] of [
      [{ ...box, name: "Half \ud800" }, "name"],
      [{ ...box, packs: [{ name: "box\u0000", quantity: "2" }] }, "packs.0.name"],
    ] as const) {
      const { status, error } = await call(routes.newItem, { body });
      expect([status, fieldsOf(error)]).toEqual([400, [`${field} text-unreadable`]]);
    }
    const deep = `{"code": ${"[".repeat(50_000)}${"]".repeat(50_000)}}`;
    const headers = { "content-type": "application/json" };
    const answer = await app.inject({ method: "POST", url: "/api/items", payload: deep, headers });
    expect(answer.json().code).toBe("invalid-input");
  });
  it("an address of the API that leads nowhere, in JSON", async () => {
    const { app } = await bareWorld();
    const answer = await app.inject("/api/nothing");
    expect([answer.statusCode, answer.json().code]).toEqual([404, "no-route"]);
  });
  it("an id that is none, and one that is not there", async () => {
    const { call } = await bareWorld();
    const odd = await call(routes.item, { params: { id: "twelve" } });
    expect([odd.status, odd.error.fields[0]?.message]).toEqual([400, "An id is a whole number."]);
    const none = await call(routes.build, { params: { id: 99 } });
    expect([none.status, none.error.message]).toEqual([404, "There is no build 99."]);
  });
  it("fields that cannot be right, each with its message", async () => {
    const { call } = await bareWorld();
    const { status, error } = await call(routes.newItem, {
      body: { ...box, code: "BOX D", name: " ", cost: "ten", price: "1.00505" },
    });
    expect(status).toBe(400);
    expect(Object.fromEntries(error.fields.map((f) => [f.field, f.message]))).toEqual({
      code: "A code has letters, digits and . _ / + # - without spaces.",
      name: "The name is missing.",
      cost: "“ten” is not a number. Write it like 12.5.",
      price: "The price may have up to 4 decimals.",
    });
  });
  it("a command by nobody, by somebody unknown, or without a key", async () => {
    const { app, call } = await bareWorld();
    expect((await call(routes.newItem, { body: box, person: null })).error.code).toBe("person-needed");
    expect((await call(routes.newItem, { body: box, person: 7 })).error.code).toBe("person-needed");
    const bare = await app.inject({
      method: "POST",
      url: "/api/items",
      payload: box,
      headers: { "yosegi-person": "1" },
    });
    expect(bare.json().code).toBe("key-needed");
  });
  it("anything but setting up while the database is empty, and setting up twice", async () => {
    const { call } = await emptyWorld();
    const company = {
      name: "Brackenmere",
      currency: "EUR",
      timeZone: "Europe/Vienna",
      store: "Front store",
      person: "Ines",
    };
    expect((await call(routes.company, {})).answer.company).toBeNull();
    expect(
      (await call(routes.setUp, { body: { ...company, timeZone: "Mars/Crater" } })).error.fields[0]?.field,
    ).toBe("timeZone");
    expect((await call(routes.setUp, { body: company, person: null })).answer.company.today).toBe(
      "2026-11-23",
    );
    expect((await call(routes.setUp, { body: company, person: null })).error.code).toBe("already-set-up");
  });
});

describe("the same request twice", () => {
  it("is done once and answered alike", async () => {
    const { call, ok } = await bareWorld();
    const first = await call(routes.newItem, { body: box, key: "once" });
    const again = await call(routes.newItem, { body: box, key: "once" });
    expect([again.status, again.answer]).toEqual([200, first.answer]);
    expect((await ok(routes.items, {})).total).toBe(1);
  });
  it("posts a receipt once, even when both arrive together", async () => {
    const { ok, idOf, audit } = await demoWorld();
    const item = await idOf("CAN-12");
    const body = handReceipt(item, "10", { bin: "07-B" });
    const [a, b] = await Promise.all([
      ok(routes.receive, { body, key: "together" }),
      ok(routes.receive, { body, key: "together" }),
    ]);
    expect(a).toEqual(b);
    expect((await ok(routes.item, { params: { id: item } })).onHand).toBe("58");
    expect(await audit()).toEqual([]);
  });
  it("is refused where the key was used for something else", async () => {
    const { call, ok } = await bareWorld();
    await ok(routes.newItem, { body: box, key: "mine" });
    const other = await call(routes.newItem, { body: { ...box, code: "BOX-E" }, key: "mine" });
    expect([other.status, other.error.code]).toEqual([409, "key-reused"]);
  });
  it("may be tried again after a refusal", async () => {
    const { call } = await bareWorld();
    expect((await call(routes.newItem, { body: { ...box, unit: "crate" }, key: "retry" })).status).toBe(422);
    expect((await call(routes.newItem, { body: box, key: "retry" })).status).toBe(200);
  });
});

describe("the OpenAPI document", () => {
  it("has every route of the contract, with named schemas, its three headers on commands, and the version on changes", async () => {
    const { app } = await emptyWorld();
    const document = (await app.inject("/api/openapi.json")).json();
    expect(document.openapi).toBe("3.1.0");
    for (const route of Object.values(routes)) {
      const path = route.path.replace(/:(\w+)/g, "{$1}");
      const operation = document.paths[path]?.[route.method.toLowerCase()];
      expect(operation?.summary, `${route.method} ${path}`).toBe(route.summary);
      const headers = (operation.parameters ?? []).filter((p: { in: string }) => p.in === "header");
      const wanted = route.method === "PUT" ? 4 : 3;
      expect(headers.length, `headers of ${route.method} ${path}`).toBe(route.command ? wanted : 0);
    }
    expect(Object.keys(document.components.schemas)).toEqual(
      expect.arrayContaining(["Error", "BuildSheet", "Cover"]),
    );
  });
});
