// @vitest-environment happy-dom
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { useDraft } from "./draft.ts";

interface Draft {
  note: string;
  lines: ReadonlyMap<number, string>;
}

beforeEach(() => localStorage.clear());
afterEach(cleanup);

const open = (name: string, note: () => string = () => "") =>
  renderHook(() => useDraft<Draft>(name, () => ({ note: note(), lines: new Map() })));

describe("what is typed in a long form", () => {
  it("is there again after it was left, with its maps, and says that it is from before", () => {
    const first = open("order 1");
    act(() =>
      first.result.current.change((draft) => ({ ...draft, note: "Ring", lines: new Map([[2, "5"]]) })),
    );
    first.unmount();
    const again = open("order 1");
    expect(again.result.current.draft).toEqual({ note: "Ring", lines: new Map([[2, "5"]]) });
    expect(again.result.current.keptAt).toBeGreaterThan(0);
    // Another document has its own.
    expect(open("order 2").result.current.draft.note).toBe("");
  });
  it("is nothing while nothing is typed: the form follows its document", () => {
    let note = "as it was";
    const { result, rerender } = open("order 1", () => note);
    note = "as somebody changed it";
    rerender();
    expect(result.current.draft.note).toBe("as somebody changed it");
    act(() => result.current.change((draft) => ({ ...draft, lines: new Map([[1, "1"]]) })));
    note = "changed again";
    rerender();
    expect(result.current.draft.note).toBe("as somebody changed it");
  });
  it("is nothing again where it says what the document says", () => {
    const { result } = open("order 1", () => "as it was");
    act(() => result.current.change((draft) => ({ ...draft, note: "Ring" })));
    expect(localStorage.length).toBe(1);
    act(() => result.current.change((draft) => ({ ...draft, note: "as it was" })));
    expect(localStorage.length).toBe(0);
  });
  it("keeps both of two changes that build on each other in one step", () => {
    const { result } = open("order 1");
    act(() => {
      result.current.change((draft) => ({ ...draft, note: `${draft.note}a` }));
      result.current.change((draft) => ({ ...draft, note: `${draft.note}b` }));
    });
    expect(result.current.draft.note).toBe("ab");
  });
  it("goes when it is saved, and when the person begins again", () => {
    const { result, unmount } = open("order 1");
    act(() => result.current.change((draft) => ({ ...draft, note: "Ring" })));
    act(() => result.current.forget());
    unmount();
    const again = open("order 1");
    expect([again.result.current.draft.note, again.result.current.keptAt]).toEqual(["", null]);
    act(() => again.result.current.change((draft) => ({ ...draft, note: "Knock" })));
    again.unmount();
    const third = open("order 1");
    act(() => third.result.current.startAgain());
    expect([third.result.current.draft.note, third.result.current.keptAt, localStorage.length]).toEqual([
      "",
      null,
      0,
    ]);
  });
  it("opens all the same where it can't be read or kept, and says so in the log", () => {
    const logged = vi.spyOn(console, "error").mockImplementation(() => {});
    localStorage.setItem("yosegi.draft.1.order 1", "{half of it");
    const { result } = open("order 1");
    expect([result.current.draft.note, localStorage.length]).toEqual(["", 0]);
    const full = () => {
      throw new Error("no room");
    };
    vi.stubGlobal("localStorage", { setItem: full });
    act(() => result.current.change((draft) => ({ ...draft, note: "Ring" })));
    expect([result.current.draft.note, logged.mock.calls.length]).toEqual(["Ring", 2]);
    vi.unstubAllGlobals();
    logged.mockRestore();
  });
});
