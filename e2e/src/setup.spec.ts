import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { DEMO } from "./seed.ts";
import { expect, test } from "./site.ts";
import { answer, cells, check } from "./steps.ts";

test.use({ database: "empty" });

let folder = "";
test.beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "yosegi-files-"));
});
test.afterAll(() => rmSync(folder, { recursive: true }));

/** A file on the person's own disk. */
function onDisk(name: string, text: string | Buffer): string {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
}

test("an empty database filled from files, one of them with bad rows", async ({ page }) => {
  await page.goto("/check");
  await expect(answer(page)).toHaveText("Set up your company");
  await page.getByLabel("Time zone").fill("Europe/Nowhere");
  await page.getByRole("button", { name: "Get started" }).click();
  await expect(page.getByText("The name is missing.")).toHaveCount(2);
  await page.getByLabel("Company").fill("Brackenmere Bee Supply");
  await page.getByLabel("Your name").fill("Ines");
  await page.getByRole("button", { name: "Get started" }).click();
  await expect(
    page.getByText("Europe/Nowhere isn't a time zone; write it like Europe/Vienna."),
  ).toBeVisible();
  await page.getByLabel("Time zone").fill("Europe/Vienna");
  await page.getByRole("button", { name: "Get started" }).click();

  // Every empty page says what it is for, and leads on.
  await expect(answer(page)).toHaveText("Check what you can build");
  await page.getByRole("button", { name: "Go to the catalog" }).click();
  await page.getByRole("button", { name: "Import a spreadsheet" }).click();

  const choose = async (slot: string, path: string) => {
    const opened = page.waitForEvent("filechooser");
    await page.getByRole("button", { name: `Choose ${slot}`, exact: true }).click();
    await (await opened).setFiles(path);
  };
  // What is no such file at all
  await choose("items", onDisk("large.csv", "x".repeat(20_000_000)));
  await expect(page.getByText("The file has 20.0 MB; the limit is 10 MB.")).toBeVisible();
  await choose("items", onDisk("latin.csv", Buffer.from([0x63, 0xe4, 0x2c])));
  await expect(page.getByText("This file is not in UTF-8.")).toBeVisible();
  await page.getByRole("button", { name: "Leave out latin.csv" }).click();

  // Bad rows: each with its place and reason, nothing is written
  const bad = [
    "code,name,kind,unit,tracking,cost,price,store,bin",
    "BOX-D,Hive box,bought,pc,none,9.40,,Front store,01-A",
    "box-d,Hive box again,bought,pc,none,9.40,,,",
    "GLUE-W,Wood glue,bought,bottle,none,7.60,,,",
    "CRN-B,Crown board,bought,pc,none,six,,,",
  ].join("\r\n");
  await choose("items", onDisk("items-bad.csv", bad));
  await expect(page.getByText("4 rows: 1 new")).toBeVisible();
  await expect(answer(page).last()).toContainText("3 problems were found.");
  expect(await cells(page, "Problems", "bottle")).toEqual([
    "items",
    "4",
    "unit",
    "bottle",
    "Unknown unit. Use one of: pc, pair, dozen, job, m, cm, kg, g, hour, min, L, mL.",
  ]);
  expect((await cells(page, "Problems", "six")).slice(1)).toEqual([
    "5",
    "cost",
    "six",
    "“six” is not a number. Write it like 12.5.",
  ]);
  expect((await cells(page, "Problems", "box-d")).at(-1)).toBe("Same code as row 2.");
  await page.getByRole("button", { name: "Leave out items-bad.csv" }).click();

  // Files of the demo, by hand
  await choose("items", join(DEMO, "items.csv"));
  await choose("parts-lists", join(DEMO, "parts-lists.csv"));
  await choose("kits", join(DEMO, "kits.csv"));
  await choose("stock", join(DEMO, "stock.csv"));
  await expect(page.getByText("No person called Tobias.")).toBeVisible();
  await page.getByRole("button", { name: "Signed in as Ines. Switch" }).click();
  await page.getByRole("menuitem", { name: "Add person …" }).click();
  await page.getByRole("dialog").getByLabel("Name").fill("Tobias");
  await page.getByRole("dialog").getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.getByRole("button", { name: "Leave out parts-lists.csv" }).click();
  await choose("parts-lists", join(DEMO, "parts-lists.csv"));
  await expect(answer(page).last()).toContainText("44 items, 6 parts lists, 4 kits, 41 rows of stock");
  await expect(answer(page).last()).toContainText("the new store Yard");
  await page.getByRole("button", { name: "Import all of it" }).click();
  await expect(page.getByText("44 items", { exact: true })).toBeVisible();

  await check(page, "FEED-12", "40");
  await expect(answer(page)).toContainText("31 of 40 can be made now. Feed label runs out first.");
  expect((await cells(page, "Parts", "SYR-72")).slice(1, 8)).toEqual([
    "for 32 of 40",
    "499.800 L",
    "424.960 L 25 L expired",
    "–",
    "399.960 L",
    "–",
    "99.840 L",
  ]);
  await page.getByRole("link", { name: "Stock", exact: true }).click();
  await expect(page.getByText("41 movements, latest first.")).toBeVisible();
});

test("only the good rows of a bad file, when the person says so", async ({ page }) => {
  await page.goto("/check");
  await page.getByLabel("Company").fill("Brackenmere Bee Supply");
  await page.getByLabel("Your name").fill("Ines");
  await page.getByRole("button", { name: "Get started" }).click();
  await expect(answer(page)).toHaveText("Check what you can build");
  await page.goto("/import");
  const opened = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Choose items", exact: true }).click();
  const rows = [
    "code,name,kind,unit,tracking,cost,price,store,bin",
    "JAR-4,Jar,bought,pc,none,0.38,,,",
    "LID-63,Lid,bought,lid,none,0.09,,,",
  ];
  await (await opened).setFiles(onDisk("some.csv", rows.join("\n")));
  await page.getByRole("button", { name: "Import the good rows only" }).click();
  await expect(page.getByText("1 item", { exact: true })).toBeVisible();
  expect((await cells(page, "Items", "JAR-4")).slice(0, 8)).toEqual([
    "JAR-4",
    "Jar",
    "bought",
    "0 pc",
    "0 pc",
    "€0.38",
    "–",
    "a supplier",
  ]);
});
