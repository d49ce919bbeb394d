import { PLAIN_BUILD, routes } from "@yosegi/contract";
import { expect, it } from "vitest";
import { demoWorld, fieldsOf, statementsOf } from "../testing/world.ts";

const PNG =
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==";

it("prints build sheets, one to a page, with the product's picture; and refuses what it cannot print", async () => {
  const world = await demoWorld();
  const product = await world.idOf("FEED-12");
  await world.ok(routes.attachFile, {
    body: { to: "picture", id: product, name: "feed.png", type: "image/png", content: PNG, thumbnail: null },
  });
  const ids = [await world.queued("FEED-12", "20"), await world.queued("FRM-A", "5")];
  const print = (text: string) => world.app.inject({ method: "GET", url: `/api/build-sheets?ids=${text}` });
  const both = await print(ids.join(","));
  expect([both.statusCode, both.headers["content-type"]]).toEqual([200, "application/pdf"]);
  const pages = (pdf: Buffer) => pdf.toString("latin1").match(/\/Type \/Page\b/g)?.length;
  expect([pages(both.rawPayload), pages((await print(String(ids[0]))).rawPayload)]).toEqual([2, 1]);
  expect((await print("99")).statusCode).toBe(404);
  expect(fieldsOf((await print("1;2")).json())).toEqual(["ids invalid-input"]);
});

it("prints ten sheets with no more statements than two, drafts and queued builds alike", async () => {
  const world = await demoWorld();
  const ids: number[] = [];
  for (let i = 0; i < 5; i++) {
    ids.push(await world.queued("FEED-12", "1"));
    const body = { ...PLAIN_BUILD, product: await world.idOf("FRM-A"), quantity: String(i + 1) };
    ids.push((await world.ok(routes.newBuild, { body })).id);
  }
  const print = (some: readonly number[]) =>
    statementsOf(async () => {
      const paper = await world.app.inject({ method: "GET", url: `/api/build-sheets?ids=${some.join(",")}` });
      expect(paper.rawPayload.toString("latin1").match(/\/Type \/Page\b/g)).toHaveLength(some.length);
    });
  await print(ids);
  expect(await print(ids)).toBe(await print(ids.slice(0, 2)));
});
