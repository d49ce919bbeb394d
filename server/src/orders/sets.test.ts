import { type AnswerOf, PLAIN_ORDER_LINE, routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { demoWorld, fieldsOf, TODAY, type World } from "../testing/world.ts";

type Sheet = AnswerOf<typeof routes.order>;
type Content = { of: number | null; item: number; quantity: string };

const customerOf = async (world: World) =>
  (await world.ok(routes.firms, { query: { kind: "customer" } })).firms[0]?.id ?? 0;

/** A line of a kit with contents by code: `of` and the quantity for one set beside each. */
async function lineOf(
  world: World,
  kit: string,
  contents: [of: number | null, code: string, quantity: string][] | null = null,
  id: number | null = null,
) {
  const own = contents?.map(async ([of, code, quantity]): Promise<Content> => {
    return { of, item: await world.idOf(code), quantity };
  });
  return {
    ...PLAIN_ORDER_LINE,
    item: await world.idOf(kit),
    quantity: "2",
    contents: own ? await Promise.all(own) : null,
    price: null as string | null,
    id,
  };
}

type Line = Awaited<ReturnType<typeof lineOf>>;

async function bodyOf(world: World, lines: Line[]) {
  return { customer: await customerOf(world), due: TODAY, reference: "", note: "", lines };
}

const preview = async (world: World, lines: Line[], order: number | null = null) =>
  world.ok(routes.previewOrder, { body: { ...(await bodyOf(world, lines)), order } });

const order = async (world: World, lines: Line[]) =>
  world.ok(routes.newOrder, { body: await bodyOf(world, lines) });

const takes = ({ orderLines }: Sheet) =>
  orderLines.flatMap((line) => line.takes.map((take) => `${take.item.code} ${take.open}`));

const refused = async (world: World, line: Line) => {
  const answer = await world.call(routes.newOrder, { body: await bodyOf(world, [line]) });
  return fieldsOf(answer.error);
};

describe("a set with its contents changed", () => {
  it("takes the swapped suit from stock at the kit's price, its margin and promise following", async () => {
    const world = await demoWorld();
    const yard = await lineOf(world, "KIT-YARD", [
      [0, "HIVE-N", "1"],
      [1, "SUIT-L", "1"],
      [2, "GLV-L", "1"],
      [3, "SMK-S", "1"],
      [4, "HTL-J", "1"],
    ]);
    const seen = await preview(world, [yard]);
    // 239.00 costs 148.00 + 36.00 + 8.30 + 17.20 + 5.10 a set.
    expect(seen.lines[0]).toMatchObject({ total: "478.00", margin: "48.8000", marginPercent: "10.2" });
    expect(seen.lines[0]?.set).toMatchObject({ changed: true, movedOn: false });
    expect(seen.lines[0]?.offer?.price).toBe("239.00");
    expect(
      seen.lines[0]?.set?.contents.map((content) => [content.item.code, content.share, content.margin]),
    ).toEqual([
      ["HIVE-N", "143.05", "-4.9500"],
      ["SUIT-L", "50.59", "14.5900"],
      ["GLV-L", "12.65", "4.3500"],
      ["SMK-S", "24.34", "7.1400"],
      ["HTL-J", "8.37", "3.2700"],
    ]);
    const saved = await order(world, [yard]);
    expect(takes(saved)).toEqual(["HIVE-N 2", "SUIT-L 2", "GLV-L 2", "SMK-S 2", "HTL-J 2"]);
    expect(saved.orderLines[0]).toMatchObject({ price: "239.00", total: "478.00" });
    expect(saved.orderLines[0]?.promise).toEqual(seen.lines[0]?.promise);
    // The day of the set is that of the content that comes last.
    const hive = await preview(world, [await lineOf(world, "HIVE-N")], saved.id);
    expect(seen.lines[0]?.promise.day).toBe(hive.lines[0]?.promise.day);
  });

  it("is priced as the sum of what is in it, fixed as it is, or open to anything, as each kit says", async () => {
    const world = await demoWorld();
    const club = await lineOf(world, "KIT-CLUB", [
      [0, "GLV-M", "4"],
      [null, "HTL-J", "2"],
      [2, "CARD-C", "6"],
    ]);
    const seen = await preview(world, [
      await lineOf(world, "KIT-TOOL"),
      await lineOf(world, "KIT-CARE"),
      club,
    ]);
    // (27.90 + 9.60 + 14.50) less 10 %; 129.00 − 2 × 14.50 − 2 × 27.90 + 2 × 9.60.
    expect(seen.lines.map((line) => line.offer?.price)).toEqual(["46.80", "19.90", "63.40"]);
    expect(seen.lines.map((line) => line.total)).toEqual(["93.60", "39.80", "126.80"]);
    expect(seen.lines.map((line) => line.set?.contentsShown)).toEqual([true, false, false]);
    // 63.40 − (4 × 8.30 + 2 × 5.10 + 6 × 0.04), for two sets.
    expect(seen.lines[2]).toMatchObject({ margin: "39.5200" });
    const saved = await order(world, [club]);
    expect(takes(saved)).toEqual(["GLV-M 8", "HTL-J 4", "CARD-C 12"]);
    // A content without a list price offers nothing.
    const cards = await lineOf(world, "KIT-CLUB", [
      [0, "GLV-M", "6"],
      [1, "SMK-S", "2"],
    ]);
    expect((await preview(world, [cards])).lines[0]?.offer?.price).toBe("129.00");
  });

  it("is refused at the content, or at the line for one that is missing", async () => {
    const world = await demoWorld();
    const yard = (contents: Parameters<typeof lineOf>[2]) => lineOf(world, "KIT-YARD", contents);
    const all = [
      [0, "HIVE-N", "1"],
      [1, "SUIT-M", "1"],
      [2, "GLV-M", "1"],
      [3, "SMK-S", "1"],
      [4, "HTL-J", "1"],
    ] satisfies Parameters<typeof lineOf>[2];
    expect(await refused(world, await yard(all.slice(0, 4)))).toEqual(["lines.0.item content-needed"]);
    expect(await refused(world, await yard([...all, [null, "HTL-J", "1"]]))).toEqual([
      "lines.0.contents.5.item content-not-added",
    ]);
    expect(await refused(world, await yard([[0, "FRM-A", "1"], ...all.slice(1)]))).toEqual([
      "lines.0.contents.0.item content-fixed",
    ]);
    expect(await refused(world, await yard([...all.slice(0, 4), [4, "HTL-J", "2"]]))).toEqual([
      "lines.0.contents.4.quantity content-quantity-fixed",
    ]);
    expect(await refused(world, await lineOf(world, "KIT-CLUB", [[null, "GLV-M", "1.5"]]))).toEqual([
      "lines.0.contents.0.quantity decimals",
    ]);
    expect(await refused(world, await lineOf(world, "KIT-CLUB", [[0, "KIT-TOOL", "1"]]))).toEqual([
      "lines.0.contents.0.item part-is-kit",
    ]);
    expect(await refused(world, await lineOf(world, "SMK-S", [[0, "SMK-S", "1"]]))).toEqual([
      "lines.0.contents no-set",
    ]);
    const typed = { ...(await lineOf(world, "KIT-TOOL")), price: "40.00" };
    const answer = await world.call(routes.newOrder, { body: await bodyOf(world, [typed]) });
    expect(fieldsOf(answer.error)).toEqual(["lines.0.price kit-price-follows"]);
  });

  it("frees and reserves anew when it is changed, and lets go of builds for what was swapped out", async () => {
    const world = await demoWorld();
    const line = await lineOf(world, "KIT-CLUB", [[null, "HIVE-N", "10"]]);
    const saved = await order(world, [line]);
    await world.ok(routes.buildForOrder, { params: { id: saved.id }, body: { lines: [] } });
    const id = saved.orderLines[0]?.id ?? 0;
    const swapped = await lineOf(world, "KIT-CLUB", [[null, "SMK-S", "1"]], id);
    const changed = await world.ok(routes.changeOrder, {
      params: { id: saved.id },
      body: await bodyOf(world, [swapped]),
    });
    expect(takes(changed)).toEqual(["SMK-S 2"]);
    const { builds } = await world.ok(routes.builds, {});
    const sheet = await world.ok(routes.build, { params: { id: builds[0]?.id ?? 0 } });
    expect(sheet.orders).toEqual([]);
    expect(await world.audit()).toEqual([]);
  });
});

describe("a kit that is defined anew after it was ordered", () => {
  it("changes no order; the line says so, and takes the new definition by one press", async () => {
    const world = await demoWorld();
    const saved = await order(world, [await lineOf(world, "KIT-TOOL")]);
    const before = takes(saved);
    const kit = await world.idOf("KIT-TOOL");
    const rules = { swap: "fixed" as const, swaps: [], quantityMayChange: false, mayBeLeftOut: false };
    await world.ok(routes.saveKit, {
      params: { id: kit },
      body: {
        contentsShown: true,
        mayBeAddedTo: false,
        priceRule: "own",
        discount: "0",
        price: "50.00",
        contents: [{ ...rules, item: "HTL-J", quantity: "3" }],
      },
    });
    const kept = await world.ok(routes.order, { params: { id: saved.id } });
    expect(takes(kept)).toEqual(before);
    expect(kept.orderLines[0]?.set).toMatchObject({ movedOn: true, changed: false });
    const line = saved.orderLines[0]?.id ?? 0;
    // Another change of the order leaves the copy as it is.
    const same = await lineOf(world, "KIT-TOOL", null, line);
    const again = await world.ok(routes.changeOrder, {
      params: { id: saved.id },
      body: await bodyOf(world, [{ ...same, quantity: "3" }]),
    });
    expect(takes(again)).toEqual(["SMK-S 3", "HTL-J 3", "GLV-M 3"]);
    const taken = await world.ok(routes.takeDefinition, { params: { id: saved.id, line }, body: {} });
    expect(takes(taken)).toEqual(["HTL-J 9"]);
    expect(taken.orderLines[0]?.set).toMatchObject({ movedOn: false });
    const { lines } = await world.ok(routes.previewOrder, {
      body: { order: saved.id, lines: [{ ...same, contents: null, quantity: "3" }] },
    });
    expect(lines[0]?.offer?.price).toBe("50.00");
    expect(await world.audit()).toEqual([]);
  });
});

it("is refused with an archived content; a kit's own contents can't be archived", async () => {
  const world = await demoWorld();
  await world.ok(routes.newItem, { body: { code: "BAG-1", name: "Bag", kind: "bought", unit: "pc" } });
  const line = await lineOf(world, "KIT-CLUB", [[0, "BAG-1", "1"]]);
  const archive = async (code: string) =>
    (await world.ok(routes.setItemStates, { body: { items: [await world.idOf(code)], state: "archived" } }))
      .done;
  expect([(await archive("BAG-1")).length, (await archive("TRAY-D")).length]).toEqual([1, 0]);
  expect(await refused(world, line)).toEqual(["lines.0.contents.0.item archived"]);
});
