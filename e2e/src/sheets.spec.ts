import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { readSheet } from "read-excel-file/node";
import writeXlsx from "write-excel-file/node";
import { expect, test } from "./site.ts";
import { answer, cells, pickFirm } from "./steps.ts";

let folder = "";
test.beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "yosegi-sheets-"));
});
test.afterAll(() => rmSync(folder, { recursive: true }));

async function choose(page: Page, button: string, path: string): Promise<void> {
  const opened = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: button, exact: true }).click();
  await (await opened).setFiles(path);
}

const text = (value: unknown) => ({ value: String(value ?? ""), type: String });

test("a sheet is taken out as XLSX, changed, brought in with errors, mended and brought in again", async ({
  page,
}) => {
  await page.goto("/import");
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "items as XLSX" }).click();
  const out = join(folder, "items.xlsx");
  await (await download).saveAs(out);
  const rows = await readSheet(out);
  expect(rows.length).toBe(45);

  // Taken out and brought in again changes nothing.
  await choose(page, "Choose items", out);
  await expect(page.getByText("44 rows: 44 the same")).toBeVisible();
  await expect(answer(page).last()).toHaveText("There is nothing new in these files.");
  await page.getByRole("button", { name: "Leave out items.xlsx" }).click();

  // Our own column names, a new row, a changed one, and two that are wrong
  const [header = [], ...body] = rows;
  const at = (column: string) => header.indexOf(column);
  const smoker = body.find((row) => row[0] === "SMK-S");
  if (!smoker) throw new Error("the demo sells smokers");
  smoker[at("cost")] = "17.95";
  const fresh = (code: string, unit: string, cost: string) =>
    header.map(
      (column) => ({ code, name: `Spare ${code}`, kind: "bought", unit, cost })[String(column)] ?? "",
    );
  const sheet = async (unit: string, cost: string) => {
    const names = header.map((column) => (column === "code" ? "Article" : column));
    const all = [names, ...body, fresh("STRAP-1", unit, "2.40"), fresh("VEIL-1", "pc", cost)];
    const path = join(folder, "changed.xlsx");
    writeFileSync(path, await writeXlsx(all.map((row) => row.map(text))).toBuffer());
    return path;
  };
  await choose(page, "Choose items", await sheet("piece", "four"));
  await expect(page.getByText("Not found: code.")).toBeVisible();
  await page.getByRole("button", { name: "Article" }).click();
  await page.getByRole("option", { name: "code (needed)" }).click();
  await expect(answer(page).last()).toContainText("2 problems were found.");
  expect((await cells(page, "Problems", "four")).slice(1)).toEqual([
    "47",
    "cost",
    "four",
    "“four” is not a number. Write it like 12.5.",
  ]);
  await page.getByRole("button", { name: "Leave out changed.xlsx" }).click();

  await choose(page, "Choose items", await sheet("pc", "4.10"));
  await page.getByRole("button", { name: "Article" }).click();
  await page.getByRole("option", { name: "code (needed)" }).click();
  await expect(answer(page).last()).toHaveText("2 items can come in.");
  expect((await cells(page, "Changes", "SMK-S")).slice(2)).toEqual(["SMK-S", "cost", "17.2", "17.95"]);
  await page.getByText("Also change 1 record that is here already").click();
  await expect(answer(page).last()).toHaveText("2 items and 1 item changed can come in.");
  await page.getByRole("button", { name: "Import all of it" }).click();
  await expect(page.getByText("46 items", { exact: true })).toBeVisible();
  await page.getByLabel("Search", { exact: true }).fill("smk-s");
  await page.getByRole("row").filter({ hasText: "SMK-S" }).click();
  await expect(page.getByRole("definition").filter({ hasText: "€17.95" })).toBeVisible();
});

test("ten thousand rows show how far they are and can be stopped, leaving nothing", async ({ page }) => {
  const rows = Array.from({ length: 10_000 }, (_, i) => `P-${i},Part ${i},bought,pc,1.25`);
  const path = join(folder, "many.csv");
  writeFileSync(path, ["code,name,kind,unit,cost", ...rows].join("\n"));
  await page.goto("/import");
  await choose(page, "Choose items", path);
  await expect(answer(page).last()).toHaveText("10,000 items can come in.");
  await page.getByRole("button", { name: "Import all of it" }).click();
  await expect(page.getByRole("progressbar")).toBeVisible();
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByText("Stopped. Nothing was saved.")).toBeVisible();
  await page.goto("/catalog");
  await expect(page.getByText("44 items", { exact: true })).toBeVisible();
});

test("an item has its picture, files, suppliers and fields of one's own", async ({ page }) => {
  await page.goto("/settings");
  await page.getByRole("button", { name: "New field" }).click();
  await page.getByRole("dialog").getByLabel("Name").fill("Checked on");
  await page.getByRole("dialog").getByRole("button", { name: "Type" }).click();
  await page.getByRole("option", { name: "date" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("table", { name: "Custom fields" })).toContainText("Checked on");
  // Decimals below what is in use are refused with the places.
  await page.getByRole("button", { name: "Change L", exact: true }).click();
  await page.getByLabel("Decimals").fill("1");
  await page.getByRole("dialog").getByRole("button", { name: "Save" }).click();
  await expect(page.getByText(/1 decimal is too few for what is recorded: .*stock of GLUE-W/)).toBeVisible();
  await page.keyboard.press("Escape");

  await page.goto("/catalog/10");
  const png = Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==",
    "base64",
  );
  writeFileSync(join(folder, "tool.png"), png);
  await choose(page, "Picture", join(folder, "tool.png"));
  await expect(page.getByText("HTL-J picture saved.")).toBeVisible();
  await expect(page.getByRole("img", { name: "Hive tool" })).toBeVisible();
  writeFileSync(join(folder, "drawing.txt"), "42 mm");
  await choose(page, "Attach a file", join(folder, "drawing.txt"));
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "drawing.txt" }).click();
  expect(readFileSync(await (await download).path(), "utf8")).toBe("42 mm");
  await page.getByRole("button", { name: "Custom fields" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);

  await page.getByRole("button", { name: "Edit suppliers" }).click();
  await page.getByRole("button", { name: "Add supplier" }).click();
  const dialog = page.getByRole("dialog");
  await pickFirm(dialog.getByLabel("Supplier", { exact: true }).nth(1), "Norrfold Joinery");
  await dialog.getByLabel("Lead time").nth(1).fill("soon");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog.getByText("The lead days is a whole number.")).toBeVisible();
  await dialog.getByLabel("Lead time").nth(1).fill("9");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("table", { name: "Suppliers" })).toContainText("Norrfold Joinery");
  await page.getByRole("link", { name: "Norrfold Joinery" }).click();
  await expect(page.getByRole("table", { name: "Items supplied" })).toContainText("HTL-J");
});

test("a new supplier and a new customer, from an empty list on", async ({ page }) => {
  await page.goto("/customers");
  await page.getByRole("button", { name: "New n" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Code", { exact: true }).fill("tarn");
  await dialog.getByLabel("Name").fill("Tarnholt Bee Club, juniors");
  await dialog.getByLabel("E-mail").fill("nowhere");
  await dialog.getByRole("button", { name: "Add customer" }).click();
  await expect(dialog.getByText("An e-mail address has an @")).toBeVisible();
  await dialog.getByLabel("E-mail").fill("juniors@tarnholt.example");
  await dialog.getByRole("button", { name: "Add customer" }).click();
  await expect(dialog.getByText("Tarnholt Bee Club already has the code tarn.")).toBeVisible();
  await dialog.getByLabel("Code", { exact: true }).fill("TARNJ");
  await dialog.getByRole("button", { name: "Add customer" }).click();
  await expect(answer(page)).toHaveText("Tarnholt Bee Club, juniors");
});

test("a file that can be read in two ways is asked about, and read as it was said", async ({ page }) => {
  await page.goto("/import");
  const chosen = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Choose items" }).click();
  const text = "code;name;kind;unit;cost\nQ-1;Oak strip;bought;m;2.000\nQ-2;Ash strip;bought;m;12";
  await (await chosen).setFiles({ name: "items.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await expect(page.getByText("First choose how the numbers are written.")).toBeVisible();
  await expect(page.getByText("“2.000” can be read in two ways.")).toBeVisible();
  await page.getByRole("button", { name: /Decimals in items have/ }).click();
  await page.getByRole("option", { name: "a comma: 1.234,5" }).click();
  await expect(page.getByText("2 items can come in.")).toBeVisible();
  await page.getByRole("button", { name: "Import all of it" }).click();
  await expect(page.getByText(/^Imported as I-/)).toBeVisible();
  const scan = page.getByLabel("Scan or search by code, number or name");
  await scan.fill("q-1");
  await scan.press("Enter");
  await expect(page.getByText("€2,000.00").first()).toBeVisible();
});
