import { expect, test } from "./site.ts";
import { answer, beginOrder, cells, pick } from "./steps.ts";

test("one unit with a price of its own is offered at it, and asked for by its number", async ({ page }) => {
  await page.goto("/catalog");
  await expect(page.getByRole("table", { name: "Items" })).toBeVisible();
  const scan = page.getByLabel("Scan or search by code, number or name");
  await scan.fill("SCL-E");
  await scan.press("Enter");
  await page.getByRole("button", { name: "Price of SC-2042" }).click();
  await page.getByRole("dialog").getByLabel("Price of this unit").fill("49.5");
  await page.getByRole("dialog").getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Price saved.")).toBeVisible();
  await expect.poll(() => cells(page, "Locations", "SC-2042")).toContain("€49.50 Change");

  const order = await beginOrder(page, "Upper Fell Apiaries", 4);
  await pick(order.getByRole("combobox", { name: "Item 1", exact: true }), "SCL-E");
  await order.getByLabel("Quantity 1", { exact: true }).fill("2");
  const serials = order.getByRole("group", { name: "Serial numbers of line 1" });
  await serials.getByRole("button", { name: "Take SC-2042 at €49.50" }).click();
  await expect(order.getByLabel("Quantity 1", { exact: true })).toHaveValue("1");
  await expect(order.getByRole("group", { name: "Figures of line 1" })).toContainText("€49.50");
  // A number that is not in stock is refused at its field, and what was typed stays.
  await serials.getByLabel("Serial 1").fill("SC-9999");
  await order.getByRole("button", { name: "Create order" }).click();
  await expect(order.getByText("Serial SC-9999 is not in stock.")).toBeVisible();
  await serials.getByLabel("Serial 1").fill("SC-2042");
  await order.getByRole("button", { name: "Create order" }).click();
  await expect(page.getByText("O-4 created. Stock is reserved.")).toBeVisible();
  await expect(answer(page)).toHaveText("Upper Fell Apiaries");
  expect((await cells(page, "Lines", "SCL-E"))[0]).toContain("serial SC-2042");
});

test("an order is offered to follow its build, to the day and to what it gives", async ({ page }) => {
  const order = await beginOrder(page, "Upper Fell Apiaries", 9);
  await pick(order.getByRole("combobox", { name: "Item 1", exact: true }), "HIVE-N");
  await order.getByLabel("Quantity 1", { exact: true }).fill("6");
  await order.getByRole("button", { name: "Create order" }).click();
  await expect(page.getByText("To build: B-8.")).toBeVisible();
  await page.getByRole("link", { name: "B-8" }).first().click();
  await page.getByRole("button", { name: "Change", exact: true }).click();
  const plan = page.getByRole("dialog");
  await plan.getByRole("textbox", { name: "Due on" }).fill("+12");
  await plan.getByLabel("How many").fill("4");
  await plan.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("is wanted on 2 Dec, before B-8 is due.")).toBeVisible();
  await page.getByRole("button", { name: "Move O-4 to 5 Dec" }).click();
  await expect(page.getByText("O-4 changed.")).toBeVisible();
  await page.getByRole("button", { name: "Change O-4 to 4 pc" }).click();
  await expect(page.getByRole("button", { name: /O-4 to/ })).toHaveCount(0);
  await page.goto("/orders/4");
  await expect(answer(page)).toHaveText("Upper Fell Apiaries");
  expect((await cells(page, "Lines", "HIVE-N"))[1]).toBe("4 pc");
});
