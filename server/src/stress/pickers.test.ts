import { routes } from "@yosegi/contract";
import { decimal, sum } from "@yosegi/core";
import { expect, it } from "vitest";
import { orderOf } from "../testing/ordering.ts";
import { demoWorld, TODAY } from "../testing/world.ts";
import { LONG } from "./scarce.ts";

const PICKERS = 20;
const ROUNDS = LONG ? 10 : 1;

it(`lets ${PICKERS} pickers fetch at once: no piece is held twice, none is fetched twice, and nothing is lost`, async () => {
  const world = await demoWorld();
  const address = await world.app.listen({ port: 0, host: "127.0.0.1" });
  for (let round = 0; round < ROUNDS; round++) {
    const orders = [];
    for (let i = 0; i < PICKERS; i++) orders.push(await orderOf(world, [["HTL-J", "2", "9.60"]]));
    const post = async (path: string, key: string, body: object) => {
      const answer = await fetch(`${address}/api/picks${path}`, {
        method: "POST",
        headers: { "content-type": "application/json", "yosegi-person": "1", "idempotency-key": key },
        body: JSON.stringify(body),
      });
      return { status: answer.status, body: await answer.json() };
    };
    const rounds = await Promise.all(
      orders.map(({ id }) => post("", `start ${id}`, { documents: [{ kind: "order", id }] })),
    );
    const started = rounds.filter(({ status }) => status === 200).map(({ body }) => body);
    // Together they hold no more of a bin than is there.
    const held = new Map<string, string[]>();
    for (const { stops } of started)
      for (const { store, bin, lot, serial, quantity, inBin } of stops) {
        const own = held.get(`${store} ${bin} ${lot} ${serial} of ${inBin}`) ?? [];
        held.set(`${store} ${bin} ${lot} ${serial} of ${inBin}`, [...own, quantity]);
      }
    for (const [spot, quantities] of held)
      expect(sum(quantities.map(decimal)).lte(spot.split(" of ").at(-1) ?? "0")).toBe(true);
    const fetched = await Promise.all(
      started.flatMap(({ id, stops }) =>
        stops.map(async (stop: { location: number; bin: string; item: { id: number }; quantity: string }) => {
          const body = {
            location: stop.location,
            bin: stop.bin,
            item: stop.item.id,
            quantity: stop.quantity,
            day: TODAY,
          };
          // A device whose answer was lost sends it again: it is recorded once.
          const [first, second] = await Promise.all([
            post(`/${id}/fetch`, `fetch ${id} ${stop.bin}`, body),
            post(`/${id}/fetch`, `fetch ${id} ${stop.bin}`, body),
          ]);
          expect(second.status).toBe(first.status);
          return first.status === 200 ? decimal(stop.quantity) : decimal(0);
        }),
      ),
    );
    let packed = decimal(0);
    for (const { id } of orders) {
      const { orderLines } = await world.ok(routes.order, { params: { id } });
      packed = packed.plus(orderLines[0]?.takes[0]?.packed ?? "0");
    }
    expect(packed.eq(sum(fetched))).toBe(true);
    expect(packed.gt(0)).toBe(true);
  }
  expect(await world.audit()).toEqual([]);
}, 300_000);
