import { randomUUID } from "node:crypto";
import { type Route, routes } from "@yosegi/contract";
import { expect, it } from "vitest";
import { Chance } from "../testing/chance.ts";
import { doSomething, startHistory } from "../testing/history.ts";
import { TODAY } from "../testing/open.ts";
import { ledgerFaults } from "../testing/replay.ts";
import { demoWorld } from "../testing/world.ts";
import { RandomRequests } from "./requests.ts";
import { LONG } from "./scarce.ts";

const REQUESTS = LONG ? 20_000 : 800;
const SEED = Number(process.env.YOSEGI_SEED ?? 1);

/** As the validation library would say it. */
const LIBRARY_WORDS =
  /Invalid (input|option)|Too (small|big): |Unrecognized key|expected (string|number|one of)/;

it(`answers ${REQUESTS} random requests by a refusal or as its schema says, and each command twice alike`, async () => {
  const world = await demoWorld();
  const chance = new Chance(SEED);
  const history = await startHistory(world, chance, () => TODAY, 3);
  for (let n = 0; n < 60; n++) await doSomething(history);
  const { items } = await world.ok(routes.items, { query: { limit: 1000 } });
  const requests = new RandomRequests(chance, {
    today: TODAY,
    codes: items.map((item) => item.code),
    units: ["pc", "kg", "g", "L", "mL", "hour", "min", ""],
    stores: ["Front store", "Yard", "nowhere"],
    largestId: 60,
  });
  const asked = Object.values<Route>(routes).filter((route) => route.path !== "/api/events");
  const statuses = new Map<string, number>();
  const faults: unknown[] = [];
  for (let n = 0; n < REQUESTS; n++) {
    const route = chance.pick(asked);
    const request = { ...requests.of(route), key: randomUUID(), person: chance.int(1, 3) };
    const reply = await world.call(route, request);
    const fault = (what: string, more?: unknown) =>
      faults.push({ what, route: `${route.method} ${route.path}`, request, reply, more });
    const status = `${reply.status}`;
    statuses.set(status, (statuses.get(status) ?? 0) + 1);
    if (reply.status >= 500) fault("a failure of the server");
    if (reply.status === 200) {
      const parsed = route.answer.safeParse(reply.answer);
      if (!parsed.success) fault("an answer not of its schema", parsed.error.issues);
    } else if (typeof reply.error.code !== "string" || typeof reply.error.message !== "string")
      fault("a refusal that is none");
    else if (LIBRARY_WORDS.test(JSON.stringify(reply.error))) fault("words of the validation library");
    if (route.command && chance.percent(20)) {
      const again = await world.call(route, request);
      if (JSON.stringify(again) !== JSON.stringify(reply) && reply.status === 200)
        fault("another answer the second time", again);
    }
    if (chance.percent(5)) await doSomething(history);
  }
  expect(faults).toEqual([]);
  // Not only refusals: a fifth of all gets through.
  expect(statuses.get("200") ?? 0).toBeGreaterThan(REQUESTS / 5);
  expect(await world.audit()).toEqual([]);
  expect(await ledgerFaults(world)).toEqual([]);
}, 3_600_000);
