import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { afterRelease } from "./heldpointer.ts";

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

function page() {
  const target = new EventTarget();
  const schedule = afterRelease(target);
  const done: string[] = [];
  return {
    done,
    tell: (type: string, button = 0) => target.dispatchEvent(Object.assign(new Event(type), { button })),
    answer: (name: string) => {
      schedule(() => done.push(name));
      vi.runAllTimers();
    },
  };
}

it("gives an answer at once where no pointer is held down", () => {
  const { done, answer } = page();
  answer("first");
  expect(done).toEqual(["first"]);
});

it.each(["pointerup", "pointercancel", "blur"])("keeps answers in their order until %s", (end) => {
  const { done, tell, answer } = page();
  tell("pointerdown");
  answer("first");
  answer("second");
  expect(done).toEqual([]);
  tell(end);
  expect(done, "not before the click").toEqual([]);
  vi.runAllTimers();
  expect(done).toEqual(["first", "second"]);
});

it("goes on waiting where the pointer is pressed again at once", () => {
  const { done, tell, answer } = page();
  tell("pointerdown");
  answer("first");
  tell("pointerup");
  tell("pointerdown");
  vi.runAllTimers();
  expect(done).toEqual([]);
  tell("pointerup");
  vi.runAllTimers();
  expect(done).toEqual(["first"]);
});

it("does not wait for the release of another button", () => {
  const { done, tell, answer } = page();
  tell("pointerdown", 2);
  answer("first");
  expect(done).toEqual(["first"]);
});
