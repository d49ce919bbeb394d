// @vitest-environment happy-dom
import { act, cleanup, renderHook } from "@testing-library/react";
import { useForm } from "react-hook-form";
import { afterEach, expect, it } from "vitest";
import { useHistory } from "./history.ts";

afterEach(cleanup);

interface Values {
  quantity: string;
  unit: string;
  room: number;
}

const open = () =>
  renderHook(() => {
    const methods = useForm<Values>({ defaultValues: { quantity: "1", unit: "pc", room: 0 } });
    const history = useHistory(
      methods,
      ({ quantity, unit }) => `${quantity} ${unit}`,
      (name) => name === "quantity",
    );
    return { methods, history };
  }).result;

const now = ({ methods }: ReturnType<typeof open>["current"]) => {
  const { quantity, unit } = methods.getValues();
  return `${quantity} ${unit}`;
};

it("undoes a typed word at once, a choice by itself, and does it again", async () => {
  const form = open();
  const set = (name: "quantity" | "unit", value: string) =>
    act(async () => form.current.methods.setValue(name, value));
  expect(form.current.history.canUndo).toBe(false);
  await set("quantity", "12");
  await set("quantity", "123");
  await set("unit", "L");
  await set("unit", "mL");
  await act(async () => form.current.history.undo());
  expect(now(form.current)).toBe("123 L");
  await act(async () => form.current.history.undo());
  await act(async () => form.current.history.undo());
  expect([now(form.current), form.current.history.canUndo]).toEqual(["1 pc", false]);
  await act(async () => form.current.history.redo());
  expect(now(form.current)).toBe("123 pc");
  // Another change leaves what was undone behind.
  await set("unit", "kg");
  expect([now(form.current), form.current.history.canRedo]).toEqual(["123 kg", false]);
});

it("takes what is set together as one step, and room to go on as none", async () => {
  const form = open();
  await act(async () => {
    form.current.methods.setValue("quantity", "5");
    form.current.methods.setValue("unit", "L");
  });
  await act(async () => form.current.methods.setValue("room", 3));
  await act(async () => form.current.history.undo());
  expect([now(form.current), form.current.history.canUndo]).toEqual(["1 pc", false]);
});
