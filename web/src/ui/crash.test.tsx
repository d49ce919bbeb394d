// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { CrashGuard } from "./crash.tsx";

afterEach(cleanup);

function Broken(): never {
  throw new Error("a fault while drawing");
}

it("what can't be drawn shows a page that says so", () => {
  const logged = vi.spyOn(console, "error").mockImplementation(() => {});
  render(
    <CrashGuard>
      <Broken />
    </CrashGuard>,
  );
  expect(screen.getByRole("heading").textContent).toBe("This page can't be shown");
  logged.mockRestore();
});
