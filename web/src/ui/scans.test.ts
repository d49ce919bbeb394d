// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { listenToKeys } from "./scans.ts";

const heard: string[] = [];
let stop = () => {};
let now = 0;

beforeEach(() => {
  vi.useFakeTimers();
  heard.length = 0;
  document.body.innerHTML = `<button>Queue</button><input /><input type="checkbox" />`;
  document.addEventListener("keydown", onPage);
  stop = listenToKeys(window, {
    onScan: (code) => heard.push(`scan ${code}`),
    onKey: (key) => heard.push(`key ${key}`),
  });
});
afterEach(() => {
  stop();
  document.removeEventListener("keydown", onPage);
  vi.useRealTimers();
});

/** What reaches the page itself, as a button would hear it. */
function onPage(event: KeyboardEvent): void {
  heard.push(`page ${event.key}`);
}

const at = (selector: string) => document.querySelector(selector) as HTMLElement;

/** Types keys so many milliseconds after one another. */
function type(target: EventTarget, keys: readonly string[], gap: number, more: KeyboardEventInit = {}): void {
  for (const key of keys) {
    vi.advanceTimersByTime(gap);
    now += gap;
    const event = new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true, ...more });
    Object.defineProperty(event, "timeStamp", { value: now });
    target.dispatchEvent(event);
  }
}

function wait(): void {
  vi.advanceTimersByTime(1000);
  now += 1000;
}

describe("keys outside of fields", () => {
  it.each([["Enter"], ["Tab"]])(
    "that come at a scanner's speed and end with %s are a scan, and reach nothing else",
    (end) => {
      type(at("button"), [..."nHON-4 x", end], 15);
      wait();
      expect(heard).toEqual(["scan nHON-4 x"]);
    },
  );
  it.each(["2", "A1"])("may be as few as %s, where the end comes as fast", (code) => {
    type(at("button"), [...code, "Enter"], 15);
    wait();
    expect(heard).toEqual([`scan ${code}`]);
  });
  it("are one scan where a radio brings them in clumps: the first is not lost", () => {
    for (const key of "1.5") type(at("button"), [key], 70);
    type(at("button"), ["Enter"], 15);
    wait();
    expect(heard).toEqual(["scan 1.5"]);
  });
  it("are no scan where they are few and Enter comes later", () => {
    type(at("button"), ["A", "1"], 15);
    vi.advanceTimersByTime(60);
    now += 60;
    type(at("button"), ["Enter"], 1);
    expect(heard).toEqual(["page A", "page 1", "page Enter"]);
  });
  it("that come one by one are keys of a person, and reach what they stand on", () => {
    type(at("button"), ["n", "e"], 120);
    wait();
    expect(heard).toEqual(["page n", "key n", "page e", "key e"]);
  });
  it("that come quickly without an end choose in a list, and are no shortcut", () => {
    type(at("button"), ["b", "u"], 20);
    wait();
    expect(heard).toEqual(["page b", "page u"]);
  });
  it("press a button: Enter and space by themselves, and Enter after a pause", () => {
    type(at("button"), [" ", "Enter"], 15);
    type(at("button"), ["a", "b", "c"], 15);
    wait();
    type(at("button"), ["Enter"], 15);
    expect(heard).toEqual(["page  ", "page Enter", "page a", "page b", "page c", "page Enter"]);
  });
  it("with Shift between them are one scan", () => {
    type(at("input[type=checkbox]"), ["Shift", "H", "Shift", "O", "N", "Enter"], 10);
    wait();
    expect(heard.filter((one) => one !== "page Shift")).toEqual(["scan HON"]);
  });
  it("with Ctrl are the browser's", () => {
    type(at("button"), ["a", "s", "d", "Enter"], 10, { ctrlKey: true });
    expect(heard).toEqual(["page a", "page s", "page d", "page Enter"]);
  });
});

it.each([
  ["a key in a field", () => type(at("input"), ["9"], 15), "page 9"],
  ["Ctrl and Enter", () => type(at("button"), ["Enter"], 15, { ctrlKey: true }), "page Enter"],
  ["a press", () => void at("input").dispatchEvent(new Event("pointerdown", { bubbles: true })), null],
])("what is chosen by keys is chosen before %s that comes at once", (_, next, then) => {
  type(at("button"), ["b", "u"], 20);
  next();
  expect(heard).toEqual(["page b", "page u", ...(then ? [then] : [])]);
});

it("keys in a field are text, however fast", () => {
  type(at("input"), [..."HON-4", "Enter"], 15);
  wait();
  expect(heard).toEqual([..."HON-4"].map((key) => `page ${key}`).concat("page Enter"));
});
