import type { BuildSheet } from "@yosegi/contract";
import {
  buildOwner,
  byTurn,
  expired,
  free,
  needUnit,
  type PartsDeviation,
  type PickableStock,
  partsDeviation,
  quantityFromScaled,
  sameOwner,
  ZERO,
} from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { loadBooks, locationNames, stockFigures } from "../ledger/index.ts";
import { loadRevisions } from "../lists/index.ts";
import { type ChosenList, contentsOf, draftOf, listWithLines } from "./content.ts";
import type { StoredLine } from "./rows.ts";
import type { BuildTableRow } from "./tables.ts";

/** What the sheets of builds say of their parts, and where the finished units go. */
export interface SheetParts {
  list: {
    words: BuildSheet["list"];
    instructions: string;
    withAllOptions: ChosenList["withAllOptions"] | null;
  };
  lines: BuildSheet["lines"];
  ownParts: boolean;
  /** What of the list it takes none of, where its parts are its own. */
  leftOut: BuildSheet["leftOut"];
  store: string;
  bin: string;
}

/** The parts of builds as their sheets show them, on screen and on paper; all of them are read at once. */
export async function sheetParts(
  ctx: Reading,
  builds: readonly BuildTableRow[],
): Promise<(build: BuildTableRow) => SheetParts> {
  const contents = await contentsOf(ctx, builds);
  const contentOf = (build: BuildTableRow) => contents.get(build.id) ?? { list: null, lines: [] };
  const allLines = [...contents.values()].flatMap(({ lines }) => lines);
  const items = [...new Set(allLines.map((line) => line.item))];
  const locations = await locationNames(ctx);
  const allowed = await substitutesOf(ctx, builds);
  const spares = builds.flatMap((build) => contentOf(build).lines.flatMap((line) => allowed(build, line)));
  const deviationOf = await deviations(ctx, builds);
  const purchasesOf = await purchasesFor(ctx, builds);
  const apart = builds.flatMap((build) => deviationOf(build, contentOf(build).lines).items);
  const brief = await briefs(ctx, [...items, ...spares.map((spare) => spare.item), ...apart]);
  const stock = await stockFigures(ctx, [...items, ...spares.map((spare) => spare.item)]);
  const homeOf = await homes(ctx, [...items, ...builds.map((build) => build.product_id)]);
  const choices = await choicesOf(
    ctx,
    allLines.filter((line) => line.stocked).map((line) => line.item),
    locations,
  );
  const words = await listWords(
    ctx,
    builds.flatMap((build) => contentOf(build).list?.revision ?? build.revision_id ?? []),
  );
  return (build) => {
    const { list, lines } = contentOf(build);
    const home = homeOf(build.product_id);
    const { listed, leftOut } = deviationOf(build, lines);
    const { instructions = "", ...named } = words.get(list?.revision ?? build.revision_id ?? 0) ?? {};
    return {
      list: {
        words: "id" in named ? named : null,
        instructions,
        withAllOptions: list?.withAllOptions ?? null,
      },
      store: build.location_id === null ? home.store : (locations.get(build.location_id) ?? ""),
      bin: build.bin === "" && build.location_id === null ? home.bin : build.bin,
      ownParts: build.own_parts === 1,
      leftOut: leftOut.map(({ item, need, unit }) => ({ item: brief(item), need: need.toFixed(), unit })),
      lines: lines.map((line, i) => ({
        line: line.line,
        item: brief(line.item),
        service: line.service,
        stocked: line.stocked,
        drawnAt: line.drawnAt,
        store: line.store === null ? "" : (locations.get(line.store) ?? ""),
        note: line.note,
        unit: needUnit(line).code,
        decimals: needUnit(line).decimals,
        bin: homeOf(line.item).bin,
        need: line.need.toFixed(),
        used: line.used.toFixed(),
        scrapped: line.scrapped.toFixed(),
        open: line.open.toFixed(),
        bench: line.bench.toFixed(),
        onHand: !line.stocked ? null : free({ ...stock(line.item), reserved: ZERO }).toFixed(),
        added: line.added,
        insteadOf: line.insteadOf,
        listed: listedAs(listed[i], brief),
        substitutes: allowed(build, line).map((spare) => ({
          item: brief(spare.item),
          factor: spare.quantity.toFixed(),
          free: free(stock(spare.item)).toFixed(),
        })),
        purchases: purchasesOf(build.id, line.item),
        choices: line.stocked ? choices(build.id, line.item) : [],
      })),
    };
  };
}

/** What is on order or on drafts for builds, by build and part. */
async function purchasesFor(ctx: Reading, builds: readonly BuildTableRow[]) {
  const rows = await ctx.sql.all<
    Omit<OnOrder, "quantity"> & { build: number; item: number; quantity: number }
  >(
    `SELECT b.build_id AS build, b.item_id AS item, b.id, b.number, b.stage, b.expected, SUM(b.quantity) AS quantity
       FROM json_each($ids) ids JOIN bought_for_build b ON b.build_id = ids.value GROUP BY 1, 2, 3 ORDER BY b.id`,
    { ids: asJson(builds.map((build) => build.id)) },
  );
  const found = groupBy(rows, (row) => `${row.build} ${row.item}`);
  return (build: number, item: number): OnOrder[] =>
    (found.get(`${build} ${item}`) ?? []).map(({ id, number, stage, expected, quantity }) => ({
      id,
      number,
      stage,
      expected,
      quantity: quantityFromScaled(quantity).toFixed(),
    }));
}

type OnOrder = BuildSheet["lines"][number]["purchases"][number];

const listedAs = (
  listed: PartsDeviation["listed"][number] | undefined,
  brief: (item: number) => BuildSheet["product"],
) => (listed ? { item: brief(listed.item), need: listed.need.toFixed() } : null);

const NO_DEVIATION: PartsDeviation = { listed: [], leftOut: [] };

/** How the parts of builds differ from their lists; nothing of those that follow them. */
async function deviations(ctx: Reading, builds: readonly BuildTableRow[]) {
  const own = builds.filter((build) => build.own_parts === 1);
  const revisions = await loadRevisions(
    ctx,
    own.flatMap((build) => build.revision_id ?? []),
  );
  return (build: BuildTableRow, lines: readonly StoredLine[]) => {
    const list = build.own_parts === 1 ? revisions.get(build.revision_id ?? 0) : undefined;
    const found = list
      ? partsDeviation(
          listWithLines(list, new Set(draftOf(build).options)),
          quantityFromScaled(build.quantity),
          lines,
        )
      : NO_DEVIATION;
    const items = [
      ...found.listed.flatMap((listed) => listed?.item ?? []),
      ...found.leftOut.map((l) => l.item),
    ];
    return { ...found, items };
  };
}

/** What the revisions of builds allow instead of a line's part. */
export async function substitutesOf(ctx: Reading, builds: readonly BuildTableRow[]) {
  const lists = await loadRevisions(
    ctx,
    builds.flatMap((build) => build.revision_id ?? []),
  );
  return (build: BuildTableRow, line: StoredLine) =>
    line.listLine === null
      ? []
      : (lists.get(build.revision_id ?? 0)?.lines[line.listLine - 1]?.substitutes ?? []).filter(
          // A build may have taken one of them already, as a part of its own.
          (spare) => spare.item !== line.item,
        );
}

/** Lots and serials of tracked parts that a build could take, those on its bench first, then in the suggested order. */
async function choicesOf(ctx: Reading, items: readonly number[], locations: ReadonlyMap<number, string>) {
  const { ready, bench } = await loadBooks(ctx, items);
  const shown = (bench: boolean) => (balance: PickableStock) => ({
    code: balance.serial === "" ? balance.lot : balance.serial,
    quantity: balance.quantity.toFixed(),
    expiry: balance.expiry,
    bench,
    store: locations.get(balance.location) ?? "",
    bin: balance.bin,
  });
  return (build: number, item: number) => {
    const own = (balance: PickableStock) =>
      balance.item === item && (balance.lot !== "" || balance.serial !== "");
    const onBench = bench
      .filter((balance) => own(balance) && sameOwner(balance.owner, buildOwner(build)))
      .sort(byTurn);
    const inStores = ready.filter((b) => own(b) && !expired(b.expiry, ctx.today)).sort(byTurn);
    return [...onBench.map(shown(true)), ...inStores.map(shown(false))];
  };
}

async function listWords(
  ctx: Reading,
  revisions: readonly number[],
): Promise<Map<number, NonNullable<BuildSheet["list"]> & { instructions: string }>> {
  const rows = await ctx.sql.all<NonNullable<BuildSheet["list"]> & { isMain: number; instructions: string }>(
    `SELECT p.id, p.name, p.main AS isMain, r.number AS revision, r.id AS revisionId, r.instructions
       FROM revision_head r JOIN list_head p ON p.id = r.list_id WHERE r.id IN (SELECT value FROM json_each($revisions))`,
    { revisions: asJson(new Set(revisions)) },
  );
  return new Map(rows.map(({ isMain, ...row }) => [row.revisionId, { ...row, main: isMain === 1 }]));
}

/** Home store and bin of items; the first store where an item names none. */
export async function homes(ctx: Reading, items: readonly number[]) {
  const rows = await ctx.sql.all<{ id: number; store: string; bin: string }>(
    `SELECT h.item_id AS id, COALESCE(p.name, '') AS store, h.bin
       FROM json_each($ids) ids JOIN item_home h ON h.item_id = ids.value LEFT JOIN location_head p ON p.id = h.location_id`,
    { ids: asJson(new Set(items)) },
  );
  const byItem = new Map(rows.map((row) => [row.id, row]));
  return (item: number) => byItem.get(item) ?? { store: "", bin: "" };
}
