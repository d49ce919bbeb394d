import { expect, test } from "./site.ts";
import { answer, check } from "./steps.ts";

test("a second list for the same product: made as a copy, changed, chosen by a build, then the main one", async ({
  page,
}) => {
  await page.goto("/catalog/38/lists");
  await expect(answer(page)).toHaveText("Lists of Autumn feed 12.5 L");
  await page.getByRole("button", { name: "Add list" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Name").fill("main");
  await dialog.getByRole("button", { name: "Create list" }).click();
  await expect(dialog.getByText("“main” already exists.")).toBeVisible();
  await dialog.getByLabel("Name").fill("Without labels");
  await dialog.getByRole("button", { name: "Create list" }).click();
  await expect(page.getByText("Without labels created as a copy.")).toBeVisible();

  // Labels are what there is too little of; this one goes without.
  await page.getByRole("button", { name: "Remove part 4" }).click();
  await page.getByRole("button", { name: "Save list" }).click();
  await expect(page.getByText("The parts list of FEED-12 is saved.")).toBeVisible();
  await page.goto("/catalog/38/lists");
  await expect(page.getByRole("table", { name: "Revisions of Without labels" })).toContainText(
    "1 · in use, unlocked",
  );

  // A build chooses it, and with it more can be made.
  await check(page, "FEED-12", "23");
  await expect(answer(page)).toContainText("22 of 23 can be made now. Feed label runs out first.");
  await page.getByRole("button", { name: "Build all 23" }).click();
  await page.getByRole("button", { name: "Change", exact: true }).click();
  await dialog.getByRole("button", { name: /Parts list/ }).click();
  await page.getByRole("option", { name: "Without labels" }).click();
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("link", { name: "Without labels, revision 1" })).toBeVisible();
  await expect(page.getByRole("table", { name: "Parts" })).not.toContainText("LBL-F");
  await page.getByRole("button", { name: "Queue build" }).click();
  await expect(page.getByRole("button", { name: "Finish 23" })).toBeVisible();

  // Queued, it has locked the revision. Made the main list, it is what the next check asks.
  await page.goto("/catalog/38/lists");
  const list = page.getByRole("table", { name: "Revisions of Without labels" });
  await expect(list).toContainText("1 · locked, used now");
  const section = page.locator("section").filter({ has: list });
  await section.getByRole("button", { name: "Rename" }).click();
  await dialog.getByLabel("Name").fill("No labels");
  await dialog.getByRole("button", { name: "Save" }).click();
  await page
    .locator("section")
    .filter({ has: page.getByRole("table", { name: "Revisions of No labels" }) })
    .getByRole("button", { name: "Make main list" })
    .click();
  await expect(page.getByText("No labels is the main list now.")).toBeVisible();
  await expect(page.getByRole("heading", { name: "No labels (main list)" })).toBeVisible();
  await check(page, "FEED-12", "10");
  await expect(page.getByRole("table", { name: "Parts" })).not.toContainText("LBL-F");
});

test("a parts list is copied to another product, which gets it as a draft", async ({ page }) => {
  await page.goto("/catalog/36/lists");
  await expect(answer(page)).toHaveText(/^Lists of /);
  await page.getByRole("button", { name: "Copy to another product" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Copy list" }).click();
  await expect(dialog.getByText("Choose a product.")).toBeVisible();
  const product = dialog.getByRole("combobox", { name: "Product" });
  await product.fill("EXT-2R");
  await product.press("Tab");
  await dialog.getByRole("button", { name: "Copy list" }).click();
  await expect(answer(page)).toHaveText("Parts list of Honey extractor, restored");
  await expect(page.getByRole("combobox", { name: "Part 2" })).not.toHaveValue("");
});
