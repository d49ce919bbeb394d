import { type ChangeEvent, changeEvent, routes } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { bareWorld, closeWorlds, type World } from "../testing/world.ts";

afterEach(closeWorlds);

const box = { code: "BOX-D", name: "Hive box", kind: "bought", unit: "pc" };

/** Listens to a server's stream; gives how to read its next event. */
async function listenTo(world: World) {
  const bound = world.app.server.address();
  const address =
    bound !== null && typeof bound === "object"
      ? `http://127.0.0.1:${bound.port}`
      : await world.app.listen({ host: "127.0.0.1", port: 0 });
  const answer = await fetch(`${address}/api/events`);
  const reader = (answer.body as ReadableStream<Uint8Array>).getReader();
  let text = "";
  const next = async (): Promise<ChangeEvent> => {
    for (;;) {
      const [, data] = /data: (.*)\n\n/.exec(text) ?? [];
      if (data !== undefined) {
        text = text.slice(text.indexOf(data) + data.length);
        return changeEvent.parse(JSON.parse(data));
      }
      const { value, done } = await reader.read();
      if (done) throw new Error("the stream has ended");
      text += new TextDecoder().decode(value);
    }
  };
  return { type: answer.headers.get("content-type"), next, ended: async () => (await reader.read()).done };
}

describe("the stream of events", () => {
  it("says of each command which areas it changed, once it is committed, and of no other", async () => {
    const world = await bareWorld();
    const { type, next } = await listenTo(world);
    expect(type).toBe("text/event-stream");
    const { count, areas } = await next();
    expect(areas).toEqual([]);
    expect(
      (await world.call(routes.newItem, { body: { ...box, unit: "crate" }, key: "refused" })).status,
    ).toBe(422);
    await world.ok(routes.items, {});
    await world.ok(routes.newItem, { body: box, key: "made" });
    expect(await next()).toEqual({ count: count + 1, areas: ["items"], key: "made" });
    await world.ok(routes.newStore, { body: { name: "Barn" }, key: "barn" });
    expect(await next()).toEqual({ count: count + 2, areas: ["stock"], key: "barn" });
  });
  it("tells a page that comes back how many changes there were, and ends with the server", async () => {
    const world = await bareWorld();
    const { count } = await (await listenTo(world)).next();
    await world.ok(routes.newItem, { body: box });
    const { next, ended } = await listenTo(world);
    expect((await next()).count).toBe(count + 1);
    await world.app.close();
    expect(await ended()).toBe(true);
  });
});

it("a command's answer names the areas that it changed; one that is sent again changes none", async () => {
  const { app } = await bareWorld();
  const send = () =>
    app.inject({
      method: "POST",
      url: "/api/items",
      payload: box,
      headers: { "yosegi-person": "1", "idempotency-key": "once" },
    });
  expect((await send()).headers["yosegi-changed"]).toBe("items");
  expect((await send()).headers["yosegi-changed"]).toBe("");
});
