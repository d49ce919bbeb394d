import type { Page } from "@playwright/test";
import { scrollsSideways, smallTargets } from "./room.ts";
import { expect, test } from "./site.ts";
import { holdAnswers, packOrder, scan } from "./steps.ts";

const said = (page: Page) => page.getByRole("status").filter({ hasText: /\S/ });

test("a bin is counted by scans on a handheld, posted with what differs, and undone", async ({ page }) => {
  await page.setViewportSize({ width: 360, height: 740 });
  await page.goto("/stock/counts");
  await page.getByRole("button", { name: "New count" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Bins").fill("02-A, 99-Z");
  await dialog.getByLabel("Last count older than (days)").fill("abc");
  await dialog.getByRole("button", { name: "Create count sheet" }).click();
  await expect(dialog.getByText("The number of days is a whole number.")).toBeVisible();
  await dialog.getByLabel("Last count older than (days)").fill("");
  // The button moves up as the message goes.
  await expect(dialog.getByText("The number of days is a whole number.")).toBeHidden();
  await dialog.getByRole("button", { name: "Create count sheet" }).click();
  await expect(dialog.getByText("Front store has no bin 99-Z.")).toBeVisible();
  await dialog.getByLabel("Bins").fill("02-a, 02-b");
  await dialog.getByRole("button", { name: "Create count sheet" }).click();
  await expect(page.getByRole("heading", { name: "0 of 2 lines counted." })).toBeVisible();
  expect(await scrollsSideways(page)).toEqual([]);
  expect(await smallTargets(page)).toEqual([]);
  await scan(page, "02-B");
  await expect(said(page).first()).toContainText("Bin 02-B: 1 line");
  await scan(page, "HTL-J");
  await expect(said(page).first()).toContainText("HTL-J is not on the sheet for Front store 02-B.");
  await scan(page, "FRM-A");
  await expect(said(page).first()).toContainText("FRM-A: how many?");
  const field = page.getByRole("textbox", { name: "Counted FRM-A" });
  await expect(field).toBeFocused();
  await field.fill("364");
  await field.press("Enter");
  await expect(
    page.getByRole("heading", { name: /^1 of 2 lines counted\. 1 differs: €8\.27 missing\.$/ }),
  ).toBeVisible();
  await page.getByRole("button", { name: "Post the count" }).click();
  const asked = page.getByRole("alertdialog");
  await expect(asked).toContainText("1 line is still to be counted and stays as it is.");
  await asked.getByRole("button", { name: "Correct the stock" }).click();
  await expect(page.getByText("C-1 posted: 1 line of stock corrected.")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("This count was undone: the stock is as it was before it.")).toBeVisible();
});

test("stock is moved by scans, scrapped by pasted rows, and each undone", async ({ page }) => {
  // What is scanned before the stores are known is a bin all the same, once they are.
  const arrive = await holdAnswers(page, "**/api/stores");
  await page.goto("/stock/book");
  await expect(page.getByRole("heading", { name: "Move stock" })).toBeVisible();
  await scan(page, "02-B");
  arrive();
  await expect(said(page).first()).toContainText("From Front store 02-B: 1 item there");
  await page.reload();
  await expect(page.getByRole("heading", { name: "Move stock" })).toBeVisible();
  await scan(page, "HTL-J");
  await expect(said(page).first()).toContainText("HTL-J isn't a bin. Scan the bin it is in first.");
  await scan(page, "02-B");
  await expect(said(page).first()).toContainText("From Front store 02-B: 1 item there");
  await scan(page, "FRM-A");
  await scan(page, "12");
  await expect(page.getByLabel("Quantity 1")).toHaveValue("12");
  await scan(page, "05-A");
  await expect(said(page).first()).toContainText("1 line to Front store 05-A");
  await page.getByRole("button", { name: "Move", exact: true }).click();
  await expect(page.getByText("1 line moved as M-1.")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("M-1 undone.")).toBeVisible();
  await page.goto("/stock/book?do=scrap");
  await page.getByLabel("Item 1").focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData("text/plain", "FRM-A\t2\tFront store 02-B\nNO-SUCH\t1\t02-B\nFRM-A\t1000\t02-B");
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(page.getByText("Not in the catalog, skipped: NO-SUCH.")).toBeVisible();
  await expect(page.getByLabel("Quantity 2")).toHaveValue("1000");
  await page.getByLabel("Reason").fill("crushed");
  await page.getByRole("button", { name: "Scrap", exact: true }).click();
  await expect(page.getByText(/^Only 36[0-9] pc of FRM-A are in Front store 02-B\.$/)).toBeVisible();
  await page.getByLabel("Quantity 2").fill("1");
  await page.getByRole("button", { name: "Scrap", exact: true }).click();
  await expect(page.getByText(/^Scrapped as X-1: €12\.40 lost\.$/)).toBeVisible();
  await page.goto("/stock?document=X-1");
  await page.getByRole("button", { name: "Undo X-1" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("button", { name: "Undo X-1" })).toHaveCount(0);
});

test("packed goods are checked by scan before they leave", async ({ page }) => {
  await page.setViewportSize({ width: 360, height: 740 });
  const order = await packOrder(page, "O-3");
  await page.goto(`/orders/${order}`);
  await page.getByRole("button", { name: "Check packing" }).click();
  await expect(page.getByRole("heading", { name: "Packed for O-3" })).toBeVisible();
  expect(await scrollsSideways(page)).toEqual([]);
  await scan(page, "EXT-2");
  await expect(said(page).first()).toContainText("EXT-2 is not packed for this order.");
  const { packed } = await (await page.request.get(`/api/orders/${order}/packed`)).json();
  for (const { item } of packed) {
    await scan(page, item.code);
    await scan(page, "ALL");
  }
  await expect(page.getByText(/^Checked by Ines, /)).toBeVisible();
});

test("parts are handed out for so many, with a slip, and undone singly", async ({ page }) => {
  await page.goto("/builds");
  await page
    .getByRole("link", { name: /Honey 454 g/ })
    .first()
    .click();
  await page.getByLabel("For how many").fill("100");
  await page.getByLabel("Note").first().fill("the first crate");
  await page.getByRole("button", { name: /^Hand out / }).click();
  const table = page.getByRole("table", { name: "Handed out" });
  await expect(table).toContainText("the first crate");
  await expect(table).toContainText("for 100 pc");
  await expect(table.getByRole("link", { name: "Slip", exact: true })).toHaveAttribute(
    "href",
    /slip\?format=pdf$/,
  );
  await table.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Undo" }).click();
  await expect(table).toContainText("undone");
});

test("a bin is renamed, with its stock, and its label waits in the tray", async ({ page }) => {
  await page.goto("/settings");
  await page.getByRole("button", { name: "Change Front store" }).click();
  await page.getByRole("button", { name: "Rename bin 02-B" }).click();
  await page.getByLabel("New name").fill("02-X");
  await page.getByRole("button", { name: "Rename", exact: true }).click();
  await expect(page.getByText("Bin 02-B is 02-X now; its stock was moved as M-1.")).toBeVisible();
  await page.getByRole("button", { name: "Labels for all" }).click();
  await expect(page.getByText(/labels of bins added to the tray\.$/)).toBeVisible();
  await page.goto("/labels");
  await expect(page.getByRole("img", { name: "Code 128 of 02-X" })).toBeVisible();
});
