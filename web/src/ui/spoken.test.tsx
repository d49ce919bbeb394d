// @vitest-environment happy-dom
import { act, cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { Spoken } from "./spoken.tsx";

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

it("says what follows from typing once it stays, and nothing while keys come", () => {
  const { rerender } = render(<Spoken text="Cost 1" />);
  const said = () => screen.getByRole("status").textContent;
  const wait = (ms: number) => act(() => vi.advanceTimersByTime(ms));
  wait(5000);
  expect(said()).toBe("");
  for (const cost of ["12", "123", "1234"]) {
    rerender(<Spoken text={`Cost ${cost}`} />);
    wait(300);
  }
  expect(said()).toBe("");
  wait(1000);
  expect(said()).toBe("Cost 1234");
  // Back to what it was at first is news as well.
  rerender(<Spoken text="Cost 1" />);
  wait(1000);
  expect(said()).toBe("Cost 1");
});
