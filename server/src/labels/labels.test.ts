import { routes } from "@yosegi/contract";
import { expect, it } from "vitest";
import { demoWorld, fieldsOf, finishOf } from "../testing/world.ts";

it("puts labels for what was finished into the tray, with codes, and prints them as PDF", async () => {
  const world = await demoWorld();
  const make = (id: number, shape: string, copies: number | null = null) =>
    world.call(routes.makeLabels, { params: { id }, body: { shape, copies } });
  const paper = () => world.app.inject({ method: "GET", url: "/api/label-sheets" });
  const feed = await world.queued("FEED-12", "8");
  expect((await make(feed, "qr")).error.code).toBe("nothing-made");
  expect((await paper()).statusCode).toBe(409);
  await world.ok(routes.finishBuild, {
    params: { id: feed },
    body: finishOf("8", { lot: "AF-Ü", expiry: "2027-09-30" }),
  });
  expect(fieldsOf((await make(feed, "code 128")).error)).toEqual(["shape code-128"]);
  expect((await make(feed, "qr")).answer).toEqual({ labels: 1 });
  const hive = await world.queued("HIVE-C", "2");
  await world.ok(routes.finishBuild, {
    params: { id: hive },
    body: finishOf("2", { serials: ["H-1", "H-2"] }),
  });
  expect((await make(hive, "code 128", 2)).answer).toEqual({ labels: 2 });
  const { labels } = await world.ok(routes.labels, {});
  expect(labels.map((l) => `${l.code} ${l.shape} ${l.copies} ${l.lines.join("|")}`)).toEqual([
    "AF-Ü qr 8 Autumn feed 12.5 L|FEED-12|Use by 2027-09-30|Lot AF-Ü",
    "H-1 code 128 2 Hive with scale|HIVE-C|B-2|No. H-1",
    "H-2 code 128 2 Hive with scale|HIVE-C|B-2|No. H-2",
  ]);
  expect(labels.every((l) => l.svg.startsWith("<svg"))).toBe(true);
  const pdf = await paper();
  expect([pdf.headers["content-type"], pdf.rawPayload.subarray(0, 5).toString()]).toEqual([
    "application/pdf",
    "%PDF-",
  ]);
  const [first, ...others] = labels.map((l) => l.id);
  await world.ok(routes.markPrinted, { body: { labels: [first] } });
  await world.ok(routes.removeLabels, { body: { labels: others } });
  expect((await world.ok(routes.labels, {})).labels).toEqual([]);
  const printed = await world.ok(routes.printedLabels, { query: { search: "af-ü autumn" } });
  expect(printed.labels.map((l) => [l.code, l.printed?.person])).toEqual([["AF-Ü", "Ines"]]);
});

it("gives a full tray in parts: what is shown is what is printed, then the next come up", async () => {
  const world = await demoWorld();
  const feed = await world.queued("FEED-12", "2");
  await world.ok(routes.finishBuild, {
    params: { id: feed },
    body: finishOf("2", { lot: "AF-1", expiry: "2027-09-30" }),
  });
  for (const copies of [100, 139, 2, 7])
    await world.ok(routes.makeLabels, { params: { id: feed }, body: { shape: "qr", copies } });
  const tray = async () => {
    const { waiting, labels } = await world.ok(routes.labels, {});
    return { waiting, next: labels, copies: labels.map((label) => label.copies) };
  };
  const full = await tray();
  expect(full.waiting).toEqual({ labels: 4, copies: 248 });
  expect(full.copies).toEqual([100, 139, 2]);
  const pdf = await world.app.inject({ method: "GET", url: "/api/label-sheets" });
  expect(pdf.rawPayload.toString("latin1").match(/\/Type \/Page\b/g)).toHaveLength(Math.ceil(241 / 24));
  await world.ok(routes.markPrinted, { body: { labels: full.next.map((label) => label.id) } });
  expect((await tray()).copies).toEqual([7]);
});

it("puts labels of an item, of its lots and of bins into the tray, bins as one walks", async () => {
  const world = await demoWorld();
  const item = await world.idOf("SYR-72");
  const [spot] = (await world.ok(routes.item, { params: { id: item } })).stockByBin;
  const body = { shape: "qr", copies: 2 };
  await world.ok(routes.makeItemLabels, { params: { id: item }, body });
  await world.ok(routes.makeItemLabels, { params: { id: item }, body: { ...body, lot: spot?.lot } });
  await world.ok(routes.makeItemLabels, { params: { id: await world.idOf("SMK-S") }, body });
  const unknown = await world.call(routes.makeItemLabels, {
    params: { id: item },
    body: { ...body, lot: "no such" },
  });
  expect(fieldsOf(unknown.error)).toEqual(["lot not-found"]);
  const [, yard] = (await world.ok(routes.stores, {})).stores;
  const params = { id: yard?.id ?? 0 };
  const [first = "", second = ""] = yard?.bins ?? [];
  await world.ok(routes.orderBins, { params, body: { bins: [second, first] } });
  await world.ok(routes.makeBinLabels, { params, body: { shape: "code 128", bins: [first, second] } });
  const none = await world.call(routes.makeBinLabels, { params, body: { shape: "qr", bins: ["no such"] } });
  expect(fieldsOf(none.error)).toEqual(["bins.0 no-such-bin"]);
  const { labels } = await world.ok(routes.labels, {});
  expect(labels.map(({ code, copies, item: of }) => [code, copies, of?.code ?? null])).toEqual([
    ["SYR-72", 2, "SYR-72"],
    [spot?.lot, 2, "SYR-72"],
    ["2900001000017", 2, "SMK-S"],
    [second, 1, null],
    [first, 1, null],
  ]);
});
