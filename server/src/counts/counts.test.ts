import { routes } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { closeWorlds, demoWorld, fieldsOf, TODAY, type World } from "../testing/world.ts";

afterEach(closeWorlds);

const sheetOf = async (world: World, body: object) => world.ok(routes.newCount, { body });

/** A sheet of one item's stock, with its only line. */
async function countOf(world: World, code: string, more: object = {}) {
  const sheet = await sheetOf(world, { items: [await world.idOf(code)], ...more });
  const [line] = sheet.sheet;
  if (!line) throw new Error(`no line of ${code}`);
  return { id: sheet.id, number: sheet.number, line };
}

const enter = (world: World, id: number, line: number, counted: string | null, more: object = {}) =>
  world.ok(routes.enterCounts, { params: { id }, body: { lines: [{ line, counted, ...more }] } });

/** What posts a sheet as it is now. */
async function asSeen(world: World, id: number) {
  const params = { id };
  const { counted, differences, found, lost } = await world.ok(routes.countSheet, { params });
  return { params, body: { counted, differences, found, lost } };
}

const scrap = (
  world: World,
  { item, store, bin }: { item: { id: number }; store: string; bin: string },
  quantity: string,
) =>
  world.ok(routes.scrapStock, {
    body: { lines: [{ item: item.id, store, bin, quantity }], reason: "broken", day: TODAY },
  });

const onHand = async (world: World, code: string) =>
  (await world.ok(routes.item, { params: { id: await world.idOf(code) } })).onHand;

describe("a count sheet", () => {
  it("lists what the books say, is entered, shows what differs in quantity and money, and corrects the stock once", async () => {
    const world = await demoWorld();
    const { id, number, line } = await countOf(world, "HTL-J");
    const before = Number(line.books);
    expect([number, line.counted, line.difference, line.value]).toEqual(["C-1", null, null, null]);
    const entered = await enter(world, id, line.id, String(before - 2), { reason: "two lent out" });
    expect(entered.sheet[0]).toMatchObject({ difference: "-2", value: "-10.2000", person: "Ines" });
    expect([entered.counted, entered.differences, entered.found, entered.lost]).toEqual([
      1,
      1,
      "0.0000",
      "10.2000",
    ]);
    // Nothing is posted yet.
    expect(await onHand(world, "HTL-J")).toBe(String(before));
    const posted = await world.ok(routes.postCount, await asSeen(world, id));
    expect([posted.state, posted.lost, posted.sheet[0]?.value]).toEqual(["posted", "10.2000", "-10.2000"]);
    expect(await onHand(world, "HTL-J")).toBe(String(before - 2));
    const { movements } = await world.ok(routes.movements, { query: { document: number } });
    expect(movements.map((m) => [m.reason, m.value])).toEqual([["two lent out", "10.2000"]]);
    const again = await world.call(routes.postCount, await asSeen(world, id));
    expect([again.status, again.error.code]).toEqual([409, "count-ended"]);
    // It is undone like all that is booked by hand.
    await world.ok(routes.undoStock, { body: { document: number } });
    expect((await world.ok(routes.countSheet, { params: { id } })).state).toBe("undone");
    expect((await world.ok(routes.counts, {})).counts[0]).toMatchObject({
      state: "undone",
      lines: 1,
      counted: 1,
    });
    expect(await onHand(world, "HTL-J")).toBe(String(before));
    expect(await world.audit()).toEqual([]);
  });

  it("takes into account what moved since a line was counted", async () => {
    const world = await demoWorld();
    const { id, line } = await countOf(world, "HTL-J");
    const before = Number(line.books);
    // One is missing; then three are scrapped.
    await enter(world, id, line.id, String(before - 1));
    await scrap(world, line, "3");
    const posted = await world.ok(routes.postCount, await asSeen(world, id));
    expect(posted.sheet[0]?.difference).toBe("-1");
    expect(await onHand(world, "HTL-J")).toBe(String(before - 4));
  });

  it("tells what moved before a line was entered, and takes the person's word that it was counted before", async () => {
    const world = await demoWorld();
    const { id, line } = await countOf(world, "HTL-J");
    const before = Number(line.books);
    await scrap(world, line, "3");
    const after = await enter(world, id, line.id, String(before));
    expect(after.sheet[0]).toMatchObject({ moved: "-3", difference: "3", books: String(before - 3) });
    const said = await enter(world, id, line.id, String(before), { before: true });
    expect(said.sheet[0]).toMatchObject({ moved: "-3", difference: "0", before: true });
    await world.ok(routes.postCount, await asSeen(world, id));
    expect(await onHand(world, "HTL-J")).toBe(String(before - 3));
  });

  it("takes nothing off twice where two sheets count one bin, nor when one of them is undone", async () => {
    const world = await demoWorld();
    const [first, second] = [await countOf(world, "HTL-J"), await countOf(world, "HTL-J")];
    const before = Number(first.line.books);
    await enter(world, first.id, first.line.id, String(before - 2));
    await enter(world, second.id, second.line.id, String(before - 2));
    world.store.now = () => new Date(`${TODAY}T09:10:00Z`);
    await world.ok(routes.postCount, await asSeen(world, first.id));
    expect((await world.ok(routes.countSheet, { params: { id: second.id } })).differences).toBe(0);
    await world.ok(routes.undoStock, { body: { document: first.number } });
    expect((await world.ok(routes.countSheet, { params: { id: second.id } })).differences).toBe(1);
    await world.ok(routes.postCount, await asSeen(world, second.id));
    expect(await onHand(world, "HTL-J")).toBe(String(before - 2));
    expect(await world.audit()).toEqual([]);
  });

  it("refuses to be posted where more left than was counted, until it is counted again", async () => {
    const world = await demoWorld();
    const { id, line } = await countOf(world, "HTL-J");
    await enter(world, id, line.id, "1");
    await scrap(world, line, "2");
    const refused = await world.call(routes.postCount, await asSeen(world, id));
    expect([refused.status, refused.error.code]).toEqual([409, "count-overtaken"]);
    await enter(world, id, line.id, "0");
    expect((await world.ok(routes.postCount, await asSeen(world, id))).state).toBe("posted");
    expect(await onHand(world, "HTL-J")).toBe("0");
    expect(await world.audit()).toEqual([]);
  });

  it("keeps what the books say to itself while it is blind", async () => {
    const world = await demoWorld();
    const { id, line } = await countOf(world, "HTL-J", { blind: true });
    expect([line.books, line.moved]).toEqual([null, null]);
    const entered = await enter(world, id, line.id, "1");
    expect(entered.sheet[0]?.books).not.toBeNull();
    const cleared = await enter(world, id, line.id, null);
    expect([cleared.sheet[0]?.books, cleared.counted]).toEqual([null, 0]);
  });

  it("is not posted otherwise than as it was seen: an entry made meanwhile is looked at first", async () => {
    const world = await demoWorld();
    const { id, line } = await countOf(world, "HTL-J");
    await enter(world, id, line.id, String(Number(line.books) - 1));
    const seen = await asSeen(world, id);
    await enter(world, id, line.id, "3");
    const late = await world.call(routes.postCount, seen);
    expect([late.status, late.error.code]).toEqual([409, "count-changed"]);
    expect(await onHand(world, "HTL-J")).toBe(line.books);
    expect((await world.ok(routes.postCount, await asSeen(world, id))).state).toBe("posted");
  });

  it("is of bins that there are, in whatever capitals", async () => {
    const world = await demoWorld();
    const body = (...codes: string[]) => ({ bins: codes.map((bin) => ({ location: 1, bin })) });
    const typo = await world.call(routes.newCount, { body: body("02-A", "99-Z") });
    expect(fieldsOf(typo.error)).toEqual(["bins.1.bin no-such-bin"]);
    const { sheet } = await sheetOf(world, body("02-b"));
    expect([...new Set(sheet.map(({ bin }) => bin))]).toEqual(["02-B"]);
  });

  it("takes what was found and is not on it, at the cost of now", async () => {
    const world = await demoWorld();
    const { id } = await countOf(world, "HTL-J");
    const item = await world.idOf("SMK-S");
    const body = { item, store: "Yard", bin: "Y1-A", counted: "2" };
    const found = await world.ok(routes.addFound, { params: { id }, body });
    expect(found.sheet.find((line) => line.item.id === item)).toMatchObject({
      counted: "2",
      difference: "2",
      value: "34.4000",
    });
    const twice = await world.call(routes.addFound, { params: { id }, body });
    expect(fieldsOf(twice.error)).toEqual(["item count-line-there"]);
    const nowhere = await world.call(routes.addFound, { params: { id }, body: { ...body, bin: "Z9" } });
    expect(fieldsOf(nowhere.error)).toEqual(["bin bin-unknown"]);
    const lots = await world.call(routes.addFound, {
      params: { id },
      body: { ...body, item: await world.idOf("SYR-72"), lot: "unknown" },
    });
    expect(fieldsOf(lots.error)).toEqual(["lot lot-needed"]);
    for (const code of ["LAB-B", "KIT-CARE"]) {
      const work = await world.call(routes.addFound, {
        params: { id },
        body: { ...body, item: await world.idOf(code) },
      });
      expect(fieldsOf(work.error)).toEqual(["item not-stocked"]);
    }
    expect((await world.ok(routes.postCount, await asSeen(world, id))).found).toBe("34.4000");
  });

  it("is refused what it can't take, and changes nothing", async () => {
    const world = await demoWorld();
    const { id, line } = await countOf(world, "HTL-J");
    const sent = (body: object) => world.call(routes.enterCounts, { params: { id }, body });
    const one = { line: line.id, counted: "1" };
    expect(fieldsOf((await sent({ lines: [{ ...one, counted: "1.5" }] })).error)).toEqual([
      "lines.0.counted decimals",
    ]);
    expect(fieldsOf((await sent({ lines: [{ ...one, counted: "-1" }] })).error)).toEqual([
      "lines.0.counted invalid-input",
    ]);
    expect(fieldsOf((await sent({ lines: [one, one] })).error)).toEqual(["lines.1 invalid-input"]);
    expect(fieldsOf((await sent({ lines: [{ ...one, line: 999 }] })).error)).toEqual([
      "lines.0.line not-found",
    ]);
    expect((await world.call(routes.postCount, await asSeen(world, id))).error.code).toBe("nothing-counted");
    const cancelled = await world.ok(routes.cancelCount, { params: { id } });
    expect([cancelled.state, cancelled.endedBy]).toEqual(["cancelled", "Ines"]);
    expect((await sent({ lines: [one] })).error.code).toBe("count-ended");
    const none = await world.call(routes.newCount, { body: { items: [await world.idOf("KIT-CARE")] } });
    expect(none.error.code).toBe("nothing-to-count");
  });

  it("lists a serial number as one that is there or not", async () => {
    const world = await demoWorld();
    const sheet = await sheetOf(world, { items: [await world.idOf("SCL-E")] });
    const [first] = sheet.sheet;
    const two = await world.call(routes.enterCounts, {
      params: { id: sheet.id },
      body: { lines: [{ line: first?.id, counted: "2" }] },
    });
    expect(fieldsOf(two.error)).toEqual(["lines.0.counted serial-one"]);
    await enter(world, sheet.id, first?.id ?? 0, "0");
    await world.ok(routes.postCount, await asSeen(world, sheet.id));
    expect(await onHand(world, "SCL-E")).toBe(String(sheet.lines - 1));
  });
});

describe("what to count next", () => {
  it("is a bin no longer once it was counted and nothing moved since", async () => {
    const world = await demoWorld();
    const next = async () => (await world.ok(routes.countNext, {})).bins;
    const [first] = await next();
    if (!first) throw new Error("nothing to count");
    expect(first.lastCounted).toBeNull();
    const { id, sheet } = await sheetOf(world, { bins: [{ location: first.location, bin: first.bin }] });
    await world.ok(routes.enterCounts, {
      params: { id },
      body: { lines: sheet.map((line) => ({ line: line.id, counted: line.books })) },
    });
    await world.ok(routes.postCount, await asSeen(world, id));
    const counted = (await next()).find(
      ({ bin, location }) => bin === first.bin && location === first.location,
    );
    expect(counted?.moves ?? 0).toBe(0);
    // A sheet of what was not counted lately is without it.
    const rest = await sheetOf(world, { store: first.location, days: 30 });
    expect(rest.sheet.some((line) => line.bin === first.bin)).toBe(false);
  });
});

it("prints with codes, a blind one without what the books say", async () => {
  const world = await demoWorld();
  const { id } = await countOf(world, "HTL-J", { blind: true, note: "spring" });
  const reply = await world.app.inject({ url: `/api/counts/${id}/paper` });
  expect([reply.statusCode, reply.headers["content-type"]]).toEqual([200, "application/pdf"]);
});
