import { describe, expect, it } from "vitest";
import { factKey, newNotices, type WatchedDocument, type WatchedFact } from "./notices.ts";

const build = (...facts: WatchedFact[]): WatchedDocument => ({ kind: "build", id: 1, facts });
const seen = (document: WatchedDocument) => new Set(document.facts.map((fact) => factKey(document, fact)));
const news = (before: WatchedDocument, now: WatchedDocument) =>
  newNotices(seen(before), [now]).map(({ what }) => what);

describe("what is new since the last look", () => {
  it.each<[string, WatchedFact[], WatchedFact[], string[]]>([
    ["a build was queued", [], ["queued"], ["build queued"]],
    ["the same at the next look", ["queued"], ["queued"], []],
    ["it waited and has its parts now", ["queued", "waiting"], ["queued"], ["parts complete"]],
    ["it waits now", ["queued"], ["queued", "waiting"], []],
    ["queued with all its parts", [], ["queued"], ["build queued"]],
    ["late", ["queued"], ["queued", "late"], ["late"]],
    ["ready and late at once", [], ["ready", "late"], ["order ready", "late"]],
  ])("%s", (_, before, now, expected) => {
    expect(news(build(...before), build(...now))).toEqual(expected);
  });
  it("is nothing of what is open no longer", () => {
    expect(newNotices(seen(build("queued", "waiting")), [])).toEqual([]);
  });
});
