import { afterEach, expect, it, vi } from "vitest";
import { newKey } from "./key.ts";

afterEach(() => {
  vi.unstubAllGlobals();
});

it("makes keys of their own where the page came by plain http, too", () => {
  const { getRandomValues } = crypto;
  vi.stubGlobal("crypto", { getRandomValues: getRandomValues.bind(crypto) });
  const keys = Array.from({ length: 100 }, newKey);
  expect(new Set(keys).size).toBe(100);
  expect(keys.every((key) => /^[0-9a-f]{32}$/.test(key))).toBe(true);
});
