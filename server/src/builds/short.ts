import { type ErrorAnswer, Refusal } from "@yosegi/contract";
import type { Decimal, PartShort } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";

/** Short parts as an answer tells them, with their names. */
export async function shortsOf(
  ctx: Reading,
  shorts: readonly PartShort[],
): Promise<NonNullable<ErrorAnswer["shorts"]>> {
  const brief = await briefs(
    ctx,
    shorts.map((short) => short.item),
  );
  return shorts.map((short) => {
    const { code, name, unit } = brief(short.item);
    return {
      item: short.item,
      code,
      name,
      unit,
      needed: short.needed.toFixed(),
      there: short.there.toFixed(),
      short: short.short.toFixed(),
    };
  });
}

/** Refuses for want of parts: names them at their lines, and says how many units they would do for. */
export async function notEnough(
  ctx: Reading,
  wanting: readonly PartShort[],
  lines: readonly { line: number; item: number }[],
  largest: Decimal | null,
): Promise<Refusal> {
  const shorts = await shortsOf(ctx, wanting);
  const fields = shorts.flatMap((short) =>
    lines
      .filter((line) => line.item === short.item)
      .map((line) => ({
        field: `line.${line.line}`,
        code: "not-enough",
        message: `${short.there} ${short.unit} on hand, ${short.short} ${short.unit} short`,
      })),
  );
  const parts = shorts.map((short) => short.name).join(", ");
  return new Refusal("not-enough", { parts }, fields, {
    shorts,
    ...(largest !== null && { largest: largest.toFixed() }),
  });
}
