import { type FinishInput, Refusal } from "@yosegi/contract";
import {
  type Day,
  expiryOf,
  type Finish,
  type FinishedLine,
  LOT_PATTERN,
  lotNumber,
  serialAfter,
  sum,
} from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import type { ItemTableRow } from "../items/index.ts";
import { checkMade, serialsElsewhere } from "../ledger/index.ts";
import type { FinishedProduct } from "./rows.ts";

/** Lot and serial numbers of the finished units: as the product is tracked, distinct and not yet used. */
export async function checkNumbers(
  ctx: Reading,
  product: FinishedProduct,
  finish: Finish,
  body: FinishInput,
): Promise<void> {
  if (finish.good.eq(0)) return;
  checkMade(body, ctx.today);
  const { code } = product;
  if (product.tracking === "lot") {
    if (body.lot === "") throw Refusal.at("lot", "lot-needed", { code });
    const known = await ctx.sql.one<{ expiry: string | null }>(
      "SELECT expiry FROM lot_head WHERE item_id = $item AND code = $lot",
      { item: product.id, lot: body.lot },
    );
    if (known && known.expiry !== body.expiry)
      throw Refusal.at("expiry", "expiry-differs", { lot: body.lot, expiry: known.expiry ?? "none" });
  } else if (body.lot !== "") throw Refusal.at("lot", "lot-not-tracked", { code });
  if (product.tracking !== "serial") {
    if (body.serials.length > 0) throw Refusal.at("serials", "serial-not-tracked", { code });
    return;
  }
  const given = body.serials.filter((serial) => serial !== "");
  if (!finish.good.eq(given.length))
    throw Refusal.at("serials", "serial-count", { good: finish.good.toFixed(), given: given.length });
  const repeated = [...new Set(given.filter((serial, i) => given.indexOf(serial) !== i))];
  if (repeated.length > 0) throw Refusal.at("serials", "serial-repeated", { serials: repeated.join(", ") });
  const keys = given.map((serial) => ({ item: product.id, serial }));
  const elsewhere = await serialsElsewhere(ctx, keys, "built");
  const used = keys.filter((key) => elsewhere(key) !== null).map((key) => key.serial);
  if (used.length > 0)
    throw Refusal.at("serials", "serial-taken", {
      serial: used.sort().join(", "),
      where: [...new Set(keys.map(elsewhere).filter((where) => where !== null))].join(", "),
    });
}

export interface UnitPart {
  serial: string;
  item: number;
  part: string;
}

/**
 * Which part serials went into which finished unit: as the person says, the others dealt out in turn. A rejected unit keeps
 * its share, and what was scrapped went into none.
 */
export function partsOfUnits(
  product: FinishedProduct,
  { good, rejected }: Pick<Finish, "good" | "rejected">,
  body: FinishInput,
  lines: readonly FinishedLine[],
): UnitPart[] {
  const units = product.tracking === "serial" ? body.serials.filter((serial) => serial !== "") : [];
  if (units.length === 0) return [];
  const key = (item: number, part: string) => JSON.stringify([item, part]);
  const taken = lines.flatMap(({ item, taken }) =>
    taken.flatMap((t) => (t.serial === "" ? [] : [{ item, part: t.serial }])),
  );
  const there = new Set(taken.map((t) => key(t.item, t.part)));
  const named = new Set<string>();
  for (const [i, entry] of body.serialParts.entries()) {
    const { item, part, serial } = entry;
    if (!there.has(key(item, part)) || named.has(key(item, part)))
      throw Refusal.at(`serialParts.${i}.part`, "serial-part-unknown", { part });
    if (!units.includes(serial))
      throw Refusal.at(`serialParts.${i}.serial`, "serial-part-unknown", { part: serial });
    named.add(key(item, part));
  }
  const rest = taken.filter((t) => !named.has(key(t.item, t.part)));
  const dealt = [...new Set(rest.map((t) => t.item))].flatMap((item) => {
    const scrapped = sum(lines.filter((line) => line.item === item).map((line) => line.scrapped)).toNumber();
    const built = taken.filter((t) => t.item === item).length - scrapped;
    const own = rest.filter((t) => t.item === item);
    const each = Math.ceil(built / good.plus(rejected).toNumber());
    const room = units.flatMap((serial) =>
      Array.from({ length: Math.max(0, each - countNamed(body, item, serial)) }, () => serial),
    );
    return own.flatMap((t, i) => {
      const serial = room[i];
      return serial === undefined ? [] : [{ ...t, serial }];
    });
  });
  return [...body.serialParts, ...dealt];
}

const countNamed = ({ serialParts }: FinishInput, item: number, serial?: string): number =>
  serialParts.filter((entry) => entry.item === item && (serial === undefined || entry.serial === serial))
    .length;

/** Lot, expiry and serial number as they are offered for what is finished today. */
export async function suggestedNumbers(
  ctx: Reading,
  product: ItemTableRow,
): Promise<{ suggestedLot: string; suggestedExpiry: Day | null; suggestedSerial: string }> {
  const { shelf_life, tracking } = product;
  return {
    suggestedLot: tracking === "lot" ? await nextLot(ctx, product) : "",
    suggestedExpiry: tracking === "lot" ? expiryOf(ctx.today, shelf_life) : null,
    suggestedSerial: tracking === "serial" ? await nextSerial(ctx, product.id) : "",
  };
}

async function nextLot(ctx: Reading, product: ItemTableRow): Promise<string> {
  const rows = await ctx.sql.all<{ code: string }>("SELECT code FROM lot_head WHERE item_id = $item", {
    item: product.id,
  });
  const used = new Set(rows.map((row) => row.code));
  return lotNumber(product.lot_pattern || LOT_PATTERN, ctx.today, (lot) => used.has(lot));
}

/** The number after the last that came in; the product's code and 0001 where none did. */
async function nextSerial(ctx: Reading, item: number): Promise<string> {
  const last = await ctx.sql.one<{ serial: string }>(
    "SELECT serial FROM stock_movement WHERE item_id = $item AND serial <> '' AND from_location IS NULL ORDER BY id DESC LIMIT 1",
    { item },
  );
  return last ? (serialAfter(last.serial) ?? "") : "";
}

/** Serial numbers of an item that are used, whatever became of the units. */
export async function usedSerials(ctx: Reading, item: number): Promise<string[]> {
  const rows = await ctx.sql.all<{ code: string }>(
    "SELECT code FROM serial_head WHERE item_id = $item ORDER BY code",
    { item },
  );
  return rows.map((row) => row.code);
}
