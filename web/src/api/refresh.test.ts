// @vitest-environment happy-dom
import { QueryClient, QueryObserver } from "@tanstack/react-query";
import type { DataArea } from "@yosegi/contract";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { connected, disconnected, lostSince } from "./connection.ts";
import { followChanges, whileUnderWay } from "./refresh.ts";

/** The server's stream of changes, as a browser would open it. */
class Stream {
  static readonly CLOSED = 2;
  static opened: Stream[] = [];
  readyState = 1;
  onopen: () => void = () => {};
  onmessage: (event: { data: string }) => void = () => {};
  onerror: () => void = () => {};
  constructor() {
    Stream.opened.push(this);
  }
  close(): void {
    this.readyState = Stream.CLOSED;
  }
  tell(count: number, areas: DataArea[], key = "somebody else's"): void {
    this.onmessage({ data: JSON.stringify({ count, areas, key }) });
  }
  refuse(): void {
    this.readyState = Stream.CLOSED;
    this.onerror();
  }
}

const stream = (): Stream => {
  const last = Stream.opened.at(-1);
  if (!last) throw new Error("no stream was opened");
  return last;
};

let client = new QueryClient();
let stops: (() => void)[] = [];

/** A question in view; counts how often it is asked. */
function looked(area: string, answer: () => Promise<unknown> = () => Promise.resolve(1)) {
  const queryFn = vi.fn(answer);
  const observer = new QueryObserver(client, { queryKey: [area], queryFn, retry: false });
  stops.push(observer.subscribe(() => {}));
  return queryFn;
}

const settle = () => vi.advanceTimersByTimeAsync(1);

function look(at: "visible" | "hidden"): void {
  vi.spyOn(document, "visibilityState", "get").mockReturnValue(at);
  document.dispatchEvent(new Event("visibilitychange"));
}

beforeEach(async () => {
  vi.useFakeTimers();
  vi.stubGlobal("EventSource", Stream);
  Stream.opened = [];
  client = new QueryClient();
  connected();
  stops = [followChanges(client)];
});

afterEach(() => {
  for (const stop of stops) stop();
  connected();
  client.clear();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe("what others change", () => {
  it("is asked again where it is in view, and nothing else is", async () => {
    const stock = looked("stock");
    const people = looked("people");
    await settle();
    stream().tell(4, []);
    stream().tell(5, ["stock"]);
    await settle();
    expect(stock).toHaveBeenCalledTimes(2);
    expect(people).toHaveBeenCalledTimes(1);
  });

  it("is not asked twice where this page itself did it", async () => {
    const stock = looked("stock");
    await settle();
    stream().tell(4, []);
    await whileUnderWay("mine", async () => stream().tell(5, ["stock"], "mine"));
    await settle();
    expect(stock).toHaveBeenCalledTimes(1);
    stream().tell(6, ["stock"], "mine");
    await settle();
    expect(stock).toHaveBeenCalledTimes(2);
  });

  it("is all asked again where some of it was missed", async () => {
    const people = looked("people");
    await settle();
    stream().tell(4, []);
    stream().tell(6, ["stock"]);
    await settle();
    expect(people).toHaveBeenCalledTimes(2);
  });

  it("is all asked again after a time out of sight, if something was missed", async () => {
    const people = looked("people");
    await settle();
    stream().tell(4, []);
    look("hidden");
    expect(stream().readyState).toBe(Stream.CLOSED);
    look("visible");
    stream().tell(4, []);
    await settle();
    expect(people).toHaveBeenCalledTimes(1);
    look("hidden");
    look("visible");
    stream().tell(7, []);
    await settle();
    expect(people).toHaveBeenCalledTimes(2);
  });
});

describe("a lost connection", () => {
  it("opens a stream again that was refused, once, and none where the page is out of sight", async () => {
    stream().refuse();
    expect(lostSince()).not.toBeNull();
    await vi.advanceTimersByTimeAsync(2_100);
    expect(Stream.opened).toHaveLength(2);
    stream().refuse();
    look("hidden");
    await vi.advanceTimersByTimeAsync(10_000);
    expect(Stream.opened).toHaveLength(2);
  });

  it("is found to be back by asking, and only what failed is read again", async () => {
    let down = true;
    const company = looked("company", () => {
      if (down) return Promise.reject(new Error("no answer"));
      connected();
      return Promise.resolve(1);
    });
    const people = looked("people");
    const orders = looked("orders", () =>
      down ? Promise.reject(new Error("no answer")) : Promise.resolve(1),
    );
    await settle();
    disconnected();
    await vi.advanceTimersByTimeAsync(5_100);
    expect(company).toHaveBeenCalledTimes(2);
    expect(lostSince()).not.toBeNull();
    down = false;
    await vi.advanceTimersByTimeAsync(5_100);
    expect(lostSince()).toBeNull();
    expect(orders).toHaveBeenCalledTimes(2);
    expect(people).toHaveBeenCalledTimes(1);
    const asked = company.mock.calls.length;
    await vi.advanceTimersByTimeAsync(20_000);
    expect(company).toHaveBeenCalledTimes(asked);
  });

  it("asks at once when the machine is on the network again, and stops with the page", async () => {
    const company = looked("company");
    await settle();
    disconnected();
    window.dispatchEvent(new Event("online"));
    await settle();
    expect(company).toHaveBeenCalledTimes(2);
    for (const stop of stops.splice(0)) stop();
    window.dispatchEvent(new Event("online"));
    await vi.advanceTimersByTimeAsync(20_000);
    expect(company).toHaveBeenCalledTimes(2);
  });
});
