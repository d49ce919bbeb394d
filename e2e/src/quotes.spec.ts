import { expect, test } from "./site.ts";
import { beginOrder, cells, pick, pickFirm } from "./steps.ts";

test("a quote at the prices of the customer's list becomes an order by one press", async ({ page }) => {
  // A price list of the customer, made on the page; the group's is there already.
  await page.goto("/price-lists");
  await expect(page.getByText("Select a price list.")).toBeVisible();
  await page.keyboard.press("n");
  const list = page.getByRole("dialog");
  await pickFirm(list.getByRole("combobox", { name: "Customer" }), "Ashgrove Farm Shop");
  await pick(list.getByRole("combobox", { name: "Item 1", exact: true }), "HTL-J");
  await list.getByLabel("From quantity 1", { exact: true }).fill("20");
  await list.getByLabel("Price 1", { exact: true }).fill("8.8");
  await list.getByRole("button", { name: "Create price list" }).click();
  await expect(page.getByRole("heading", { name: "Ashgrove Farm Shop" })).toBeVisible();
  expect(await cells(page, "Prices", "HTL-J")).toEqual(["Hive tool HTL-J", "20 pc", "€8.80"]);

  const dialog = await beginOrder(page, "Ashgrove Farm Shop", 4);
  await dialog.getByText("Quote", { exact: true }).click();
  await expect(dialog.getByRole("textbox", { name: "Valid until" })).toHaveValue("23 Dec");
  await dialog.getByRole("textbox", { name: "Valid until" }).fill("+3");
  await pick(dialog.getByRole("combobox", { name: "Item 1", exact: true }), "HTL-J");
  const quantity = dialog.getByLabel("Quantity 1", { exact: true });
  const figures = dialog.getByRole("group", { name: "Figures of line 1" });
  // 9.60 of its own, 9.20 for shops from 10 on, 8.80 for this one from 20 on.
  await quantity.fill("9");
  await expect(figures).toContainText("€86.40");
  await quantity.fill("10");
  await expect(figures).toContainText("€92.00");
  await expect(figures).toContainText("€9.20: group's price list, from 10 pc");
  await quantity.fill("20");
  await expect(figures).toContainText("€176.00");
  await expect(figures).toContainText("€8.80: customer's price list, from 20 pc");
  await expect(dialog.getByRole("group", { name: "Total" })).toContainText("plus 20 % tax €35.20: €211.20");
  await dialog.getByRole("button", { name: "Add text" }).click();
  await page.keyboard.type("Engraved with your mark.");
  await dialog.getByRole("button", { name: "Create quote" }).click();
  await expect(page.getByText("Quote Q-1 created. It reserves nothing.")).toBeVisible();
  await expect(page.getByText("Engraved with your mark.")).toBeVisible();
  await expect(page.getByText("quote, valid until 26 Nov").first()).toBeVisible();

  // It is changed as an order is, to a day that has passed; then ordering it asks once more.
  await page.keyboard.press("e");
  await expect(dialog.getByRole("heading", { name: "Change Q-1" })).toBeVisible();
  await dialog.getByRole("textbox", { name: "Valid until" }).fill("20 Nov 2026");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("quote, was valid until 20 Nov").first()).toBeVisible();
  await page.getByRole("button", { name: "Make it an order" }).click();
  await expect(page.getByText("Q-1 was valid until 2026-11-20.")).toBeVisible();
  await page.getByRole("button", { name: "Go on anyway" }).click();
  await expect(page.getByText("Order O-4 created. Stock is reserved.")).toBeVisible();
  await expect(page.getByText("From quote")).toBeVisible();
  await expect(page.getByRole("definition").getByText("€176.00")).toBeVisible();

  // The quote's number still leads to it.
  await page.goto("/catalog");
  const scan = page.getByLabel("Scan or search by code, number or name");
  await scan.fill("Q-1");
  await scan.press("Enter");
  await expect(page).toHaveURL(/\/orders\/4$/);
});

test("a message becomes an order: two of its lines are settled by a person, and known the next time", async ({
  page,
}) => {
  await beginOrder(page, "Tarnholt Bee Club", 9);
  const order = page.getByRole("dialog", { name: "New order" });
  const read = page.getByRole("dialog", { name: "From a message or list" });
  const take = async (text: string) => {
    await order.getByRole("button", { name: "Lines from a message or list" }).click();
    await read.getByRole("textbox").fill(text);
    await read.getByRole("button", { name: "Find the items" }).click();
  };
  await take(
    "Hello Ines,\nplease send 12 first-year sets, 3 with large suits\n5 big pliers for hives and 2 smokers",
  );
  await expect(read.getByRole("status")).toContainText("2 lines to settle.");
  await expect(read.getByRole("button", { name: "Add 2 lines" })).toBeDisabled();
  await read.getByRole("button", { name: "3 of the 12, with SUIT-L instead of SUIT-M" }).click();
  await pick(read.getByRole("combobox", { name: "Item 4", exact: true }), "HTL-J");
  await expect(read.getByRole("status")).toContainText("All lines are settled.");
  await read.getByRole("button", { name: "Add 4 lines" }).click();
  await expect(order.getByLabel("Quantity 1", { exact: true })).toHaveValue("9");
  await expect(order.getByLabel("Quantity 2", { exact: true })).toHaveValue("3");
  await expect(order.getByRole("group", { name: "Contents of line 2" })).toContainText("SUIT-L");
  // 9 and 3 sets at 239.00, 5 tools at 9.60, 2 smokers at 27.90.
  await expect(order.getByRole("group", { name: "Total" })).toContainText("Total €2,971.80");
  await order.getByRole("button", { name: "Create order" }).click();
  await expect(page.getByText("Order O-4 created.")).toBeVisible();

  await beginOrder(page, "Tarnholt Bee Club", 9);
  await take("7 big pliers for hives");
  await expect(read.getByRole("status")).toContainText("All lines are settled.");
  await expect(read.getByRole("combobox", { name: "Item 1", exact: true })).toHaveValue(/^HTL-J/);
});
