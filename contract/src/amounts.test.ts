import { decimal } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { isAmount, parseAmounts } from "./amounts.ts";
import { percent, quantity, quantityOrZero } from "./fields.ts";
import { routes } from "./index.ts";
import { z } from "./zod.ts";

/** Everything that a schema is made of and parseAmounts goes into. */
const GONE_INTO = ["object", "array", "nullable", "optional", "default", "pipe"];

/** The kinds of schema that lie around each amount of a schema, from the outside in. */
function around(schema: unknown, outer: string[] = [], seen = new Set<unknown>()): string[][] {
  if (schema === null || typeof schema !== "object" || seen.has(schema)) return [];
  const inside = new Set([...seen, schema]);
  if (!(schema instanceof z.ZodType))
    return Object.values(schema).flatMap((inner) => around(inner, outer, inside));
  if (isAmount(schema)) return [outer];
  const { type } = schema.def;
  return around(schema instanceof z.ZodObject ? schema.shape : schema.def, [...outer, type], inside);
}

describe("amounts of a request", () => {
  it("are parsed in whatever a body or a query is made of", () => {
    const found = Object.entries(routes).flatMap(([name, route]) =>
      [route.body, route.query]
        .flatMap((schema) => around(schema))
        .map((kinds) => ({ name, kinds: kinds.filter((kind) => !GONE_INTO.includes(kind)) })),
    );
    expect(found.length).toBeGreaterThan(40);
    expect(found.filter(({ kinds }) => kinds.length > 0)).toEqual([]);
  });

  it("become decimals, however deep, and all else stays", () => {
    const schema = z.object({
      code: z.string(),
      wish: percent.optional(),
      cost: quantityOrZero.nullable().default(null),
      lines: z.array(z.object({ quantity, note: z.string() })).max(3),
    });
    const lines = [{ quantity: "0.1", note: "0.2" }];
    const value = schema.parse({ code: "1", lines });
    expect(parseAmounts(schema, value)).toEqual({
      code: "1",
      cost: null,
      lines: [{ quantity: decimal("0.1"), note: "0.2" }],
    });
    expect(parseAmounts(schema, { ...value, wish: "12.5", cost: "0" })).toMatchObject({
      wish: decimal("12.5"),
      cost: decimal(0),
    });
  });
});
