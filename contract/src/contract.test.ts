import { PROBLEM_CODES } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { ERRORS, messageOf, Refusal } from "./errors.ts";
import { cost, day, percent, price, quantity, quantityOrZero, UNREADABLE } from "./fields.ts";
import { PERMISSIONS, routes } from "./index.ts";
import { markOf } from "./marks.ts";
import type { Route } from "./route.ts";
import { z } from "./zod.ts";

const said = (schema: z.ZodType, text: unknown) =>
  schema.safeParse(text).error?.issues.map((i) => i.message) ?? [];

describe("typed amounts", () => {
  it.each([["12.5"], ["0.000001"], [" 7 "], ["999999999"]])("takes %s", (text) => {
    expect(said(quantity, text)).toEqual([]);
  });
  it.each([
    ["", ["The quantity is missing."]],
    [undefined, ["The quantity is missing."]],
    ["two", ["“two” is not a number. Write it like 12.5."]],
    [`${UNREADABLE}251.4`, ["“251.4” is not a number. Write it like 12.5."]],
    ["1,5", ["“1,5” is not a number. Write it like 12.5."]],
    ["1e3", ["“1e3” is not a number. Write it like 12.5."]],
    ["0", ["The quantity must be more than zero."]],
    ["-1", ["The quantity must be more than zero."]],
    ["0.0000001", ["The quantity may have up to 6 decimals."]],
    ["1000000000", ["The quantity may be up to 999999999."]],
    [12.5, ["The quantity is missing."]],
  ])("refuses %s", (text, messages) => {
    expect(said(quantity, text)).toEqual(messages);
  });
  it("knows costs to four decimals, prices too, and zero where it may be", () => {
    expect(said(cost, "0.1234")).toEqual([]);
    expect(said(cost, "0.12345")).toEqual(["The cost may have up to 4 decimals."]);
    expect(said(price, "1.00505")).toEqual(["The price may have up to 4 decimals."]);
    expect(said(quantityOrZero, "0")).toEqual([]);
    expect(said(percent, "1001")).toEqual(["Waste can't be more than 1000 %."]);
  });
  it("takes only days that exist", () => {
    expect(day.safeParse("2026-02-28").success).toBe(true);
    expect(day.safeParse("2026-02-30").error?.issues[0]?.message).toBe(
      "“2026-02-30” isn't a date. Write it like 2026-12-31.",
    );
  });
});

describe("the error catalogue", () => {
  it("has words for every problem of the core, and a status for every error", () => {
    for (const code of PROBLEM_CODES) expect(messageOf(code, {}), code).not.toBe("");
    for (const [code, { status }] of Object.entries(ERRORS))
      expect([400, 403, 404, 409, 413, 415, 422, 500], code).toContain(status);
  });
  it("puts a refusal at its field", () => {
    const refusal = Refusal.at("code", "code-taken", { code: "FRM-A" });
    expect([refusal.status, refusal.fields]).toEqual([
      409,
      [
        {
          field: "code",
          code: "code-taken",
          message: "FRM-A is already in the catalog. Capital and small letters count as the same.",
        },
      ],
    ]);
  });
});

it("has no two routes at one address, and only commands change anything", () => {
  const all = Object.values<Route>(routes);
  expect(new Set(all.map((route) => `${route.method} ${route.path}`)).size).toBe(all.length);
  expect(all.filter((route) => route.method === "GET" && route.command)).toEqual([]);
  expect(all.filter((route) => route.method === "PUT" && !route.command)).toEqual([]);
});

it("has a permission for every route, and a route for every permission", () => {
  const named = new Set(Object.values<Route>(routes).map((route) => route.permission));
  expect([...named].toSorted()).toEqual(Object.keys(PERMISSIONS).toSorted());
});

/** Every property of an answer with its path, looked for in objects, lists and what may be null. */
function propertiesOf(schema: z.ZodType, path = ""): { path: string; name: string; schema: z.ZodType }[] {
  if (schema instanceof z.ZodNullable || schema instanceof z.ZodOptional)
    return propertiesOf(schema.unwrap() as z.ZodType, path);
  if (schema instanceof z.ZodArray) return propertiesOf(schema.element as z.ZodType, `${path}[]`);
  if (!(schema instanceof z.ZodObject)) return [];
  return Object.entries<z.ZodType>(schema.shape).flatMap(([name, value]) => {
    const at = `${path}.${name}`;
    return [{ path: at, name, schema: value }, ...(markOf(value) ? [] : propertiesOf(value, at))];
  });
}

const MONEY =
  /^(cost|price|value|materials|overhead|each|fee|margin|spending|brings)$|[a-z](Cost|Price|Rate)$|^(cost|price)(Before|After|Rate)$/;
/** Named like money, and none: what a person filled in, a cell of a file, names of what has no cost. */
const NO_MONEY = /\.custom\[\]\.value$|\.problems\[\]\.value$|\.noCost$|\.taxRate$/;

it("marks what shows a cost or a price, and nothing else", () => {
  const found = Object.values<Route>(routes).flatMap((route) =>
    propertiesOf(route.answer, route.path).map(({ path, name, schema }) => ({
      path,
      money: MONEY.test(name) && !(schema instanceof z.ZodBoolean),
      nested: propertiesOf(schema).length > 0,
      mark: markOf(schema),
    })),
  );
  const unmarked = found.filter((one) => one.money && !one.nested && one.mark === null);
  expect(unmarked.map((one) => one.path).filter((path) => !NO_MONEY.test(path))).toEqual([]);
  const quantities = /\.(quantity|onHand|free|reserved|good|rejected|need|open|short|received)$/;
  expect(found.filter((one) => one.mark !== null && quantities.test(one.path))).toEqual([]);
  expect(found.filter((one) => one.mark !== null).length).toBeGreaterThan(100);
});

describe("what a schema says without words of its own", () => {
  const said = (schema: z.ZodType, input: unknown) => schema.safeParse(input).error?.issues[0]?.message;
  it.each([
    ["a missing text", z.string(), undefined, "This is missing."],
    ["a number for a text", z.string(), 5, "This can't be read."],
    ["nothing chosen", z.int().positive(), 0, "Choose one."],
    ["too low a number", z.int().min(3), 2, "This is at least 3."],
    ["too high a number", z.int().max(3), 4, "This is at most 3."],
    ["no line", z.array(z.string()).min(1), [], "At least one is needed."],
    ["too many lines", z.array(z.string()).max(1), ["a", "b"], "Up to 1 are allowed at once."],
    ["too long a text", z.string().max(2), "abc", "Up to 2 characters are allowed."],
    ["another choice", z.enum(["lot", "serial"]), "box", "Choose one of these: lot, serial."],
    ["no address", z.email(), "x", "This can't be read."],
  ])("%s is told in plain words", (_, schema, input, words) => {
    expect(said(schema, input)).toBe(words);
  });
});
