import { routes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { expect, it } from "vitest";
import { bareWorld } from "../testing/world.ts";
import { plainFinish } from "./plain.ts";
import { LONG, makeScarce, queueSet } from "./scarce.ts";

const CLIENTS = 20;
const ROUNDS = LONG ? 25 : 2;
const EACH = 3;
const PARTS = 4;

it(`lets ${CLIENTS} clients finish at once with shared scarce parts: no over-use, no lost request, each refusal names the part`, async () => {
  const world = await bareWorld();
  // Enough for half of what is asked for in each round, and a bit that suffices for nobody.
  const enough = (CLIENTS / 2) * ROUNDS;
  const scarce = await makeScarce(world, PARTS, enough * EACH + 2);
  const url = await world.app.listen({ port: 0, host: "127.0.0.1" });
  const post = (id: number, key: string) =>
    fetch(`${url}/api/builds/${id}/finish`, {
      method: "POST",
      headers: { "content-type": "application/json", "yosegi-person": "1", "idempotency-key": key },
      body: JSON.stringify(plainFinish(String(EACH))),
    });
  let finished = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const builds: number[] = [];
    for (let client = 0; client < CLIENTS; client++) builds.push(await queueSet(world, scarce, String(EACH)));
    const answers = await Promise.all(
      builds.map(async (id) => {
        const key = `round ${round} build ${id}`;
        // A client whose answer was lost asks again: both answers are the same, and it is posted once.
        const [first, second] = await Promise.all([post(id, key), post(id, key)]);
        const [a, b] = [await first.text(), await second.text()];
        expect([second.status, b]).toEqual([first.status, a]);
        return { id, status: first.status, body: JSON.parse(a) };
      }),
    );
    const done = answers.filter((answer) => answer.status === 200);
    finished += done.length;
    for (const { status, body } of answers.filter((answer) => answer.status !== 200)) {
      expect([status, body.code]).toEqual([409, "not-enough"]);
      expect(body.shorts.map((short: { code: string }) => short.code)).toEqual(
        Array.from({ length: PARTS }, (_, i) => `PART-${i}`),
      );
      expect(body.message).toContain("Part 0");
    }
    for (const { id } of answers) {
      const { good } = await world.ok(routes.build, { params: { id } });
      expect(good).toBe(done.some((d) => d.id === id) ? String(EACH) : "0");
    }
  }
  expect(finished).toBe(Math.min(CLIENTS * ROUNDS, enough));
  const { items } = await world.ok(routes.items, {});
  const product = items.find((item) => item.id === scarce.product);
  expect(product?.onHand).toBe(String(finished * EACH));
  for (const id of scarce.parts) {
    const part = items.find((item) => item.id === id);
    expect(decimal(part?.onHand ?? "-1").toFixed()).toBe(String(enough * EACH + 2 - finished * EACH));
  }
  expect(await world.audit()).toEqual([]);
}, 600_000);
