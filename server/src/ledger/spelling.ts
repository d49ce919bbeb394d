import { Refusal } from "@yosegi/contract";
import { codeKey, type Movement } from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";

/** A lot or serial number that comes into stock. */
interface Arriving {
  what: "lot" | "serial";
  item: number;
  code: string;
  key: string;
}

/**
 * Refuses a lot or serial number that comes in with other capitals than it is known by: it would be another lot, or a second unit, by a slip of
 * the keyboard. One that is known just so may come in again.
 */
export async function refuseOtherSpelling(ctx: Reading, movements: readonly Movement[]): Promise<void> {
  const arriving = movements
    .filter(({ from, quantity }) => from === null && quantity.gt(0))
    .flatMap(({ item, lot, serial }): Arriving[] => [
      ...(lot === "" ? [] : [{ what: "lot" as const, item, code: lot, key: codeKey(lot) }]),
      ...(serial === "" ? [] : [{ what: "serial" as const, item, code: serial, key: codeKey(serial) }]),
    ]);
  if (arriving.length === 0) return;
  const known = await ctx.sql.all<Arriving & { as: string }>(
    `SELECT k.value ->> 'what' AS what, k.value ->> 'item' AS item, k.value ->> 'code' AS code, k.value ->> 'key' AS key, n.code AS "as"
       FROM json_each($arriving) k
       JOIN (SELECT 'lot' AS what, item_id, code, code_key FROM lot UNION ALL SELECT 'serial', item_id, code, code_key FROM serial) n
         ON n.code_key = k.value ->> 'key' AND n.item_id = k.value ->> 'item' AND n.what = k.value ->> 'what'`,
    { arriving: asJson(arriving) },
  );
  const asKnown = new Set(known.filter((own) => own.as === own.code).map(keyOf));
  const first = new Map(known.map((own) => [keyOf(own), own.as]));
  for (const own of arriving) {
    const key = keyOf(own);
    const other = first.get(key);
    if (other === undefined) first.set(key, own.code);
    else if (other !== own.code && !asKnown.has(key))
      throw new Refusal("written-otherwise", { what: own.what, code: own.code, known: other });
  }
}

const keyOf = ({ what, item, key }: Arriving): string => JSON.stringify([what, item, key]);
