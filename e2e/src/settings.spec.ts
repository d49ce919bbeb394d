import { expect, test } from "./site.ts";
import { cells } from "./steps.ts";

test("a unit of one's own, refused where it cannot be right, and used at once", async ({ page }) => {
  await page.goto("/settings");
  await page.getByRole("button", { name: "New unit" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Unit", { exact: true }).fill("kg");
  await dialog.getByLabel("Name").fill("tray of six");
  await dialog.getByLabel("Equals").fill("twelve");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog.getByText("“twelve” is not a number.")).toBeVisible();
  await expect(
    dialog.getByText("A Recommendation 20 code has two or three capital letters or digits."),
  ).toBeVisible();
  await dialog.getByLabel("Equals").fill("6");
  await dialog.getByLabel("UN/ECE code").fill("xtr");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog.getByText("Unit kg already exists.")).toBeVisible();
  await dialog.getByLabel("Unit", { exact: true }).fill("six");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("six is saved.")).toBeVisible();
  expect((await cells(page, "Units", "six")).slice(0, 5)).toEqual([
    "six tray of six",
    "count",
    "6 pc",
    "0",
    "XTR",
  ]);

  // A quantity may be told in it, and goes on in the item's own unit.
  await page.goto("/check");
  await page.getByRole("combobox", { name: "Product" }).fill("FEED-12");
  await page.getByRole("combobox", { name: "Product" }).press("Tab");
  await page.getByLabel("How many").fill("4 six");
  await expect(page.getByText("= 24 pc")).toBeVisible();
  await expect(page).toHaveURL(/want=38%3B24/);

  // What figures are told in stays, once something is told in it.
  await page.goto("/settings");
  await page.getByRole("button", { name: "Change kg" }).click();
  await dialog.getByLabel("Equals").fill("999");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(
    dialog.getByText("You can't change the factor of kg: it is used by items and parts lists."),
  ).toBeVisible();
});

test("a group gives new items what they have in common", async ({ page }) => {
  await page.goto("/settings");
  await page.getByRole("button", { name: "New group" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog.getByText("The name is missing.")).toBeVisible();
  await dialog.getByLabel("Name").fill("Candles");
  await dialog.getByRole("button", { name: /^No default Tracking|Tracking/ }).click();
  await page.getByRole("option", { name: "By lot" }).click();
  await dialog.getByRole("button", { name: /Taken/ }).click();
  await page.getByRole("option", { name: "When finished" }).click();
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Candles is saved.")).toBeVisible();
  expect((await cells(page, "Groups", "Candles")).slice(0, 3)).toEqual([
    "Candles",
    "by lot, drawn at finish",
    "0",
  ]);

  await page.getByRole("button", { name: "Change Candles" }).click();
  await dialog.getByLabel("Name").fill("Candles and wax");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Candles and wax is saved.")).toBeVisible();
  await page.getByRole("button", { name: "Remove Candles and wax" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Remove" }).click();
  await expect(page.getByText("Group removed.")).toBeVisible();
  await expect(page.getByText("Candles and wax", { exact: true })).toHaveCount(0);
});
