import { expect, test } from "./site.ts";
import { answer, cells, pick } from "./steps.ts";

test("a kit with swaps: what is in it, what may change, what it is sold at", async ({ page }) => {
  await page.goto("/catalog");
  await page.getByRole("button", { name: "New n" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Code", { exact: true }).fill("KIT-SUIT");
  await dialog.getByLabel("Name").fill("Suit and gloves");
  await dialog.getByRole("button", { name: "Kind" }).click();
  await page.getByRole("option", { name: "Kit (sold as a set)" }).click();
  // The screen helps to choose between the two.
  await expect(dialog.getByText("If you put it together beforehand, choose “Built here”.")).toBeVisible();
  await expect(dialog.getByLabel("Default bin")).toHaveCount(0);
  await dialog.getByRole("button", { name: "Create item" }).click();
  await expect(page.getByText("Still missing: its contents and a price.")).toBeVisible();
  await page.getByRole("button", { name: "Create the contents" }).click();

  await pick(page.getByRole("combobox", { name: "Content 1" }), "SUIT-M");
  await page.getByRole("button", { name: "Content 1 for one order" }).click();
  await page.getByRole("option", { name: "Choice of listed items" }).click();
  await pick(page.getByRole("combobox", { name: "Content 2" }), "GLV-M");
  await page.getByLabel("Quantity of content 2", { exact: true }).fill("2");
  await page.getByText("quantity", { exact: true }).nth(1).click();
  await page.getByRole("combobox", { name: "Content 3" }).fill("KIT-TOOL");
  await page.getByRole("combobox", { name: "Content 3" }).press("Tab");
  await expect(page.getByText("KIT-TOOL is a kit. Use its contents instead.")).toBeVisible();
  await page.getByRole("combobox", { name: "Content 3" }).fill("");
  await page.keyboard.press("Tab");
  await page.getByRole("button", { name: "Save kit" }).click();
  await expect(page.getByText("Choose which items may replace SUIT-M.")).toBeVisible();
  for (const code of ["SUIT-L", "SUIT-X"]) {
    const field = page.getByRole("combobox", { name: "May take the place of content 1" });
    await field.fill(code);
    await field.press("Tab");
    await expect(page.getByRole("button", { name: `Remove ${code}` })).toBeVisible();
  }
  await page.getByRole("button", { name: "Its own price" }).click();
  await page.getByRole("option", { name: "Sum of the contents" }).click();
  await page.getByLabel("Less").fill("10");
  // 58.00 + 2 × 14.50 less a tenth; 36.00 + 2 × 8.30; seven suits, and gloves for seven
  await expect(page.getByText("€78.30")).toBeVisible();
  await expect(page.getByText("€25.70 · 32.8 %")).toBeVisible();
  await page.getByRole("button", { name: "Save kit" }).click();
  await expect(answer(page)).toHaveText("Suit and gloves");
  const suit = await cells(page, "Contents", "SUIT-M");
  expect([suit[1], suit[2], suit[4], suit[6]]).toEqual(["1 pc", "or SUIT-L, SUIT-X", "7", "€52.20"]);
  expect((await cells(page, "Contents", "GLV-M"))[2]).toBe("its quantity");
  await expect(page.getByText("Price per set")).toBeVisible();
});

test("prices that fell behind are found and changed together", async ({ page }) => {
  await page.goto("/catalog");
  await page.getByRole("link", { name: "Prices" }).click();
  await page.getByLabel("Target margin").fill("25");
  await expect(answer(page)).toHaveText("4 products and kits make less than 25 %.");
  expect((await cells(page, "Prices", "KIT-YARD")).slice(0, 4)).toEqual([
    "First-year set KIT-YARD",
    "€214.60",
    "€239.00",
    "10.2 % €24.40",
  ]);
  await expect(page.getByLabel("New price of KIT-YARD")).toHaveValue("286.14");
  await page.getByLabel("New price of KIT-YARD").fill("289");
  await page.getByLabel("New price of HIVE-N").fill("-1");
  await page.getByRole("button", { name: "Change 4 prices" }).click();
  await expect(page.getByText("The price cannot be below zero.")).toBeVisible();
  await page.getByLabel("New price of HIVE-N").fill("198");
  await page.getByLabel("Reprice HIVE-C").press("Space");
  await page.getByRole("button", { name: "Change 3 prices" }).click();
  await expect(answer(page)).toHaveText("1 product or kit makes less than 25 %.");
  await page.goto("/catalog/41");
  await expect(page.getByRole("definition").filter({ hasText: "€289.00" })).toBeVisible();
});
