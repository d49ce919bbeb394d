import { describe, expect, it } from "vitest";
import { type BuildToDo, buildNext, byNeed, type Due, orderNext, purchaseNext } from "./today.ts";

const build = (change: Partial<BuildToDo>) =>
  buildNext({
    stage: "queued",
    due: "2026-11-30",
    start: "2026-11-27",
    blocked: false,
    toHandOut: true,
    ...change,
  });

describe("the next step", () => {
  it("of a build is to queue it, fetch its parts, then finish it; one that waits is looked at", () => {
    expect(build({ stage: "draft" })).toEqual({ step: "queue", day: "2026-11-27" });
    expect(build({})).toEqual({ step: "pick", day: "2026-11-27" });
    expect(build({ toHandOut: false })).toEqual({ step: "finish", day: "2026-11-30" });
    expect(build({ blocked: true, start: null })).toEqual({ step: "look", day: "2026-11-30" });
  });
  it("of an order is to pack it once all of it is in stock, then to ship it", () => {
    const order = { due: "2026-11-29", lines: 2, linesReady: 2, toPack: true };
    expect(orderNext(order).step).toBe("pick");
    expect(orderNext({ ...order, toPack: false }).step).toBe("ship");
    expect(orderNext({ ...order, linesReady: 1 }).step).toBe("look");
  });
  it("of a purchase order is to send it today, or to receive it when it is expected", () => {
    expect(purchaseNext(true, "2026-12-09", "2026-11-23")).toEqual({ step: "send", day: "2026-11-23" });
    expect(purchaseNext(false, "2026-12-09", "2026-11-23")).toEqual({ step: "receive", day: "2026-12-09" });
  });
  it("comes by the day it is needed, undated last", () => {
    const tasks: Due[] = [
      { step: "pick", day: null },
      { step: "look", day: "2026-11-24" },
      { step: "ship", day: "2026-11-24" },
      { step: "finish", day: "2026-11-20" },
    ];
    expect(tasks.sort(byNeed).map(({ step }) => step)).toEqual(["finish", "ship", "look", "pick"]);
  });
});
