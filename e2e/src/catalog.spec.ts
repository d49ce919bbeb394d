import { expect, test } from "./site.ts";
import { answer, cells, pick } from "./steps.ts";

test("a new product and its parts list, written by keyboard while its cost adds up", async ({ page }) => {
  await page.goto("/catalog");
  await expect(page.getByText("44 items", { exact: true })).toBeVisible();
  await page.keyboard.press("n");
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Code", { exact: true }).fill("frm-a");
  await dialog.getByLabel("Name").fill("Frame pack");
  await dialog.getByLabel("Standard cost").fill("-1");
  await dialog.getByRole("button", { name: "Create item" }).click();
  await expect(dialog.getByText("The cost cannot be below zero.")).toBeVisible();
  await dialog.getByLabel("Standard cost").fill("");
  await dialog.getByLabel("Price").fill("62.00");
  await dialog.getByRole("button", { name: "Create item" }).click();
  await expect(dialog.getByText("FRM-A is already in the catalog.")).toBeVisible();
  await expect(dialog.getByLabel("Name")).toHaveValue("Frame pack");
  await dialog.getByLabel("Code", { exact: true }).fill("PACK-10");
  await dialog.getByRole("button", { name: "Kind" }).click();
  await page.getByRole("option", { name: "Built here" }).click();
  await dialog.getByRole("button", { name: "Create item" }).click();
  await expect(answer(page)).toHaveText("Frame pack");
  await page.getByRole("button", { name: "Create the parts list" }).click();

  // Code, Tab, quantity, Enter; code, Tab, quantity …
  await expect(page.getByRole("combobox", { name: "Part 1" })).toBeFocused();
  await page.keyboard.type("FRM-A");
  await page.keyboard.press("Tab");
  await expect(page.getByRole("combobox", { name: "Part 1" })).toHaveValue("FRM-A · Assembled frame");
  await expect(page.getByLabel("Quantity of part 1")).toBeFocused();
  await page.keyboard.type("10");
  await expect(page.getByText("€41.3415", { exact: true })).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("combobox", { name: "Part 2" })).toBeFocused();
  await page.keyboard.type("lab-b");
  await page.keyboard.press("Tab");
  await expect(page.getByLabel("Quantity of part 2")).toBeFocused();
  await page.keyboard.type("3");
  // 3 minutes at 32.00 an hour are 1.60
  await expect(page.getByText("€42.9415", { exact: true })).toBeVisible();
  await expect(page.getByLabel("Margin in money")).toHaveValue("19.06");
  await expect(page.getByLabel("Margin in percent")).toHaveValue("30.7");

  // What cannot be a part says so, and nothing typed is lost.
  await page.keyboard.press("Enter");
  await page.keyboard.type("pack-10");
  await page.keyboard.press("Tab");
  await expect(page.getByText("PACK-10 can't be a part of itself.")).toBeVisible();
  await page.getByRole("combobox", { name: "Part 3" }).fill("");
  await page.getByLabel("Quantity of part 1").fill("2.5");
  await page.getByRole("button", { name: "Save list" }).click();
  await expect(page.getByText("A quantity in pc is a whole number.")).toBeVisible();
  await page.getByLabel("Quantity of part 1").fill("10");
  await page.getByRole("button", { name: "Save list" }).click();
  await expect(page.getByText("Expected to cost €42.9415 per pc")).toBeVisible();
  expect((await cells(page, "Parts list", "LAB-B")).slice(1)).toEqual(["3 min", "–", "€32.00 / hour", "–"]);
  await page.getByRole("button", { name: "Check", exact: true }).click();
  await page.getByLabel("How many").fill("31");
  await expect(answer(page)).toContainText("30 of 31 can be made now. Assembled frame runs out first.");
});

test("a part that is missing is made on the spot", async ({ page }) => {
  await page.goto("/catalog/37/parts-list");
  const part = page.getByRole("combobox", { name: "Part 4" });
  await part.click();
  await part.pressSequentially("STRAP-1");
  await page.getByRole("option", { name: "Create item STRAP-1" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByLabel("Code", { exact: true })).toHaveValue("STRAP-1");
  await dialog.getByLabel("Name").fill("Ratchet strap");
  await dialog.getByLabel("Standard cost").fill("2.40");
  await dialog.getByRole("button", { name: "Create item" }).click();
  await expect(part).toHaveValue("STRAP-1 · Ratchet strap");
  await page.getByLabel("Quantity of part 4").fill("1");
  await page.getByRole("button", { name: "Save list" }).click();
  await expect(page.getByRole("table", { name: "Parts list" })).toContainText("Ratchet strap");
});

test("search as one types, sort, open, take stock in, and see it in the ledger", async ({ page }) => {
  await page.goto("/catalog");
  await page.getByLabel("Search", { exact: true }).fill("label");
  await expect(page.getByText("2 items", { exact: true })).toBeVisible();
  await expect(page).toHaveURL(/search=label/);
  await page.getByRole("button", { name: "Free" }).click();
  await expect(page.getByRole("row").nth(1)).toContainText("LBL-F");
  await page.getByRole("row").filter({ hasText: "LBL-F" }).click();
  await expect(answer(page)).toHaveText("Feed label");
  await page.getByRole("button", { name: "Receive stock" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Quantity").fill("many");
  await dialog.getByRole("button", { name: "Receive", exact: true }).click();
  await expect(dialog.getByText("“many” is not a number.")).toBeVisible();
  await dialog.getByLabel("Quantity").fill("500");
  await dialog.getByLabel("Unit cost").fill("0.10");
  await dialog.getByLabel("Note").fill("found in the yard");
  await dialog.getByRole("button", { name: "Receive", exact: true }).click();
  await expect(page.getByText("500 pc of LBL-F received as RC-3.")).toBeVisible();
  await expect(
    page
      .getByRole("definition")
      .filter({ hasText: /^524 pc$/ })
      .first(),
  ).toBeVisible();
  // 24 at 0.12 and 500 at 0.10
  await expect(page.getByRole("definition").filter({ hasText: "€52.88" })).toBeVisible();
  await page.getByRole("link", { name: "RC-3" }).click();
  await expect(page.getByText("1 movement, latest first.")).toBeVisible();
  expect((await cells(page, "Movements", "LBL-F")).slice(2, 7)).toEqual([
    "+500 pc",
    "outside",
    "Front store 06-A",
    "€50.00",
    "RC-3 found in the yard",
  ]);
  await page.goBack();
  await expect(answer(page)).toHaveText("Feed label");
});

test("a bin is counted: the stock follows, with who and why", async ({ page }) => {
  await page.goto("/catalog?search=CRN-B");
  await page.getByRole("link", { name: "CRN-B" }).click();
  await expect(answer(page)).toHaveText("Crown board");
  const locations = page.getByRole("table", { name: "Locations" });
  await locations.getByRole("button", { name: /^Count Front store/ }).click();
  await page.getByLabel("Counted", { exact: true }).fill("41");
  await page.keyboard.press("Control+Enter");
  await expect(page.getByText("Say what was found, or why.")).toBeVisible();
  await page.getByLabel("Reason").fill("Seven broken in the rack");
  await page.keyboard.press("Control+Enter");
  await expect(page.getByText("C-1: stock of CRN-B corrected by -7 pc.")).toBeVisible();
  await expect(locations.getByRole("row").nth(1)).toContainText("41 pc");
  const movements = page.getByRole("table", { name: "Last movements" });
  await expect(movements.getByRole("row").nth(1)).toContainText("C-1");
});

test("who is working goes on what is recorded", async ({ page }) => {
  await page.goto("/catalog/19");
  await page.getByRole("button", { name: "Signed in as Ines. Switch" }).click();
  await page.getByRole("menuitemradio", { name: "Maren" }).click();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Receive stock" }).click();
  await page.getByRole("dialog").getByLabel("Quantity").fill("1");
  await page.getByRole("dialog").getByRole("button", { name: "Receive", exact: true }).click();
  await expect(page.getByRole("table", { name: "Last movements" }).getByRole("row").nth(1)).toContainText(
    "Maren",
  );
});

test("the scan field goes where a code leads, and asks where it is not one place", async ({ page }) => {
  await page.goto("/stock");
  await expect(answer(page)).toHaveText("Stock ledger");
  const scan = page.getByLabel("Scan or search by code, number or name");
  await page.keyboard.press("/");
  await expect(scan).toBeFocused();
  await scan.pressSequentially("b-2");
  await scan.press("Enter");
  await expect(answer(page)).toHaveText("400 × Assembled frame");
  await scan.fill("HS-118");
  await scan.press("Enter");
  await expect(answer(page)).toHaveText("Lot HS-118");
  await scan.fill("hive");
  await scan.press("Enter");
  await page.getByRole("button", { name: /HIVE-C/ }).click();
  await expect(answer(page)).toHaveText("Hive with scale");
  await scan.fill("no such thing");
  await scan.press("Enter");
  await expect(page.getByText("No match for “no such thing”.")).toBeVisible();
  await scan.press("Escape");
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keyboard shortcuts" })).toContainText("Scan or search");
});

test("the ledger is filtered by item and by document", async ({ page }) => {
  await page.goto("/stock");
  await pick(page.getByRole("combobox", { name: "Item" }), "LBL-H");
  await expect(page.getByText("2 movements, latest first.")).toBeVisible();
  await page.getByLabel("Document").fill("b-3");
  await page.getByLabel("Document").press("Enter");
  await expect(page.getByText("1 movement, latest first.")).toBeVisible();
  expect((await cells(page, "Movements", "LBL-H")).slice(2, 6)).toEqual([
    "−60 pc",
    "Front store 06-B",
    "build B-3",
    "€7.20",
  ]);
  await page.getByRole("button", { name: "Clear filters" }).click();
  await expect(page.getByText("67 movements, latest first.")).toBeVisible();
});

test("an item is changed; what its history is told in stays", async ({ page }) => {
  await page.goto("/catalog/18");
  await page.getByRole("button", { name: "Change", exact: true }).click();
  const dialog = page.getByRole("dialog", { name: "Change CAN-12" });
  await expect(dialog.getByLabel("Code", { exact: true })).toHaveAttribute("readonly");
  await dialog.getByLabel("Name").fill("Canister, blue");
  await dialog.getByLabel("Price").fill("4.999");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog.getByText("An amount in EUR may have up to 2 decimals.")).toBeVisible();
  await dialog.getByLabel("Price").fill("4.90");
  await dialog.getByRole("button", { name: "Unit" }).click();
  await page.getByRole("option", { name: "kg · kilogram" }).click();
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(
    dialog.getByText("You can't change the unit of CAN-12: it has stock movements. Copy it to a new item"),
  ).toBeVisible();
  await dialog.getByRole("button", { name: "Unit" }).click();
  await page.getByRole("option", { name: "pc · piece" }).click();
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(answer(page)).toHaveText("Canister, blue");
  await expect(page.getByRole("definition").filter({ hasText: "€4.90" })).toBeVisible();
});

test("builds are filtered, and the filter stands in the address", async ({ page }) => {
  await page.goto("/builds");
  const list = page.getByRole("navigation", { name: "Builds", exact: true });
  await expect(list.getByRole("link")).toHaveCount(7);
  await expect(list.getByRole("heading")).toHaveText([
    "Overdue",
    "Due today",
    "Due later",
    "Finished",
    "Cancelled",
  ]);
  await page.getByLabel("Filter builds").fill("hon-4");
  await expect(list.getByRole("link")).toHaveCount(2);
  await list.getByRole("link").first().click();
  await expect(answer(page)).toHaveText("240 × Honey 454 g");
  await expect(page).toHaveURL(/search=hon-4/);
  await page.reload();
  await expect(list.getByRole("link")).toHaveCount(2);
  await page.getByLabel("Filter builds").fill("nothing");
  await expect(page.getByText("No builds match these filters.")).toBeVisible();
});
