import { expect, test } from "./site.ts";
import { answer, cells, check, pick } from "./steps.ts";

test("from a question to a finished build on the shelf, with what it cost", async ({ page }) => {
  await page.goto("/check");
  await expect(page.getByText("Brackenmere Bee Supply")).toBeVisible();

  // The worked figures of docs/rules.md § 3, and they follow while typing.
  await check(page, "FEED-12", "40");
  await expect(answer(page)).toContainText("22 of 40 can be made now. Feed label runs out first. All 40 by ");
  await expect(answer(page)).toContainText(
    "if you order 200 L of Sugar syrup and 500 pc of Feed label today.",
  );
  await expect(page.getByText("Takes 60 min of bench work.")).toBeVisible();
  expect(await cells(page, "Parts", "LBL-F")).toEqual([
    "Feed label LBL-F · 06-A",
    "for 22 of 40",
    "42 pc",
    "24 pc",
    "–",
    "24 pc",
    "–",
    "18 pc",
    "–",
    expect.stringContaining("Petal & Pane Packaging"),
    // The button that opens the row.
    "",
  ]);
  expect((await cells(page, "Parts", "SYR-72")).slice(1, 8)).toEqual([
    "for 24 of 40",
    "499.800 L",
    "325.000 L 25 L expired",
    "–",
    "300.000 L",
    "–",
    "199.800 L",
  ]);
  expect((await cells(page, "Parts", "SHEET-S"))[1]).toBe("no limit");
  await expect(page.getByRole("img", { name: "for 22 of 40" })).toBeVisible();
  await page.getByLabel("How many").fill("20");
  await expect(answer(page)).toHaveText("All 20 can be made now. Up to 22, then Feed label runs out.");
  await expect(page.getByRole("button", { name: "Build 24 (3 batches)" })).toBeVisible();
  await page.getByRole("textbox", { name: "Wanted on" }).fill("+3");

  // One press makes the build; queueing reserves its parts, and the next check sees less.
  await page.getByRole("button", { name: "Build all 20" }).click();
  await expect(answer(page)).toHaveText("20 × Autumn feed 12.5 L");
  await expect(page.getByText("in 3 days")).toBeVisible();
  await page.getByRole("button", { name: "Queue build" }).click();
  await expect(page.getByRole("button", { name: "Finish 20" })).toBeVisible();
  const build = page.url();
  await check(page, "FEED-12", "20");
  await expect(answer(page)).toContainText("2 of 20 can be made now. Feed label runs out first.");
  expect((await cells(page, "Parts", "LBL-F")).slice(2, 8)).toEqual([
    "21 pc",
    "24 pc",
    "21 pc",
    "3 pc",
    "–",
    "18 pc",
  ]);
  await page.getByRole("button", { name: "Feed label: reserved for whom" }).click();
  await expect(page.getByRole("table", { name: "Reserved for" })).toContainText("B-8");
  await page.keyboard.press("Escape");

  // The worked figures of § 5: 20 worked, 19 good, more syrup than planned.
  await page.goto(build);
  await page.getByLabel("Used of SYR-72").fill("251.4");
  await page.getByLabel("Good", { exact: true }).fill("19");
  await page.getByLabel("Rejected", { exact: true }).fill("1");
  await page.getByLabel("Why rejected").fill("canister split");
  await page.getByLabel("Lot").fill("AF-02");
  await page.getByRole("textbox", { name: "Use by" }).fill("+300");
  await expect(page.getByText("€411.76 · €21.6716 each for 19")).toBeVisible();
  expect(await cells(page, "Parts used", "SYR-72")).toEqual([
    "Sugar syrup SYR-72 · from lot HS-118",
    "249.900 L",
    "300.000 L",
    "Used of SYR-72 L",
    "+1.500 L +€2.025",
    "€339.39",
    "",
  ]);
  await page.getByRole("button", { name: "Finish 19" }).click();

  await expect(page.getByRole("heading", { name: "19 pc finished for €411.76" })).toBeVisible();
  await expect(page.getByText("21.6716 each for 19")).toBeVisible();
  await expect(page.getByText("1 rejected: canister split")).toBeVisible();
  const sheet = page.getByRole("table", { name: "Cost sheet by part" });
  await expect(sheet.getByRole("row").filter({ hasText: "THY-O" })).toContainText("€8.80");
  await expect(sheet.getByRole("row").filter({ hasText: "CAN-12" })).toContainText("€42.00");
  await expect(sheet.getByRole("row").filter({ hasText: "LBL-F" })).toContainText("€2.52");
  await expect(sheet.getByRole("row").filter({ hasText: "LAB-B" })).toContainText("€16.00");
  expect(await cells(page, "Cost sheet by part", "SYR-72")).toEqual([
    "Sugar syrup SYR-72",
    "249.900 L",
    "251.400 L",
    "+1.500 L +€2.025",
    "€339.39",
  ]);
  const kinds = ["Parts", "Work", "Overhead"];
  const byKind = await Promise.all(kinds.map((kind) => cells(page, "Cost sheet by kind", kind)));
  expect(byKind.map((row) => row.join(" "))).toEqual([
    "Parts €390.74 +€2.025 €392.76",
    "Work €16.00 – €16.00",
    "Overhead €3.00 – €3.00",
  ]);

  // The product is in stock with its cost, the parts have left, and the ledger says who and why.
  await page.getByRole("link", { name: "movements" }).click();
  await expect(page.getByText("6 movements, latest first.")).toBeVisible();
  expect((await cells(page, "Movements", "FEED-12")).slice(2, 7)).toEqual([
    "+19 pc",
    "build B-8",
    "Front store 04-C",
    "€411.76",
    "B-8 canister split",
  ]);
  await page.getByRole("link", { name: "Autumn feed 12.5 L" }).first().click();
  await expect(page.getByRole("table", { name: "Locations" })).toContainText("AF-02");
  await expect(
    page
      .getByRole("definition")
      .filter({ hasText: /^27 pc$/ })
      .first(),
  ).toBeVisible();
});

test("a build refused for want of parts, finished as far as it goes, the rest kept", async ({ page }) => {
  await page.goto("/check");
  await check(page, "FEED-12", "40");
  await page.getByRole("button", { name: "Build all 40" }).click();
  await page.getByRole("button", { name: "Queue build" }).click();
  await expect(page.getByText(/Waiting for/)).toContainText("Sugar syrup and Feed label");
  await expect(page.getByText("Sugar syrup: 499.8 needed, 300 on record, 199.8 L short")).toBeVisible();
  await expect(page.getByText("Feed label: 42 needed, 24 on record, 18 pc short")).toBeVisible();
  await page.getByLabel("Lot").fill("AF-03");

  // Refused: nothing is recorded, what was typed stays.
  await page.getByRole("button", { name: "Finish 40" }).click();
  await expect(page.getByText("At most 22 pc can be finished.")).toBeVisible();
  await expect(page.getByLabel("Lot")).toHaveValue("AF-03");
  await expect(page.getByRole("heading", { name: /finished for/ })).toHaveCount(0);

  await page.getByRole("button", { name: "Finish 22 instead" }).click();
  await page.getByRole("button", { name: "Finish 22", exact: true }).click();
  await expect(page.getByRole("heading", { name: /^22 pc finished for €/ })).toBeVisible();
  await expect(page.getByText("22 of 40 pc")).toBeVisible();
  await expect(page.getByLabel("Good", { exact: true })).toHaveValue("18");
  // 42 labels for 40; 24 are used, so 18 are still reserved and none is free
  await page.goto("/check?want=38%3B1");
  await expect(answer(page)).toContainText("None of 1 can be made now.");
  expect((await cells(page, "Parts", "LBL-F")).slice(2, 8)).toEqual([
    "2 pc",
    "0 pc",
    "18 pc",
    "-18 pc",
    "–",
    "20 pc",
  ]);
});

test("a draft changed, then cancelled; its parts are free again", async ({ page }) => {
  await page.goto("/builds/5");
  await expect(answer(page)).toHaveText("3 × Complete hive");
  await page.getByRole("button", { name: "More actions for B-5" }).click();
  await page.getByRole("menuitem", { name: "Cancel the build …" }).click();
  await expect(page.getByText("The 5 parts reserved for it become free.")).toBeVisible();
  await page.getByRole("button", { name: "Cancel B-5" }).click();
  await expect(page.getByText("B-5 cancelled.")).toBeVisible();
  await check(page, "HIVE-N", "20");
  await expect(answer(page)).toContainText("17 of 20 can be made now. Mesh floor runs out first.");
  await page.getByRole("button", { name: "Build 17 now" }).click();
  await page.getByRole("button", { name: "Change", exact: true }).click();
  await page.getByRole("dialog").getByLabel("How many").fill("16.5");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("A quantity in pc is a whole number.")).toBeVisible();
  await page.getByRole("dialog").getByLabel("How many").fill("16");
  await page.getByRole("dialog").getByLabel("Note").fill("for Millrow");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(answer(page)).toHaveText("16 × Complete hive");
  await expect(page.getByText("for Millrow")).toBeVisible();
});

test("the check refuses what it cannot figure, and says why an item cannot be chosen", async ({ page }) => {
  await page.goto("/check");
  const product = page.getByRole("combobox", { name: "Product" });
  await product.fill("EXT-2");
  await expect(page.getByRole("option", { name: /^EXT-2 / })).toBeDisabled();
  await expect(page.getByRole("option", { name: /^EXT-2R/ })).toContainText("EXT-2R has no parts list yet.");
  await product.fill("BOX-D");
  await product.press("Tab");
  await expect(page.getByText("BOX-D is bought: choose a product or a kit.")).toBeVisible();
  await pick(product, "FEED-12");
  const quantity = page.getByLabel("How many");
  for (const [typed, message] of [
    ["ten", "“ten” is not a number. Write it like 12.5."],
    ["-4", "The quantity must be more than zero."],
    ["2.5", "A quantity in pc is a whole number."],
  ] as const) {
    await quantity.fill(typed);
    await expect(page.getByText(message)).toBeVisible();
    await expect(quantity).toHaveValue(typed);
  }
  await quantity.fill("1,000");
  await expect(answer(page)).toContainText("22 of 1,000 can be made now.");
});
