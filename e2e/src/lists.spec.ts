import type { Page } from "@playwright/test";
import { expect, test } from "./site.ts";
import { answer, cells, pick } from "./steps.ts";

/** The codes in the editor's lines, the empty one left out. */
const codes = async (page: Page) => {
  const fields = page.getByRole("table", { name: "Parts" }).getByRole("combobox");
  const texts = await fields.evaluateAll((all) => all.map((field) => (field as HTMLInputElement).value));
  return texts.filter(Boolean).map((text) => text.split(" · ")[0]);
};

/** Pastes text as a spreadsheet puts it on the clipboard. */
async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((data) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData("text/plain", data);
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }),
    );
  }, text);
}

test("a list of ten lines typed with the keyboard alone", async ({ page }) => {
  await page.goto("/catalog");
  await expect(page.getByText("44 items", { exact: true })).toBeVisible();
  await page.keyboard.press("n");
  await expect(page.getByLabel("Code", { exact: true })).toBeFocused();
  await page.keyboard.type("NUC-5");
  await page.keyboard.press("Tab");
  await page.keyboard.type("Nucleus hive");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Tab");
  await expect(page.getByRole("dialog").getByRole("button", { name: "Kind" })).toBeFocused();
  await page.keyboard.type("Built");
  // Ctrl and Enter save, from any field.
  await page.getByRole("dialog").getByLabel("Price").focus();
  await page.keyboard.type("98.00");
  await page.keyboard.press("Control+Enter");
  await expect(answer(page)).toHaveText("Nucleus hive");
  await page.getByRole("button", { name: "Create the parts list" }).focus();
  await page.keyboard.press("Enter");

  const lines = [
    ["BOX-D", "1"],
    ["FRM-A", "5"],
    ["FLR-M", "1"],
    ["ROOF-M", "1"],
    ["CRN-B", "1"],
    ["PIN-20", "0.02"],
    ["GLUE-W", "0.01"],
    ["LBL-H", "1"],
    ["CARD-C", "2"],
    ["LAB-B", "25"],
  ] as const;
  for (const [i, [code, quantity]] of lines.entries()) {
    await expect(page.getByRole("combobox", { name: `Part ${i + 1}`, exact: true })).toBeFocused();
    await page.keyboard.type(code);
    await page.keyboard.press("Tab");
    await expect(page.getByLabel(`Quantity of part ${i + 1}`, { exact: true })).toBeFocused();
    await page.keyboard.type(quantity);
    await expect(page.getByRole("combobox", { name: `Part ${i + 1}`, exact: true })).toHaveValue(
      new RegExp(`^${code} · `),
    );
    await page.keyboard.press("Enter");
  }
  expect(await codes(page)).toEqual(lines.map(([code]) => code));
  // 9.40 + 5 of 366 frames worth 1513.10 + 14.20 + 18.60 + 6.10 + 0.28 + 0.076 + 0.12 + 0.08 + 25 min at 32.00
  await expect(page.getByText("€82.8601", { exact: true })).toBeVisible();
  // Alt and an arrow move a line; Ctrl+Z takes it back.
  await page.getByLabel("Quantity of part 10", { exact: true }).focus();
  await page.keyboard.press("Alt+ArrowUp");
  await expect.poll(() => codes(page)).toEqual([...lines.slice(0, 8).map(([c]) => c), "LAB-B", "CARD-C"]);
  await page.keyboard.press("Control+z");
  await expect.poll(() => codes(page)).toEqual(lines.map(([code]) => code));
  await page.keyboard.press("Control+y");
  await page.keyboard.press("Control+z");
  await page.getByRole("button", { name: "Save list" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("Expected to cost €82.8601 per pc")).toBeVisible();
  await expect(page.getByRole("table", { name: "Parts list" }).getByRole("row")).toHaveCount(11);
});

test("rows pasted from a spreadsheet, one of them mended; packs and other units as they are typed", async ({
  page,
}) => {
  await page.goto("/catalog/40/parts-list");
  await expect(page.getByRole("combobox", { name: "Part 1" })).toBeFocused();
  await paste(page, "EXT-2\t1\tpc\r\nBRG-66\t2\tpc\r\nBELT-X\t1\tpc\t10%\r\nLAB-B\t45\tmin\r\n");
  await expect.poll(() => codes(page)).toEqual(["EXT-2", "BRG-66", "BELT-X", "LAB-B"]);
  await expect(page.getByText("Nothing here is called “BRG-66”.")).toBeVisible();
  await expect(page.getByLabel("Waste of part 3")).toHaveValue("10");
  await page.getByRole("button", { name: "Save list" }).click();
  await expect(page.getByText("Nothing here is called “BRG-66”.")).toBeVisible();
  await pick(page.getByRole("combobox", { name: "Part 2" }), "BRG-6");
  // Undo goes back over it, redo does it again.
  await page.getByRole("button", { name: "Undo" }).click();
  await expect.poll(() => codes(page)).toEqual(["EXT-2", "BRG-66", "BELT-X", "LAB-B"]);
  await page.getByRole("button", { name: "Redo" }).click();
  await expect.poll(() => codes(page)).toEqual(["EXT-2", "BRG-6", "BELT-X", "LAB-B"]);

  await pick(page.getByRole("combobox", { name: "Part 5" }), "JAR-4");
  await page.getByLabel("Quantity of part 5").fill("2 trays");
  await expect(page.getByText("= 48")).toBeVisible();
  await page.getByLabel("Quantity of part 5").fill("3 crates");
  await page.getByRole("button", { name: "Save list" }).click();
  await expect(page.getByText("“3 crates” is not a number.")).toBeVisible();
  await page.getByLabel("Quantity of part 5").fill("1 dozen");
  // A line is dragged by its handle.
  const from = await page.getByRole("button", { name: "Move part 5", exact: true }).boundingBox();
  const to = await page.getByRole("button", { name: "Move part 1", exact: true }).boundingBox();
  if (!from || !to) throw new Error("the handles are in view");
  await page.mouse.move(from.x + 6, from.y + 12);
  await page.mouse.down();
  await page.mouse.move(to.x + 6, to.y + 20, { steps: 12 });
  await page.mouse.move(to.x + 6, to.y + 6, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => codes(page)).toEqual(["JAR-4", "EXT-2", "BRG-6", "BELT-X", "LAB-B"]);
  // A margin typed gives the price.
  await page.getByLabel("Margin in percent").fill("20");
  await expect(page.getByLabel("Price", { exact: true })).toHaveValue(/^4\d\d\.\d\d$/);
  await page.getByLabel("Price", { exact: true }).fill("500");
  await expect(page.getByLabel("Margin in percent")).not.toHaveValue("20");
  await page.getByRole("button", { name: "Save list" }).click();
  await expect(page.getByRole("definition").filter({ hasText: "€500.00" })).toBeVisible();
  expect((await cells(page, "Parts list", "JAR-4"))[1]).toBe("12 pc");
});

test("a locked list gets a next revision, compared with the one before and used from when it says", async ({
  page,
}) => {
  // HON-4 was built, so its list is locked.
  await page.goto("/catalog/39/parts-list");
  await expect(page.getByText("Revision 1 is locked; saving starts revision 2.")).toBeVisible();
  await page.getByLabel("Waste of part 1").fill("2.5");
  await page.getByRole("button", { name: "Remove part 4" }).click();
  await pick(page.getByRole("combobox", { name: "Part 5" }), "CARD-C");
  await page.getByLabel("Quantity of part 5").fill("1");
  await page.getByRole("button", { name: "More about part 5" }).click();
  await page.getByLabel("Note").fill("Tied to the neck");
  await page.getByText("Optional (chosen per build)").click();
  await page.getByRole("button", { name: "Save as the next revision" }).click();
  await expect(page.getByText("Saved as draft revision 2. Lock to start using it.")).toBeVisible();
  await expect(page.getByRole("row").filter({ hasText: "draft, not used yet" })).toBeVisible();

  await page.getByRole("link", { name: "Compare with 1" }).click();
  await expect(answer(page)).toHaveText("1 part added, 1 part removed and 1 part changed.");
  expect((await cells(page, "Changed lines", "HON-B")).slice(2)).toEqual([
    "0.454 kg waste: 1.5 %",
    "0.454 kg waste: 2.5 %",
    "€707.81 → €714.78",
  ]);
  expect((await cells(page, "Changed lines", "LBL-H"))[0]).toBe("removed");
  await page.goBack();

  await page.getByRole("button", { name: "Lock …" }).click();
  const dialog = page.getByRole("dialog", { name: "Lock revision 2" });
  await dialog.getByRole("button", { name: "Starts" }).click();
  await page.getByRole("option", { name: "When an old part runs out" }).click();
  await dialog.getByRole("button", { name: "Lock" }).click();
  await expect(dialog.getByText("Choose the old part.")).toBeVisible();
  await pick(dialog.getByRole("combobox", { name: "Old part" }), "LBL-H");
  await dialog.getByLabel("Note").fill("Labels are printed on the jars now");
  await dialog.getByRole("button", { name: "Lock" }).click();
  await expect(
    page.getByRole("row").filter({ hasText: "locked, used when LBL-H has run out" }),
  ).toBeVisible();
  await expect(page.getByRole("row").filter({ hasText: "locked, used now" })).toContainText("Used by B-3");

  // A product has another list beside it, which a build chooses.
  await page.goto("/builds/3");
  await expect(page.getByRole("link", { name: "main list, revision 1" })).toBeVisible();
  await page.goto("/check?want=38%3B4");
  await page.getByRole("button", { name: "Build all 4" }).click();
  await page.getByRole("button", { name: "Change", exact: true }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Parts list" }).click();
  await page.getByRole("option", { name: "Small batch" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("link", { name: "Small batch, revision 1" })).toBeVisible();
  expect((await cells(page, "Parts", "SYR-72"))[1]).toBe("50.470 L");
});

test("a part is replaced over three lists, one left out, and the step is undone", async ({ page }) => {
  // Two more products that take the honey label, and HON-4 that takes it already
  for (const code of ["HON-5", "HON-6"]) {
    await page.goto("/catalog/39");
    await page.getByRole("button", { name: "Copy" }).click();
    await page.getByRole("dialog").getByLabel("Code", { exact: true }).fill(code);
    await page.getByRole("dialog").getByLabel("Name").fill(`Honey ${code}`);
    await page.getByRole("button", { name: "Create copy" }).click();
    await expect(answer(page)).toHaveText(`Honey ${code}`);
  }
  await page.goto("/catalog/20");
  await expect(page.getByRole("table", { name: "Where it is used" }).getByRole("row")).toHaveCount(6);
  expect(await cells(page, "Where it is used", "HON-5")).toEqual([
    "Honey HON-5 HON-5",
    "parts list revision 1",
    "1 pc",
  ]);
  await page.getByRole("link", { name: "Replace it everywhere" }).click();
  await pick(page.getByRole("combobox", { name: "Its successor" }), "LBL-F");
  await page.getByLabel("Use").fill("2");
  const table = page.getByRole("table", { name: "What changes" });
  await expect(table.getByRole("row")).toHaveCount(5);
  await expect(table).toContainText("2 pc LBL-F");
  expect((await cells(page, "What changes", "HON-6")).slice(1, 3)).toEqual(["1 pc LBL-H", "2 pc LBL-F"]);
  // Autumn feed takes it only instead of its own label, so that stays too.
  for (const name of ["Honey HON-6", "Autumn feed 12.5 L"])
    await table.getByText(name).locator("xpath=ancestor::tr").getByRole("checkbox").press("Space");
  await page.getByRole("button", { name: "Replace in 2 lists" }).click();
  await expect(page.getByText("LBL-H is replaced by LBL-F in 2 lists.")).toBeVisible();
  await expect(table.getByRole("row")).toHaveCount(3);

  await page.goto("/catalog/39");
  await expect(page.getByRole("table", { name: "Parts list" })).toContainText("LBL-F");
  expect((await cells(page, "Parts list", "LBL-F"))[1]).toBe("2 pc");
  await page.goto("/replace");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("LBL-H is back instead of LBL-F.")).toBeVisible();
  await expect(page.getByText("undone by Ines")).toBeVisible();
  await page.goto("/catalog/39");
  await expect(page.getByRole("table", { name: "Parts list" })).toContainText("LBL-H");
  expect((await cells(page, "Parts list", "LBL-H"))[1]).toBe("1 pc");
});
