// @vitest-environment happy-dom

import { act, cleanup, renderHook } from "@testing-library/react";
import { z } from "@yosegi/contract";
import type { ReactNode } from "react";
import { FormProvider, type UseFormReturn, useForm } from "react-hook-form";
import { afterEach, describe, expect, it } from "vitest";
import type { Claims } from "../ui/index.ts";
import { describeBy } from "./described.ts";
import { useGrid } from "./grid.ts";
import { isRequiredIn } from "./required.ts";
import { sentLines } from "./sentlines.ts";

afterEach(cleanup);

describe("whether a field must be filled in", () => {
  const schema = z.object({
    name: z.string().trim().min(1),
    note: z.string().default(""),
    customer: z.int().positive(),
    due: z.string().min(1).nullable(),
    shown: z.boolean(),
    stage: z.enum(["open", "ended"]),
    lines: z.array(z.object({ quantity: z.string().min(1), tag: z.string() })),
  });
  it.each([
    ["name", true],
    ["note", false],
    ["customer", true],
    ["due", false],
    ["shown", false],
    ["stage", false],
    ["lines.3.quantity", true],
    ["lines.3.tag", false],
    ["lines", false],
    ["of another form", false],
  ])("%s: %s", (path, required) => {
    expect(isRequiredIn(schema, path)).toBe(required);
  });
});

describe("a fault in what was sent", () => {
  const fieldOf = sentLines("lines", (line: { code: string }) => line.code !== "");
  const values = { lines: [{ code: "" }, { code: "A" }, { code: "" }, { code: "B" }] };
  it.each([
    ["lines.0.quantity", "lines.1.quantity"],
    ["lines.1.pack.name", "lines.3.pack.name"],
    ["lines", "lines"],
    ["note", "note"],
    // What was never there stays as it is called.
    ["lines.7.quantity", "lines.7.quantity"],
  ])("at %s stands at %s", (path, name) => {
    expect(fieldOf(path, values)).toBe(name);
  });
});

it("tells what a form says by its fields: what was chosen, ticked and typed, line by line", () => {
  const claim = (label: string) => ({ label, fields: 1 });
  const claims: Claims = new Map([
    ["customer", claim("Customer")],
    ["shown", claim("Shown")],
    ["lines.0.item", claim("Item 1")],
    ["lines.0.quantity", claim("Quantity 1")],
    ["lines", claim("")],
  ]);
  const values = {
    customer: { id: 3, name: "Ashgrove Farm Shop" },
    shown: true,
    lines: [
      { item: { code: "FEED-12", name: "Autumn feed" }, quantity: "4" },
      { item: null, quantity: "" },
      { item: { code: "HON-4", name: "Honey" }, quantity: "6" },
    ],
  };
  expect(describeBy(claims, values)).toEqual([
    ["Customer", "Ashgrove Farm Shop"],
    ["Shown", "yes"],
    ["Line", "FEED-12 4"],
    ["Line", "HON-4 6"],
  ]);
});

describe("lines that end with an empty one", () => {
  interface Values {
    lines: { key: number; code: string }[];
  }
  const isEmpty = (line: Values["lines"][number]) => line.code === "";
  const blank = (key: number) => ({ key, code: "" });
  const open = (codes: string[]) => {
    let form: UseFormReturn<Values> | undefined;
    const wrapper = ({ children }: { children: ReactNode }) => {
      form = useForm<Values>({ defaultValues: { lines: codes.map((code, key) => ({ key, code })) } });
      return <FormProvider {...form}>{children}</FormProvider>;
    };
    const { result } = renderHook(() => useGrid("lines", isEmpty, blank), { wrapper });
    return { grid: () => result.current, form: form as unknown as UseFormReturn<Values> };
  };
  it("get one, and the next as soon as that is filled", async () => {
    const { grid, form } = open(["A"]);
    expect(grid().keys).toEqual([0, 1]);
    await act(async () => form.setValue("lines.1.code", "B"));
    expect(grid().keys).toEqual([0, 1, 2]);
    expect(form.getValues("lines").map((line) => line.code)).toEqual(["A", "B", ""]);
  });
  it("keep their keys where they are moved or others are removed", async () => {
    const { grid, form } = open(["A", "B", "C"]);
    await act(async () => grid().move(2, 0));
    expect(grid().keys).toEqual([2, 0, 1, 3]);
    await act(async () => grid().remove(1));
    expect(form.getValues("lines").map((line) => line.code)).toEqual(["C", "B", ""]);
    expect(grid().keys).toEqual([2, 1, 3]);
  });
});
