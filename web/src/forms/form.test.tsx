// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { z } from "zod";
import { useFormBlock, useFormWait } from "../ui/index.ts";
import { FormOf } from "./form.tsx";
import { type SchemaFormSetup, useSchemaForm } from "./formstate.ts";
import { inputsOf } from "./inputs.tsx";
import { sentLines } from "./sentlines.ts";

const schema = z.object({
  name: z.string().min(1, "The name is missing."),
  note: z.string().default(""),
  secret: z.literal("", "The secret is wrong.").default(""),
  lines: z
    .array(z.object({ code: z.string().min(1, "Choose an item."), quantity: z.string().min(1, "How many?") }))
    .min(1, "An order has a line."),
});

interface Draft {
  name: string;
  note: string;
  secret: "";
  lines: { code: string; quantity: string }[];
}

const In = inputsOf<Draft>();
const BLANK = { code: "", quantity: "" };
const NEW: Draft = { name: "", note: "", secret: "", lines: [BLANK] };
const isFilled = (line: Draft["lines"][number]) => line.code !== "" || line.quantity !== "";

const sent: { body: z.input<typeof schema>; version: number | null }[] = [];

beforeEach(() => localStorage.clear());
afterEach(() => {
  cleanup();
  sent.length = 0;
});

type Setup = Partial<SchemaFormSetup<typeof schema, Draft>>;

/** A form as a document has it: fields, lines, and what is looked up. */
function Sample({
  lookup,
  blocked = false,
  ...setup
}: Setup & { lookup?: () => Promise<unknown>; blocked?: boolean }) {
  const form = useSchemaForm<typeof schema, Draft>({
    schema,
    begin: NEW,
    body: (draft) => ({ ...draft, lines: draft.lines.filter(isFilled) }),
    fieldOf: sentLines("lines", isFilled),
    send: (body, version) => {
      sent.push({ body, version });
      form.saved();
    },
    ...setup,
  });
  return (
    <>
      <FormOf form={form} save="Save">
        <In.Text label="Name" name="name" />
        <In.Lines name="lines" blank={BLANK} add="Add line">
          {(at, i) => (
            <>
              <In.Text label={`Item ${i + 1}`} name={`${at}.code`} />
              <In.Text label={`Quantity ${i + 1}`} name={`${at}.quantity`} />
            </>
          )}
        </In.Lines>
        <In.Text label="Note" name="note" />
        {lookup && <Lookup work={lookup} />}
        {blocked && <Block />}
      </FormOf>
      <button type="button" onClick={() => form.refuse(STALE)}>
        Be late
      </button>
    </>
  );
}

const STALE = { code: "stale", message: "Jorun changed this at 10:00, after you opened it.", fields: [] };

function Lookup({ work }: { work: () => Promise<unknown> }) {
  const wait = useFormWait();
  return (
    <button type="button" onClick={() => wait(work())}>
      Leave the field
    </button>
  );
}

function Block() {
  useFormBlock(true);
  return null;
}

const type = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (key: string, more: object = {}) =>
  act(async () => void fireEvent.keyDown(document.activeElement as Element, { key, ...more }));
const save = () => act(async () => void fireEvent.click(screen.getByText("Save")));
const click = (name: string) => act(async () => void fireEvent.click(screen.getByText(name)));
const textIn = (label: string) => (screen.getByLabelText(label) as HTMLInputElement).value;
const focused = () => document.activeElement?.getAttribute("name");
const filled = () => {
  type("Name", "Barn");
  type("Item 1", "CAN-12");
  type("Quantity 1", "2");
};

describe("Enter", () => {
  it("goes on to the next field, from a line's first field to its second, and from there to a new line", async () => {
    render(<Sample />);
    screen.getByLabelText("Name").focus();
    await press("Enter");
    expect(focused()).toBe("lines.0.code");
    await press("Enter");
    expect(focused()).toBe("lines.0.quantity");
    await press("Enter");
    expect(focused()).toBe("lines.1.code");
    expect(sent).toEqual([]);
  });
  it("goes on from the last field to the button that sends, and does not press it", async () => {
    render(<Sample />);
    screen.getByLabelText("Note").focus();
    await press("Enter");
    expect(document.activeElement?.textContent).toBe("Save");
    expect(sent).toEqual([]);
  });
  it("with Ctrl sends the form, from any field", async () => {
    render(<Sample />);
    filled();
    screen.getByLabelText("Quantity 1").focus();
    await press("Enter", { ctrlKey: true });
    expect(sent.map(({ body }) => body.name)).toEqual(["Barn"]);
  });
});

describe("what is sent", () => {
  it("is what the lookups of what was typed last find, not before", async () => {
    let found = () => {};
    const lookup = () =>
      new Promise<void>((resolve) => {
        found = resolve;
      });
    render(<Sample lookup={lookup} />);
    filled();
    await click("Leave the field");
    await save();
    expect(sent).toEqual([]);
    await act(async () => found());
    await waitFor(() => expect(sent.length).toBe(1));
  });
  it("is nothing where a lookup fails, or what a field shows means nothing", async () => {
    let fail = (_: boolean) => {};
    const lookup = () =>
      new Promise<boolean>((resolve) => {
        fail = resolve;
      });
    const { rerender } = render(<Sample lookup={lookup} />);
    filled();
    await click("Leave the field");
    await save();
    await act(async () => fail(false));
    expect(sent).toEqual([]);
    rerender(<Sample blocked />);
    await save();
    expect(sent).toEqual([]);
    rerender(<Sample />);
    await save();
    expect(sent.length).toBe(1);
  });
});

describe("a refusal", () => {
  it("stands at its field, which gets the focus, and goes when that is put right", async () => {
    render(<Sample />);
    await save();
    expect(screen.getByText("The name is missing.")).toBeTruthy();
    expect(screen.getByText("An order has a line.")).toBeTruthy();
    expect(focused()).toBe("name");
    await act(async () => void type("Name", "Barn"));
    expect(screen.queryByText("The name is missing.")).toBeNull();
  });
  it("of a line stands at that line, also where an empty one before it is not sent", async () => {
    render(<Sample />);
    type("Name", "Barn");
    await click("Add line");
    type("Item 2", "CAN-12");
    await save();
    expect(screen.getByLabelText("Quantity 2").getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByLabelText("Quantity 1").getAttribute("aria-invalid")).toBeNull();
  });
  it("that no field shows is said at the top", async () => {
    render(<Sample begin={{ ...NEW, secret: "x" as "" }} />);
    filled();
    await save();
    expect(screen.getByRole("alert").textContent).toBe("The secret is wrong.");
  });
});

it("says before which fields can't be empty", () => {
  render(<Sample />);
  const required = (label: string) => screen.getByLabelText(label).getAttribute("aria-required");
  expect(["Name", "Item 1", "Note"].map(required)).toEqual(["true", "true", null]);
});

it("what a field begins with is filled in though it arrives after another was typed in, and leaves that alone", async () => {
  const { rerender } = render(<Sample />);
  await act(async () => void type("Note", "Ring"));
  rerender(<Sample begin={{ ...NEW, name: "Yard", note: "Knock" }} />);
  expect([textIn("Name"), textIn("Note")]).toEqual(["Yard", "Ring"]);
  await act(async () => void type("Name", "Barn"));
  rerender(<Sample begin={{ ...NEW, name: "Shed", note: "Knock" }} />);
  expect(textIn("Name")).toBe("Barn");
});

it("a line that is removed leaves the others as they are", async () => {
  render(<Sample />);
  filled();
  await click("Add line");
  type("Item 2", "BOX-D");
  await act(async () => void fireEvent.click(screen.getByLabelText("Remove line 1")));
  expect([textIn("Item 1"), screen.queryByLabelText("Item 2")]).toEqual(["BOX-D", null]);
});

describe("what is typed in a form that is kept", () => {
  const open = (keptAs: string, setup: Setup = {}) => render(<Sample keptAs={keptAs} {...setup} />);
  it("is there again after it was left, and says that it is from before; another document has its own", async () => {
    const first = open("order 1");
    await act(async () => void type("Note", "Ring"));
    first.unmount();
    open("order 1");
    expect(textIn("Note")).toBe("Ring");
    expect(screen.getByRole("status").textContent).toContain("did not save it");
    cleanup();
    open("order 2");
    expect([textIn("Note"), screen.queryByRole("status")]).toEqual(["", null]);
  });
  it("goes when the person begins again, and when it is saved", async () => {
    open("order 1");
    await act(async () => void type("Note", "Ring"));
    cleanup();
    open("order 1");
    await click("Discard it");
    expect([textIn("Note"), localStorage.length]).toEqual(["", 0]);
    filled();
    await save();
    expect([sent.length, localStorage.length]).toEqual([1, 0]);
    // What the form still shows while it closes is not kept.
    await act(async () => void type("Note", "Knock"));
    expect(localStorage.length).toBe(0);
  });
  it("is nothing where what was typed is taken back", async () => {
    open("order 1");
    await act(async () => void type("Note", "Ring"));
    await act(async () => void type("Note", ""));
    expect(localStorage.length).toBe(0);
  });
  it("opens all the same where it can't be read or kept, and says so in the log", async () => {
    const logged = vi.spyOn(console, "error").mockImplementation(() => {});
    localStorage.setItem("yosegi.draft.1.order 1", "{half of it");
    open("order 1");
    expect([textIn("Note"), localStorage.length]).toEqual(["", 0]);
    const full = () => {
      throw new Error("no room");
    };
    vi.stubGlobal("localStorage", { setItem: full });
    await act(async () => void type("Note", "Ring"));
    expect(textIn("Note")).toBe("Ring");
    expect(logged).toHaveBeenCalledTimes(2);
    vi.unstubAllGlobals();
    logged.mockRestore();
  });
});

describe("a document that somebody else changes", () => {
  const saved = (name: string, version: number): Setup => ({
    begin: { name, note: "", secret: "", lines: [{ code: "CAN-12", quantity: "2" }] },
    version,
  });
  it("is followed while nothing is typed, and left alone then", async () => {
    const { rerender } = render(<Sample {...saved("Barn", 1)} />);
    rerender(<Sample {...saved("Yard", 2)} />);
    expect(textIn("Name")).toBe("Yard");
    await act(async () => void type("Note", "Ring"));
    rerender(<Sample {...saved("Shed", 3)} />);
    expect(textIn("Name")).toBe("Yard");
    await save();
    // Of the version that it was made of.
    expect(sent.map(({ version }) => version)).toEqual([2]);
  });
  it("shows both texts side by side, and goes on from either", async () => {
    const { rerender } = render(<Sample {...saved("Barn", 1)} />);
    await act(async () => void type("Name", "Mine"));
    rerender(<Sample {...saved("Theirs", 2)} />);
    await click("Be late");
    expect(screen.getByText("Theirs")).toBeTruthy();
    await click("Keep mine");
    expect([textIn("Name"), screen.queryByText("Theirs")]).toEqual(["Mine", null]);
    await save();
    expect(sent.map(({ version }) => version)).toEqual([2]);
    await click("Be late");
    await click("Take what is saved");
    expect(textIn("Name")).toBe("Theirs");
  });
});
