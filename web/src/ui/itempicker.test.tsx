// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ItemPicker, type ItemPickerProps, type PickerItem } from "./itempicker.tsx";

afterEach(cleanup);

const ITEMS: readonly PickerItem[] = [
  { id: 1, code: "FRM-A", name: "Assembled frame", free: "306 pc free", why: null },
  { id: 2, code: "FRM-D", name: "Deep frame bars", free: "120 pc free", why: null },
  {
    id: 3,
    code: "KIT-TOOL",
    name: "Tool set",
    free: "",
    why: "KIT-TOOL is a kit. Use its contents instead.",
  },
];

const done = { onChoose: vi.fn(), onMake: vi.fn(), onLeave: vi.fn() };

function Picker(props: Partial<ItemPickerProps>) {
  const [text, setText] = useState("");
  const onChoose = (item: PickerItem) => {
    done.onChoose(item);
    setText(`${item.code} · ${item.name}`);
  };
  return (
    <ItemPicker
      label="Part"
      items={ITEMS}
      text={text}
      onText={setText}
      {...done}
      {...props}
      onChoose={onChoose}
    />
  );
}

function open(typed: string, props: Partial<ItemPickerProps> = {}): HTMLElement {
  vi.resetAllMocks();
  render(<Picker {...props} />);
  const field = screen.getByRole("combobox", { name: "Part" });
  act(() => field.focus());
  fireEvent.change(field, { target: { value: typed } });
  return field;
}

const offers = () => screen.queryAllByRole("option", { hidden: true }).map((option) => option.textContent);

describe("a field for an item", () => {
  it("offers nothing until somebody types in it", () => {
    render(<Picker />);
    expect(offers()).toEqual([]);
  });
  it("offers items with what is free, and takes the one that the arrow keys choose", () => {
    const field = open("frm");
    expect(offers()[0]).toContain("306 pc free");
    fireEvent.keyDown(field, { key: "ArrowDown" });
    fireEvent.keyDown(field, { key: "ArrowDown" });
    fireEvent.keyDown(field, { key: "Enter" });
    expect(done.onChoose).toHaveBeenCalledExactlyOnceWith(ITEMS[1]);
  });
  it("closes its list over what was chosen, and opens it again for an arrow key", () => {
    const field = open("frm");
    fireEvent.keyDown(field, { key: "ArrowDown" });
    fireEvent.keyDown(field, { key: "Enter" });
    expect((field as HTMLInputElement).value).toBe("FRM-A · Assembled frame");
    expect(offers()).toEqual([]);
    fireEvent.keyDown(field, { key: "ArrowDown" });
    expect(offers()).toHaveLength(4);
  });
  it("says what matches and is not offered, and shows what is left out at one press", () => {
    const onShowHidden = vi.fn();
    open("frm", { more: "12 more match.", hidden: "2 archived items match. Show them", onShowHidden });
    const more = screen.getByRole("option", { name: /12 more match/, hidden: true });
    expect(more.getAttribute("aria-disabled")).toBe("true");
    fireEvent.click(screen.getByRole("option", { name: /Show them/, hidden: true }));
    expect(onShowHidden).toHaveBeenCalledOnce();
    expect(done.onChoose).not.toHaveBeenCalled();
  });
  it("says why one cannot be chosen, and does not take it", () => {
    open("kit");
    const kit = screen.getByRole("option", { name: /KIT-TOOL/, hidden: true });
    expect(kit.textContent).toContain("Use its contents instead.");
    expect(kit.getAttribute("aria-disabled")).toBe("true");
    fireEvent.click(kit);
    expect(done.onChoose).not.toHaveBeenCalled();
  });
  it("offers to make what is not there yet, with what was typed", () => {
    open(" NEW-1 ");
    fireEvent.click(screen.getByRole("option", { name: /NEW-1/, hidden: true }));
    expect(done.onMake).toHaveBeenCalledExactlyOnceWith("NEW-1");
  });
  it("is not pointed at by a pointer at rest where its list opens, but by one that moves", () => {
    render(<Picker />);
    const move = (x: number) => fireEvent.pointerMove(document.body, { screenX: x, screenY: 343.4 });
    move(120);
    move(379.5);
    const field = screen.getByRole("combobox", { name: "Part" });
    act(() => field.focus());
    fireEvent.change(field, { target: { value: "frm" } });
    const [option] = screen.getAllByRole("option", { hidden: true });
    const over = vi.fn();
    option?.addEventListener("pointerover", over);
    // As a browser tells it when something comes to lie there.
    move(379);
    if (option) fireEvent.pointerOver(option);
    expect(over).not.toHaveBeenCalled();
    // Nor from what was left for it.
    const out = vi.fn();
    field.addEventListener("pointerout", out);
    fireEvent.pointerOut(field, { relatedTarget: option });
    expect(out).not.toHaveBeenCalled();
    move(384);
    if (option) fireEvent.pointerOver(option);
    expect(over).toHaveBeenCalledOnce();
  });
  it("tells when it is left, and offers nothing any more", () => {
    const field = open("frm");
    act(() => field.blur());
    expect(done.onLeave).toHaveBeenCalledOnce();
    expect(offers()).toEqual([]);
  });
});
