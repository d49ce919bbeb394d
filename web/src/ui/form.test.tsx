// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { CrashGuard } from "./crash.tsx";
import { TextField } from "./field.tsx";
import { AddLine, FieldLine } from "./fieldline.tsx";
import { Form, type FormRefusal, useFormWait } from "./form.tsx";

afterEach(() => {
  cleanup();
  sent.length = 0;
});

const sent: string[] = [];

/** A form with a field, lines of two, and a button of its own. */
function Sample({ refusal = null }: { refusal?: FormRefusal | null }) {
  const [lines, setLines] = useState([0]);
  const [name, setName] = useState("");
  return (
    <Form refusal={refusal} onSubmit={() => sent.push(name)}>
      <TextField label="Name" name="name" value={name} onChange={setName} />
      {lines.map((line) => (
        <FieldLine key={line} remove={`Remove line ${line}`} onRemove={() => {}}>
          <TextField label={`Item ${line}`} name={`item${line}`} />
          <TextField label={`Quantity ${line}`} name={`quantity${line}`} />
        </FieldLine>
      ))}
      <AddLine onAdd={() => setLines((before) => [...before, before.length])}>Another line</AddLine>
      <button type="submit">Save</button>
    </Form>
  );
}

/** A form with a field whose text is looked up when it is left. */
function LookedUp({ found }: { found: Promise<string> }) {
  const [firm, setFirm] = useState("nobody");
  return (
    <Form refusal={null} onSubmit={() => sent.push(firm)}>
      <Lookup work={() => found.then(setFirm)} />
      <button type="submit">Save</button>
    </Form>
  );
}

function Lookup({ work }: { work: () => Promise<void> }) {
  const wait = useFormWait();
  return (
    <button type="button" onClick={() => wait(work())}>
      Leave the field
    </button>
  );
}

function Broken(): never {
  throw new Error("a fault while drawing");
}

const press = (key: string, more: object = {}) =>
  act(() => void fireEvent.keyDown(document.activeElement as Element, { key, ...more }));

const focused = () => document.activeElement?.getAttribute("name");

describe("Enter", () => {
  it("goes on to the next field, from a line's first field to its second, and from there to a new line", () => {
    render(<Sample />);
    screen.getByLabelText("Name").focus();
    press("Enter");
    expect(focused()).toBe("item0");
    press("Enter");
    expect(focused()).toBe("quantity0");
    // The new line's field has the focus at once: a scanner does not wait for a frame.
    press("Enter");
    expect(focused()).toBe("item1");
    expect(sent).toEqual([]);
  });
  it("with Ctrl sends the form, from any field", () => {
    render(<Sample />);
    fireEvent.change(screen.getByLabelText("Name"), { target: { value: "Barn" } });
    screen.getByLabelText("Quantity 0").focus();
    press("Enter", { ctrlKey: true });
    expect(sent).toEqual(["Barn"]);
  });
});

it("sends what is typed last with what its lookup finds, not before", async () => {
  let find = (_: string) => {};
  const found = new Promise<string>((resolve) => {
    find = resolve;
  });
  render(<LookedUp found={found} />);
  fireEvent.click(screen.getByText("Leave the field"));
  fireEvent.submit(screen.getByText("Save").closest("form") as HTMLFormElement);
  expect(sent).toEqual([]);
  await act(async () => find("Norrfold"));
  expect(sent).toEqual(["Norrfold"]);
});

it("a refusal stands at its field, which gets the focus, or at the top", () => {
  const refusal = (fields: FormRefusal["fields"]): FormRefusal => ({ message: "Refused.", fields });
  const { rerender } = render(<Sample />);
  rerender(<Sample refusal={refusal([{ field: "item0", message: "Choose an item." }])} />);
  expect(screen.getByText("Choose an item.")).toBeTruthy();
  expect(focused()).toBe("item0");
  rerender(<Sample refusal={refusal([])} />);
  expect(screen.getByText("Refused.")).toBeTruthy();
});

it("what can't be drawn shows a page that says so", () => {
  const logged = vi.spyOn(console, "error").mockImplementation(() => {});
  render(
    <CrashGuard>
      <Broken />
    </CrashGuard>,
  );
  expect(screen.getByRole("heading").textContent).toBe("This page can't be shown");
  logged.mockRestore();
});
