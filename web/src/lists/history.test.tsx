// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, renderHook, screen } from "@testing-library/react";
import { useRef } from "react";
import { createPortal } from "react-dom";
import { useForm } from "react-hook-form";
import { afterEach, expect, it } from "vitest";
import { type History, useHistory, useUndoKeys } from "./history.ts";

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

/** A page with a field within, and a dialog that is drawn elsewhere. */
function Page({ history }: { history: History }) {
  const page = useRef<HTMLDivElement>(null);
  useUndoKeys(page, history);
  return (
    <div ref={page}>
      <input aria-label="within" />
      {createPortal(<input aria-label="dialog" />, document.body)}
    </div>
  );
}

it("hears its keys from within, and not from a dialog that was opened there", () => {
  const done: string[] = [];
  const undo = () => void done.push("undo");
  const redo = () => void done.push("redo");
  render(<Page history={{ undo, redo, canUndo: true, canRedo: true }} />);
  const press = (label: string, key: string, shiftKey = false) =>
    fireEvent.keyDown(screen.getByLabelText(label), { key, ctrlKey: true, shiftKey });
  press("within", "z");
  press("within", "Z", true);
  press("within", "y");
  press("dialog", "z");
  fireEvent.keyDown(screen.getByLabelText("within"), { key: "z" });
  expect(done).toEqual(["undo", "redo", "redo"]);
});
