import { expect, test } from "./site.ts";
import { answer, cells, pick, pickFirm } from "./steps.ts";

test("an order, from its customer to the units that are built for it, without typing them again", async ({
  page,
}) => {
  await page.goto("/orders");
  await expect(page.getByText("Select an order.")).toBeVisible();
  await page.keyboard.press("n");
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Create order" }).click();
  await expect(dialog.getByText("An order has at least one line.")).toBeVisible();
  await pickFirm(dialog.getByRole("combobox", { name: "Customer" }), "Millrow Garden Centre");
  await dialog.getByRole("textbox", { name: "Due on" }).fill("+9");
  await pick(dialog.getByRole("combobox", { name: "Item 1" }), "FEED-12");
  await dialog.getByLabel("Quantity 1").fill("20.5");
  await dialog.getByRole("button", { name: "Add line" }).click();
  await pick(dialog.getByRole("combobox", { name: "Item 2" }), "KIT-YARD");
  await dialog.getByLabel("Quantity 2").fill("4");
  await dialog.getByLabel("Price 2").fill("229");
  await dialog.getByRole("button", { name: "Create order" }).click();
  await expect(dialog.getByText("A quantity in pc is a whole number.")).toBeVisible();
  await dialog.getByLabel("Quantity 1").fill("20");
  await dialog.getByRole("button", { name: "Create order" }).click();
  await expect(page.getByText("O-4 created. Stock is reserved. To build: B-8.")).toBeVisible();

  // 8 of the feed are there, the other 12 are a draft at once; the hives of the set go to O-2, which is due before.
  await expect(answer(page)).toHaveText("Millrow Garden Centre");
  expect(await cells(page, "Lines", "FEED-12")).toEqual([
    "Autumn feed 12.5 L FEED-12",
    "20 pc",
    "can leave 24 Nov",
    "8 pc",
    "– B-8 draft",
    "12 pc 12 pc on drafts",
    "€34.00",
    "€680.00",
  ]);
  expect((await cells(page, "Lines", "HIVE-N")).slice(1, 6)).toEqual([
    "4 pc",
    "",
    "–",
    "–",
    "4 pc Record build",
  ]);
  expect((await cells(page, "Lines", "SUIT-M")).slice(1, 6)).toEqual(["4 pc", "", "4 pc", "–", "–"]);
  await expect(page.getByRole("img", { name: "8 of 20 ready", exact: true })).toBeVisible();
  await expect(page.getByText("€1,596.00")).toHaveCount(2);

  await page.getByRole("button", { name: "Check the parts first" }).click();
  await expect(page.getByRole("combobox", { name: "Product", exact: true })).toHaveValue(/^HIVE-N/);
  await page.goBack();
  await page.getByRole("button", { name: "Build the missing 4" }).click();
  await expect(page.getByText("B-9 created for O-4.")).toBeVisible();
  await page.getByRole("definition").getByRole("link", { name: "O-4" }).click();
  await expect(answer(page)).toHaveText("Millrow Garden Centre");
  await expect(page.getByRole("button", { name: "Build the missing 4" })).toHaveCount(0);

  // The build says for whom it is; once it is finished, the order has all.
  await page.getByRole("link", { name: "B-8" }).click();
  await expect(page.getByRole("definition").filter({ hasText: "O-4 Millrow Garden Centre" })).toBeVisible();
  await page.getByRole("button", { name: "Queue build" }).click();
  await page.getByRole("button", { name: "Finish 12" }).click();
  await expect(page.getByRole("heading", { name: /12 pc finished/ })).toBeVisible();
  await page.getByRole("definition").getByRole("link", { name: "O-4" }).click();
  await expect(answer(page)).toHaveText("Millrow Garden Centre");
  await expect
    .poll(async () => (await cells(page, "Lines", "FEED-12")).slice(3, 6))
    .toEqual(["20 pc", "– B-8 finished", "–"]);
});

test("a build is linked to an order later, and unlinked; a cancelled order lets go of it", async ({
  page,
}) => {
  await page.goto("/check");
  const scan = page.getByLabel("Scan or search by code, number or name");
  await scan.fill("o-2");
  await scan.press("Enter");
  await expect(answer(page)).toHaveText("Tarnholt Bee Club");
  expect((await cells(page, "Lines", "HIVE-N")).slice(3, 6)).toEqual([
    "2 pc",
    "3 pc B-5 queued",
    "3 pc Record build",
  ]);
  await page.getByRole("link", { name: "B-5" }).click();
  await page.getByRole("button", { name: "Unlink O-2" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Unlink" }).click();
  await expect(page.getByRole("button", { name: "Unlink O-2" })).toHaveCount(0);

  await page.getByRole("button", { name: "More actions for B-5" }).click();
  await page.getByRole("menuitem", { name: "Link an order …" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: /Order/ }).click();
  await page.getByRole("option", { name: /^O-2 · Tarnholt Bee Club · 8 pc/ }).click();
  await dialog.getByLabel("Quantity").fill("4");
  await dialog.getByRole("button", { name: "Link it" }).click();
  await expect(dialog.getByText("Up to 3 pc can be linked.")).toBeVisible();
  await dialog.getByLabel("Quantity").fill("2");
  await dialog.getByRole("button", { name: "Link it" }).click();
  await expect(page.getByText("B-5 linked.")).toBeVisible();

  await page.getByRole("definition").getByRole("link", { name: "O-2" }).click();
  await expect(answer(page)).toHaveText("Tarnholt Bee Club");
  await expect
    .poll(async () => (await cells(page, "Lines", "HIVE-N")).slice(3, 6))
    // Two are linked; the third one is built for nobody else, so it comes too.
    .toEqual(["2 pc", "3 pc B-5 queued", "3 pc Record build"]);
  await page.keyboard.press("e");
  await dialog.getByRole("button", { name: "Remove line 1" }).click();
  await dialog.getByRole("button", { name: "Add line" }).click();
  await pick(dialog.getByRole("combobox", { name: "Item 1" }), "KIT-CARE");
  await dialog.getByLabel("Quantity 1").fill("1");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog.getByText("B-5 is linked to this line. Unlink it there first.")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "More actions for O-2" }).click();
  await page.getByRole("menuitem", { name: "Cancel order" }).click();
  await expect(dialog.getByText("B-5 will go into stock instead.")).toBeVisible();
  await dialog.getByRole("button", { name: "Cancel O-2" }).click();
  await expect(page.getByText("O-2 cancelled. Its stock is released.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Change", exact: true })).toHaveCount(0);
  await page.goto("/catalog?search=HIVE-N");
  await page.getByRole("row").filter({ hasText: "HIVE-N" }).click();
  await expect(
    page
      .getByRole("definition")
      .filter({ hasText: /^2 pc$/ })
      .first(),
  ).toBeVisible();
});

test("while an order is typed, what it comes to, its margin, what is free and the last price stand beside it", async ({
  page,
}) => {
  await page.goto("/orders");
  const dialog = page.getByRole("dialog");
  const figures = (line: number) => dialog.getByRole("group", { name: `Figures of line ${line}` });
  const total = dialog.getByRole("group", { name: "Total" });
  await expect(page.getByText("Select an order.")).toBeVisible();
  await page.keyboard.press("n");
  await pickFirm(dialog.getByRole("combobox", { name: "Customer" }), "Millrow Garden Centre");
  await pick(dialog.getByRole("combobox", { name: "Item 1" }), "KIT-YARD");
  await dialog.getByLabel("Quantity 1").fill("1");
  await expect(figures(1)).toContainText("€239.00");
  await expect(figures(1)).toContainText("margin €24.40 (10.2 %) · 0 pc free");
  await dialog.getByRole("button", { name: "Add line" }).click();
  await pick(dialog.getByRole("combobox", { name: "Item 2" }), "SMK-S");
  // A line without a quantity has no figures yet; the other one keeps its own.
  await expect(figures(2)).toBeEmpty();
  await expect(total).toContainText("Total €239.00");
  await dialog.getByLabel("Quantity 2").fill("1.5");
  await expect(dialog.getByText("No total yet: check line 2.")).toBeVisible();
  await dialog.getByLabel("Quantity 2").fill("3");
  await dialog.getByLabel("Discount 2").fill("12.5");
  await expect(figures(2)).toContainText("€73.24");
  await expect(figures(2)).toContainText("free");
  await expect(total).toContainText("Total €312.24");
  await dialog.getByLabel("Discount 2").fill("101");
  await dialog.getByRole("button", { name: "Create order" }).click();
  await expect(dialog.getByText("A discount is 100 % at most.")).toBeVisible();
  await dialog.getByLabel("Discount 2").fill("12.5");
  await dialog.getByRole("button", { name: "Create order" }).click();
  await expect(page.getByText("O-4 created. Stock is reserved.")).toBeVisible();
  expect((await cells(page, "Lines", "SMK-S")).slice(-2)).toEqual(["€27.90 less 12.5 %", "€73.24"]);

  // The same once more, at today's prices: the discount stays, the day and the reference are new.
  await page.getByRole("button", { name: "Copy", exact: true }).click();
  await expect(dialog.getByRole("heading", { name: "New order, copied from O-4" })).toBeVisible();
  await expect(dialog.getByLabel("Quantity 2")).toHaveValue("3");
  await expect(figures(1)).toContainText("last €239.00 on O-4");
  await expect(figures(2)).toContainText("last €27.90 less 12.5 % on O-4");
  await dialog.getByLabel("Discount 2").fill("");
  await expect(total).toContainText("Total €322.70");
  await dialog.getByRole("button", { name: "Create order" }).click();
  await expect(page.getByText("O-5 created. Stock is reserved.")).toBeVisible();
  await expect(page.getByText("€322.70").first()).toBeVisible();
});

test.describe("from an empty database", () => {
  test.use({ database: "empty" });
  test("the first customer is made within the first order", async ({ page }) => {
    await page.goto("/check");
    await page.getByLabel("Company").fill("Brackenmere Bee Supply");
    await page.getByLabel("Your name").fill("Ines");
    await page.getByLabel("Time zone").fill("Europe/Vienna");
    await page.getByRole("button", { name: "Get started" }).click();
    await page.getByRole("link", { name: "Orders" }).click();
    await expect(answer(page)).toHaveText("No orders yet");
    await page.getByRole("button", { name: "Create your first order" }).click();
    const order = page.getByRole("dialog", { name: "New order" });
    await order.getByRole("combobox", { name: "Customer" }).fill("Tarnholt Bee Club");
    await page.getByRole("option", { name: "Create customer Tarnholt Bee Club" }).click();
    const customer = page.getByRole("dialog", { name: "New customer" });
    await expect(customer.getByLabel("Name")).toHaveValue("Tarnholt Bee Club");
    await customer.getByLabel("Code").fill("TARN");
    await customer.getByRole("button", { name: "Add customer" }).click();
    await expect(order.getByRole("combobox", { name: "Customer" })).toHaveValue("Tarnholt Bee Club");
  });
});
