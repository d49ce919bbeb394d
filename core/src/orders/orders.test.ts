import { expect, it } from "vitest";
import { decimal as d } from "../amounts/index.ts";
import { setsReady } from "./orders.ts";

it("counts whole sets, the scarcest content first; work needs nothing", () => {
  const components = [
    { per: d(6), ready: d(17) },
    { per: d(2), ready: d(30) },
  ];
  expect(setsReady(d(4), components, 0).toFixed()).toBe("2");
  expect(setsReady(d("1.5"), [{ per: d(1), ready: d("1.234") }], 3).toFixed()).toBe("1.234");
  expect(setsReady(d(4), [], 0).toFixed()).toBe("4");
});
