// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import { itemRoutes, peopleRoutes } from "@yosegi/contract";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { asking } from "./ask.ts";
import { useCommand, usePress } from "./command.ts";

interface Sent {
  url: string;
  method: string;
  key: string | undefined;
  answer: (status: number, body: unknown, changed?: string) => void;
  lose: () => void;
}

let sent: Sent[] = [];
let client = new QueryClient();

beforeEach(() => {
  sessionStorage.clear();
  sent = [];
  client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  vi.stubGlobal(
    "fetch",
    (url: string, init: RequestInit) =>
      new Promise<Response>((resolve, reject) => {
        sent.push({
          url,
          method: init.method ?? "",
          key: (init.headers as Record<string, string>)["idempotency-key"],
          answer: (status, body, changed = "") =>
            resolve(new Response(JSON.stringify(body), { status, headers: { "yosegi-changed": changed } })),
          lose: () => reject(new TypeError("Failed to fetch")),
        });
      }),
  );
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const wrapper = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={client}>{children}</QueryClientProvider>
);

const person = { id: 3, name: "Jorun", archived: false };
const body = { name: "Jorun" };

const commands = () => sent.filter(({ method }) => method === "POST");
const questions = (path: string) =>
  sent.filter(({ method, url }) => method === "GET" && url.startsWith(path));

describe("a command", () => {
  it("counts a press once while it is under way, and is busy until what it changed was asked again", async () => {
    const done = vi.fn();
    const { result } = renderHook(
      () => ({
        people: useQuery(asking(peopleRoutes.people, {})),
        units: useQuery(asking(itemRoutes.units, {})),
        command: useCommand(peopleRoutes.addPerson, done),
      }),
      { wrapper },
    );
    await act(async () => {
      sent[0]?.answer(200, { people: [] });
      sent[1]?.answer(200, { units: [] });
    });
    await act(async () => {
      void result.current.command.run({ body });
      expect(await result.current.command.run({ body })).toBeNull();
    });
    expect(commands()).toHaveLength(1);
    expect(result.current.command.busy).toBe(true);
    await act(async () => commands()[0]?.answer(200, person, "labels"));
    // Labels have nothing to do with either, so all is done.
    expect([result.current.command.busy, done.mock.calls.length]).toEqual([false, 1]);
    await act(async () => void result.current.command.run({ body }));
    await act(async () => commands()[1]?.answer(200, person, "people"));
    expect([result.current.command.busy, done.mock.calls.length]).toEqual([true, 1]);
    await act(async () => questions("/api/people")[1]?.answer(200, { people: [person] }));
    await act(async () => questions("/api/units")[1]?.answer(200, { units: [] }));
    expect([result.current.command.busy, done.mock.calls.length]).toEqual([false, 2]);
    expect(result.current.people.data?.people).toEqual([person]);
  });
  it("goes with the same key until an answer came, whatever was changed meanwhile, and with a new one after it", async () => {
    const { result } = renderHook(() => useCommand(peopleRoutes.addPerson), { wrapper });
    await act(async () => void result.current.run({ body }));
    await act(async () => commands()[0]?.lose());
    expect(result.current.refusal?.message).toMatch(/^Can't reach the server\. We don't know yet whether/);
    await act(async () => void result.current.run({ body: { name: "Jorun H." } }));
    await act(async () => commands()[1]?.answer(409, { code: "key-reused", message: "Used.", fields: [] }));
    expect(result.current.refusal?.message).toMatch(/^This was recorded already, as it stood before/);
    await act(async () => void result.current.run({ body: { name: "Jorun H." } }));
    await act(async () => commands()[2]?.answer(200, person, "people"));
    await act(async () => void result.current.run({ body }));
    const keys = commands().map(({ key }) => key);
    expect(keys[1]).toBe(keys[0]);
    expect(new Set([keys[0], keys[2], keys[3]]).size).toBe(3);
    expect(result.current.refusal).toBeNull();
  });
  it("goes with the same key from a form that was closed and opened again, as its draft is", async () => {
    const first = renderHook(() => useCommand(peopleRoutes.addPerson), { wrapper });
    await act(async () => void first.result.current.run({ body }));
    await act(async () => commands()[0]?.lose());
    first.unmount();
    const again = renderHook(() => useCommand(peopleRoutes.addPerson), { wrapper });
    await act(async () => void again.result.current.run({ body }));
    await act(async () => commands()[1]?.answer(422, { code: "x", message: "Refused.", fields: [] }));
    await act(async () => void again.result.current.run({ body }));
    const keys = commands().map(({ key }) => key);
    // A refusal is an answer: what is sent after it is another command.
    expect([keys[1] === keys[0], keys[2] === keys[0]]).toEqual([true, false]);
  });
  it("keeps a key for each row that it serves", async () => {
    const { result } = renderHook(() => usePress(peopleRoutes.removePerson), { wrapper });
    await act(async () => void result.current.run({ params: { id: 1 } }));
    await act(async () => commands()[0]?.lose());
    await act(async () => void result.current.run({ params: { id: 2 } }));
    await act(async () => commands()[1]?.answer(200, {}, "people"));
    await act(async () => void result.current.run({ params: { id: 1 } }));
    const keys = commands().map(({ key }) => key);
    expect([keys[1] === keys[0], keys[2] === keys[0]]).toEqual([false, true]);
  });
  it("says an error that nobody expected, and logs it", async () => {
    const logged = vi.spyOn(console, "error").mockImplementation(() => {});
    const fault = new Error("a fault in the page");
    const { result } = renderHook(
      () =>
        useCommand(peopleRoutes.addPerson, () => {
          throw fault;
        }),
      { wrapper },
    );
    await act(async () => void result.current.run({ body }));
    await act(async () => commands()[0]?.answer(200, person, "labels"));
    // It is recorded by then: nobody is told to send it again.
    expect(result.current.refusal?.message).toMatch(/^This was saved, but something went wrong/);
    expect(logged).toHaveBeenCalledWith(fault);
    expect(result.current.busy).toBe(false);
    logged.mockRestore();
  });
  it("asks everything again where it was done before: that answer says no longer what it changed", async () => {
    const { result } = renderHook(
      () => ({ units: useQuery(asking(itemRoutes.units, {})), command: useCommand(peopleRoutes.addPerson) }),
      { wrapper },
    );
    await act(async () => sent[0]?.answer(200, { units: [] }));
    await act(async () => void result.current.command.run({ body }));
    await act(async () => commands()[0]?.answer(200, person));
    await waitFor(() => expect(questions("/api/units")).toHaveLength(2));
  });
});
