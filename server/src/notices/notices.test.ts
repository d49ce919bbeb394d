import { routes } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { takeIn } from "../testing/companies.ts";
import { orderOf } from "../testing/ordering.ts";
import { closeWorlds, demoWorld, fieldsOf, type World } from "../testing/world.ts";
import { tellPeople } from "./telling.ts";

afterEach(closeWorlds);

const ALL = ["build queued", "parts complete", "order ready", "late"].map((what) => ({
  what,
  page: true,
  outbox: false,
}));

const choose = (world: World, choices: object[], email = "", person = 1) =>
  world.call(routes.chooseNotices, { body: { choices, email }, person });

const texts = async (world: World, person = 1) =>
  (await world.call(routes.notices, { person })).answer.notices.map(({ text }) => text);

describe("people are told", () => {
  it("of what is new since they chose, each once, and of nothing before", async () => {
    const world = await demoWorld();
    await world.queued("FEED-12", "2");
    expect(await tellPeople(world.store)).toBe(0);
    await choose(world, ALL);
    // The first look only remembers what is so.
    expect(await tellPeople(world.store)).toBe(0);
    await world.queued("FEED-12", "4");
    expect(await tellPeople(world.store)).toBe(1);
    expect(await tellPeople(world.store)).toBe(0);
    expect(await texts(world)).toEqual(["B-2, Autumn feed 12.5 L, is queued."]);
    expect((await world.ok(routes.notices, {})).unread).toBe(1);
    await world.ok(routes.readNotices, {});
    expect((await world.ok(routes.notices, {})).unread).toBe(0);
  });

  it("when the last part of a build that waited was received, and when an order is ready", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "40");
    expect((await world.ok(routes.build, { params: { id } })).blocked).toBe(true);
    await orderOf(world, [["EXT-2", "5", "480.00"]]);
    await choose(world, ALL);
    await tellPeople(world.store);
    await takeIn(world, await world.idOf("LBL-F"), "100");
    await takeIn(world, await world.idOf("CAN-12"), "100");
    await takeIn(world, await world.idOf("SYR-72"), "900", { lot: "S-9" });
    for (let i = 0; i < 5; i++) await takeIn(world, await world.idOf("EXT-2"), "1", { serial: `E-${i}` });
    await tellPeople(world.store);
    expect((await texts(world)).toSorted()).toEqual([
      "B-1, Autumn feed 12.5 L, has all its parts now.",
      expect.stringMatching(/^O-1, .*, is ready to ship\.$/),
    ]);
  });

  it("each of what they chose, by the outbox too", async () => {
    const world = await demoWorld();
    const wrong = await choose(world, [{ what: "build queued", page: false, outbox: true }]);
    expect(fieldsOf(wrong.error)).toEqual(["email email-needed"]);
    const { people } = await world.ok(routes.people, {});
    const other = people.find(({ id }) => id !== 1)?.id ?? 0;
    await choose(world, [{ what: "build queued", page: false, outbox: true }], "tobias@example.com", other);
    await tellPeople(world.store);
    await world.queued("FEED-12", "2");
    await tellPeople(world.store);
    expect([await texts(world), await texts(world, other)]).toEqual([[], []]);
    const { messages } = await world.ok(routes.outbox, {});
    expect(messages.map(({ to, subject }) => [to, subject])).toEqual([
      ["tobias@example.com", "B-1, Autumn feed 12.5 L, is queued."],
    ]);
    const got = await world.call(routes.noticeChoices, { person: other });
    expect(got.answer.choices.filter(({ outbox }) => outbox).map(({ what }) => what)).toEqual([
      "build queued",
    ]);
  });
});
