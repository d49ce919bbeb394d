// @vitest-environment happy-dom
import { act, cleanup, render } from "@testing-library/react";
import { createBrowserRouter, RouterProvider } from "react-router";
import { afterEach, describe, expect, it } from "vitest";
import { type Address, useAddress } from "./address.ts";

let router: ReturnType<typeof createBrowserRouter>;

/** What the page drawn last got. */
const result = {} as { current: Address };

function Page() {
  const address = useAddress();
  result.current = address;
  return null;
}

function start(at: string): void {
  window.history.replaceState(null, "", at);
  router = createBrowserRouter([{ path: "*", element: <Page /> }]);
  render(<RouterProvider router={router} />);
}

const settle = () => act(async () => new Promise((resolve) => setTimeout(resolve, 20)));

afterEach(() => {
  cleanup();
  router.dispose();
});

describe("what a page was asked for", () => {
  it("is read from the address, and an empty word says nothing", () => {
    start("/items?search=oak&kind=bought");
    expect(result.current.get("search")).toBe("oak");
    expect(result.current.get("sort")).toBe("");
  });

  it("shows at once when it is written, and stands in the address without a step for Back", async () => {
    const steps = window.history.length;
    start("/items");
    act(() => result.current.set("search", "oak"));
    expect(result.current.get("search")).toBe("oak");
    await settle();
    expect(window.location.search).toBe("?search=oak");
    expect(window.history.length).toBe(steps);
  });

  it("loses no word of two written in one go", async () => {
    start("/items?page=2");
    const { set } = result.current;
    act(() => {
      set("search", "oak");
      set("kind", "made");
      set("page", "");
    });
    expect(result.current.text).toBe("search=oak&kind=made");
    await settle();
    expect(window.location.search).toBe("?search=oak&kind=made");
  });

  it("is emptied at once", async () => {
    start("/items?search=oak&kind=bought");
    act(() => result.current.clear());
    await settle();
    expect(window.location.search).toBe("");
    expect(result.current.text).toBe("");
  });

  it("is what was gone to where a link goes on while something is being written", async () => {
    start("/items?search=oak");
    await act(async () => {
      result.current.set("search", "oak board");
      await router.navigate("/items?search=ash");
    });
    await settle();
    expect(window.location.search).toBe("?search=ash");
    expect(result.current.get("search")).toBe("ash");
  });
});
