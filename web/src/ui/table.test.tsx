// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import { type Column, DataTable, type DataTableProps } from "./table.tsx";

afterEach(cleanup);

interface Part {
  id: number;
  name: string;
  free: number;
}

const PARTS: readonly Part[] = [
  { id: 1, name: "Crown board", free: 44 },
  { id: 2, name: "Assembled frame", free: 366 },
  { id: 3, name: "Wood glue", free: 3 },
];

const COLUMNS: readonly Column<Part>[] = [
  {
    id: "name",
    header: "Name",
    compare: (a, b) => a.name.localeCompare(b.name),
    cell: (part) => part.name,
    total: "3 parts",
  },
  { id: "free", header: "Free", end: true, compare: (a, b) => a.free - b.free, cell: (part) => part.free },
];

const show = (props: Partial<DataTableProps<Part>>) =>
  render(
    <MemoryRouter>
      <DataTable label="Parts" rows={PARTS} columns={COLUMNS} rowId={(part) => part.id} {...props} />
      <Routes>
        <Route path="/catalog/:id" element={<p>Opened</p>} />
        <Route path="*" element={null} />
      </Routes>
    </MemoryRouter>,
  );

/** The first cells of the rows between the header and the totals, as they stand. */
const names = () =>
  within(screen.getByRole("table"))
    .getAllByRole("row")
    .slice(1, -1)
    .map((row) => row.querySelector("td")?.textContent);

describe("a table", () => {
  it("sorts by a press on a header, and the other way round by a second one", () => {
    show({});
    expect(names()).toEqual(["Crown board", "Assembled frame", "Wood glue"]);
    fireEvent.click(screen.getByRole("button", { name: "Free" }));
    expect(names()).toEqual(["Wood glue", "Crown board", "Assembled frame"]);
    expect(screen.getByRole("columnheader", { name: "Free" }).getAttribute("aria-sort")).toBe("ascending");
    fireEvent.click(screen.getByRole("button", { name: "Free" }));
    expect(names()).toEqual(["Assembled frame", "Crown board", "Wood glue"]);
    expect(screen.getByRole("columnheader", { name: "Name" }).getAttribute("aria-sort")).toBeNull();
  });

  it("leaves rows that come sorted as they are, and asks for another order", () => {
    const onSort = vi.fn();
    show({ sorted: { by: "name", descending: false, columns: ["name"], onSort } });
    fireEvent.click(screen.getByRole("button", { name: "Name" }));
    expect(onSort).toHaveBeenCalledWith("name", true);
    expect(names()).toEqual(["Crown board", "Assembled frame", "Wood glue"]);
    expect(screen.queryByRole("button", { name: "Free" })).toBeNull();
  });

  it("has rows that are links, walked by the arrow keys", () => {
    show({ linkTo: (part) => `/catalog/${part.id}` });
    const first = screen.getByRole("link", { name: "Crown board" });
    expect(first.getAttribute("href")).toBe("/catalog/1");
    first.focus();
    fireEvent.keyDown(first, { key: "ArrowDown" });
    expect(document.activeElement?.textContent).toBe("Assembled frame");
    fireEvent.keyDown(document.activeElement ?? first, { key: "ArrowUp" });
    expect(document.activeElement).toBe(first);
    // Above the first row there is nothing to go to.
    fireEvent.keyDown(first, { key: "ArrowUp" });
    expect(document.activeElement).toBe(first);
    fireEvent.click(first);
    expect(screen.getByText("Opened")).toBeDefined();
  });

  it("opens a row by a press on it or by its button, and not by another control in it", () => {
    const open = vi.fn();
    const columns = COLUMNS.map((column) =>
      column.id === "free" ? { ...column, cell: () => <button type="button">Reserved</button> } : column,
    );
    show({ columns, onOpen: { words: (part) => `More about ${part.name}`, open } });
    fireEvent.click(screen.getByText("Wood glue"));
    expect(open).toHaveBeenLastCalledWith(PARTS[2]);
    fireEvent.click(screen.getByRole("button", { name: "More about Crown board" }));
    expect(open).toHaveBeenLastCalledWith(PARTS[0]);
    fireEvent.click(screen.getAllByRole("button", { name: "Reserved" })[1] as HTMLElement);
    expect(open).toHaveBeenCalledTimes(2);
  });

  it("shows the columns that were chosen, also when it is opened again", () => {
    show({ columnsKeptAs: "test" });
    fireEvent.click(screen.getByRole("button", { name: "Columns of Parts" }));
    fireEvent.click(screen.getByRole("menuitemcheckbox", { name: "Free" }));
    cleanup();
    show({ columnsKeptAs: "test" });
    expect(screen.queryByRole("columnheader", { name: "Free" })).toBeNull();
    expect(screen.getByRole("columnheader", { name: "Name" })).toBeDefined();
    fireEvent.click(screen.getByRole("button", { name: "Columns of Parts" }));
    // The first one is what the rows are known by.
    expect(screen.queryByRole("menuitemcheckbox", { name: "Name" })).toBeNull();
    fireEvent.click(screen.getByRole("menuitemcheckbox", { name: "Free" }));
    expect(screen.getByRole("columnheader", { name: "Free", hidden: true })).toBeDefined();
    expect(localStorage.getItem("yosegi.columns.test")).toBeNull();
  });

  it("has rows that are selected one by one or all at once, those that can be", () => {
    const onChange = vi.fn();
    const selection = { chosen: new Set([2]), onChange, words: (part: Part) => part.name };
    show({ selection });
    fireEvent.click(screen.getByRole("checkbox", { name: "Select Wood glue" }));
    expect(onChange).toHaveBeenLastCalledWith(new Set([2, 3]));
    fireEvent.click(screen.getByRole("checkbox", { name: "Select Assembled frame" }));
    expect(onChange).toHaveBeenLastCalledWith(new Set());
    fireEvent.click(screen.getByRole("checkbox", { name: "Select all parts" }));
    expect(onChange).toHaveBeenLastCalledWith(new Set([1, 2, 3]));
    cleanup();
    show({ selection: { ...selection, can: (part) => part.free > 10 } });
    expect(screen.queryByRole("checkbox", { name: "Select Wood glue" })).toBeNull();
    fireEvent.click(screen.getByRole("checkbox", { name: "Select all parts" }));
    expect(onChange).toHaveBeenLastCalledWith(new Set([1, 2]));
  });

  it("is copied for a spreadsheet, as it is sorted: what is selected, or all of it", async () => {
    const writeText = vi.fn(async (_: string) => undefined);
    vi.stubGlobal("navigator", { ...navigator, clipboard: { writeText } });
    const spreadsheet = {
      name: "parts",
      columns: [
        { header: "Name", value: (part: Part) => (part.id === 3 ? "=1+1" : part.name) },
        { header: "Free", value: (part: Part) => String(part.free / 4) },
      ],
    };
    const selection = { chosen: new Set<number>(), onChange: vi.fn(), words: (part: Part) => part.name };
    show({ spreadsheet, selection });
    fireEvent.click(screen.getByRole("button", { name: "Free" }));
    fireEvent.keyDown(screen.getByRole("table"), { key: "c", ctrlKey: true });
    await vi.waitFor(() => expect(writeText).toHaveBeenCalled());
    // What a spreadsheet would take for a formula is text there.
    expect(writeText.mock.lastCall?.[0]).toBe(
      "Name\tFree\r\n'=1+1\t0.75\r\nCrown board\t11\r\nAssembled frame\t91.5\r\n",
    );
    cleanup();
    show({ spreadsheet, selection: { ...selection, chosen: new Set([1]) } });
    fireEvent.keyDown(screen.getByRole("table"), { key: "c", ctrlKey: true });
    await vi.waitFor(() => expect(writeText).toHaveBeenCalledTimes(2));
    expect(writeText.mock.lastCall?.[0]).toBe("Name\tFree\r\nCrown board\t11\r\n");
    vi.unstubAllGlobals();
  });

  it("says what is in it where it is empty, and has no totals then", () => {
    show({ rows: [], empty: "No items match." });
    expect(screen.getByText("No items match.")).toBeDefined();
    expect(screen.queryByText("3 parts")).toBeNull();
  });
});
