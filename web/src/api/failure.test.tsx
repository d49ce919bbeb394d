// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { peopleRoutes } from "@yosegi/contract";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { asking } from "./ask.ts";
import { Unanswered } from "./failure.tsx";

let answers: ((response: Response) => void)[] = [];
let client = new QueryClient();

beforeEach(() => {
  answers = [];
  client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  vi.stubGlobal("fetch", () => new Promise<Response>((resolve) => answers.push(resolve)));
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const people = (name: string) =>
  new Response(JSON.stringify({ people: [{ id: 1, name, archived: false }] }), { status: 200 });
const broken = () =>
  new Response(JSON.stringify({ code: "unexpected", message: "Something broke (7).", fields: [] }), {
    status: 500,
  });

/** A page as they are: what there is, or why there is nothing yet. */
function Page() {
  const { data, error } = useQuery(asking(peopleRoutes.people, {}));
  if (!data) return <Unanswered error={error} />;
  return <p>{data.people[0]?.name}</p>;
}

const show = () =>
  render(
    <QueryClientProvider client={client}>
      <Page />
    </QueryClientProvider>,
  );

it("waits, says what could not be read, and reads it again on request", async () => {
  show();
  expect(screen.getByRole("status").getAttribute("aria-busy")).toBe("true");
  await act(async () => answers[0]?.(broken()));
  expect((await screen.findByRole("alert")).textContent).toContain("Something broke (7).");
  await act(async () => void fireEvent.click(screen.getByRole("button", { name: "Try again" })));
  await act(async () => answers[1]?.(people("Ines")));
  expect(await screen.findByText("Ines")).toBeTruthy();
});

it("stays with what it has where that can't be read again", async () => {
  show();
  await act(async () => answers[0]?.(people("Ines")));
  await screen.findByText("Ines");
  await act(async () => void client.invalidateQueries());
  await act(async () => answers[1]?.(broken()));
  expect(screen.getByText("Ines")).toBeTruthy();
  expect(screen.queryByRole("alert")).toBeNull();
});
