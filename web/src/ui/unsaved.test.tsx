// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { createMemoryRouter, Link, Outlet, RouterProvider } from "react-router";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { AskProvider } from "./ask.tsx";
import { Dialog } from "./dialog.tsx";
import { UnsavedGuard, useUnsaved } from "./unsaved.tsx";

afterEach(cleanup);

/** A form that has something typed, or not. */
function Sample({ name }: { name: string }) {
  const [typed, setTyped] = useState(false);
  useUnsaved(() => typed);
  return (
    <button type="button" onClick={() => setTyped((before) => !before)}>
      {name}
    </button>
  );
}

function Page() {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Sample name="Type on the page" />
      <Link to="/other">Go elsewhere</Link>
      <button type="button" onClick={() => setOpen(true)}>
        Open the dialog
      </button>
      <Dialog title="A dialog" isOpen={isOpen} onClose={() => setOpen(false)}>
        <Sample name="Type in the dialog" />
      </Dialog>
    </>
  );
}

const press = async (name: string) => {
  await act(async () => {
    fireEvent.click(screen.getByRole("button", { name, hidden: true }));
  });
};
const follow = async () => {
  await act(async () => {
    fireEvent.click(screen.getByText("Go elsewhere"));
  });
};
const question = () => screen.queryByText("Leave without saving?");
const dialog = () => screen.queryByText("A dialog");

beforeEach(() => {
  const router = createMemoryRouter([
    {
      element: (
        <AskProvider>
          <UnsavedGuard>
            <Outlet />
          </UnsavedGuard>
        </AskProvider>
      ),
      children: [
        { path: "/", element: <Page /> },
        { path: "/other", element: <p>Elsewhere</p> },
      ],
    },
  ]);
  render(<RouterProvider router={router} />);
});

describe("what is typed and not saved", () => {
  it("lets the page go where there is nothing", async () => {
    await follow();
    expect(screen.getByText("Elsewhere")).toBeTruthy();
    expect(question()).toBeNull();
  });

  it("is asked about before the page goes; keeping it stays here, leaving it goes", async () => {
    await press("Type on the page");
    await follow();
    expect(question()).toBeTruthy();
    await press("Keep editing");
    expect(question()).toBeNull();
    expect(screen.getByText("Type on the page")).toBeTruthy();
    await follow();
    await press("Leave without saving");
    expect(screen.getByText("Elsewhere")).toBeTruthy();
  });

  it("stops a reload only as long as it is there", async () => {
    const reload = () => {
      const event = new Event("beforeunload", { cancelable: true });
      window.dispatchEvent(event);
      return event.defaultPrevented;
    };
    expect(reload()).toBe(false);
    await press("Type on the page");
    expect(reload()).toBe(true);
    await press("Type on the page");
    expect(reload()).toBe(false);
  });

  it("in a dialog is asked about before that closes, and is forgotten with it", async () => {
    await press("Open the dialog");
    await press("Close");
    expect(dialog()).toBeNull();
    await press("Open the dialog");
    await press("Type in the dialog");
    await press("Close");
    expect(question()).toBeTruthy();
    await press("Keep editing");
    expect(dialog()).toBeTruthy();
    await press("Close");
    await press("Leave without saving");
    expect(dialog()).toBeNull();
    await follow();
    expect(screen.getByText("Elsewhere")).toBeTruthy();
  });

  it("on the page does not keep a dialog open that has nothing typed", async () => {
    await press("Type on the page");
    await press("Open the dialog");
    await press("Close");
    expect(dialog()).toBeNull();
    expect(question()).toBeNull();
  });
});
