import type { Browser, Page } from "@playwright/test";
import { expect, test } from "./site.ts";
import { answer, cells, holdAnswers, pick, pickFirm, scan } from "./steps.ts";

/** Another person on another device. */
async function colleague(browser: Browser, address: string, path: string): Promise<Page> {
  const context = await browser.newContext({ baseURL: address });
  const page = await context.newPage();
  await page.addInitScript(() => localStorage.setItem("yosegi.person", "3"));
  await page.goto(path);
  return page;
}

test("from another device, by plain http, too", async ({ page, baseURL }) => {
  // A name of this machine that is no secure origin: what the browser keeps for those is missing.
  const address = (baseURL ?? "").replace("localhost", "shop.test");
  await page.goto(`${address}/catalog/18`);
  expect(await page.evaluate(() => [window.isSecureContext, typeof crypto.randomUUID])).toEqual([
    false,
    "undefined",
  ]);
  await page.getByRole("button", { name: "Receive stock" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Quantity").fill("10");
  await dialog.getByRole("button", { name: "Receive", exact: true }).click();
  await expect(page.getByText("10 pc of CAN-12 received as RC-3.")).toBeVisible();
});

test("an order of nothing for nobody says so at its fields, which get the focus", async ({ page }) => {
  await page.goto("/orders");
  await page.getByRole("button", { name: "New n" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Quantity 1").fill("2");
  await dialog.getByRole("button", { name: "Create order" }).click();
  await expect(dialog.getByText("Choose a customer.")).toBeVisible();
  await expect(dialog.getByText("Choose an item.")).toBeVisible();
  await expect(dialog.getByRole("combobox", { name: "Customer" })).toBeFocused();
});

test("pressed twice while the answers are slow, it is done once, and the button waits", async ({ page }) => {
  await page.goto("/orders");
  await page.getByRole("button", { name: "New n" }).click();
  const dialog = page.getByRole("dialog");
  await pickFirm(dialog.getByRole("combobox", { name: "Customer" }), "Millrow Garden Centre");
  await pick(dialog.getByRole("combobox", { name: "Item 1" }), "FEED-12");
  await dialog.getByLabel("Quantity 1").fill("2");
  // The order is taken at once, and the list of orders comes late.
  const release = await holdAnswers(page, "**/api/orders?*");
  const take = dialog.getByRole("button", { name: "Create order" });
  await take.dblclick();
  await expect(take).toHaveAttribute("data-pending", "true");
  await page.keyboard.press("Control+Enter");
  release();
  await expect(page.getByText("O-4 created. Stock is reserved.")).toBeVisible();
  await expect(page.getByRole("navigation", { name: "Orders", exact: true }).getByRole("link")).toHaveCount(
    4,
  );
});

test("the server is away while a form is half typed, and comes back", async ({ page, context }) => {
  await page.goto("/check?want=38%3B4");
  await page.getByRole("button", { name: "Build all 4" }).click();
  await page.getByRole("button", { name: "Queue build" }).click();
  const used = page.getByLabel("Used of SYR-72");
  await used.fill("50.5");
  await context.setOffline(true);
  await page.getByRole("button", { name: "Finish 4" }).click();
  await expect(page.getByText(/^Can't reach the server\. We don't know yet/)).toBeVisible();
  await expect(page.getByText(/^No connection since/)).toBeVisible();
  await expect(used).toHaveValue("50.5");
  await context.setOffline(false);
  await expect(page.getByText(/^No connection since/)).toHaveCount(0);
  await expect(used).toHaveValue("50.5");
  await page.getByRole("button", { name: "Finish 4" }).click();
  await expect(page.getByText("4 pc of FEED-12 are in stock.")).toBeVisible();
});

test("what could not be read is read on request", async ({ page }) => {
  await page.route("**/api/reorder*", (route) => route.abort());
  await page.goto("/reorder");
  await expect(page.getByRole("alert")).toContainText("Can't reach the server.");
  await page.unroute("**/api/reorder*");
  await page.getByRole("button", { name: "Try again" }).click();
  await expect(page.getByLabel("Search", { exact: true })).toBeVisible();
  await expect(page.getByRole("button", { name: "Try again" })).toHaveCount(0);
});

test("two people change one order: the second sees what the first did, and goes on from both", async ({
  page,
  browser,
  baseURL,
}) => {
  await page.goto("/orders/2");
  await expect(answer(page)).toHaveText("Tarnholt Bee Club");
  const other = await colleague(browser, baseURL ?? "", "/orders/2");
  await page.keyboard.press("e");
  const mine = page.getByRole("dialog");
  await mine.getByLabel("Customer reference").fill("spring course");
  await other.getByRole("button", { name: "Change", exact: true }).click();
  const theirs = other.getByRole("dialog");
  await theirs.getByLabel("Quantity 1").fill("9");
  await theirs.getByRole("button", { name: "Save" }).click();
  await expect(other.getByText("O-2 saved.")).toBeVisible();
  // It shows behind the dialog within seconds, and the dialog keeps what is typed.
  await expect(page.getByRole("table", { name: "Lines", includeHidden: true })).toContainText("9 pc");
  await mine.getByRole("button", { name: "Save" }).click();
  await expect(mine.getByText(/^Maren changed this at \d\d:\d\d, after you opened it\.$/)).toBeVisible();
  await expect(mine.getByText("HIVE-N 8")).toBeVisible();
  await expect(mine.getByText("HIVE-N 9")).toBeVisible();
  await mine.getByRole("button", { name: "Keep mine" }).click();
  await mine.getByLabel("Quantity 1").fill("10");
  await mine.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("O-2 saved.")).toBeVisible();
  await expect.poll(async () => (await cells(other, "Lines", "HIVE-N"))[1]).toBe("10 pc");
  await expect(other.getByText("spring course").first()).toBeVisible();
  await other.context().close();
});

test("a finish that is typed stays when a colleague finishes a part beside it, and says what is wrong at its field", async ({
  page,
  browser,
  baseURL,
}) => {
  await page.goto("/builds/6");
  await page.getByLabel("Used of HON-B").fill("241");
  const other = await colleague(browser, baseURL ?? "", "/builds/6");
  await other.getByLabel("Good", { exact: true }).fill("100");
  await other.getByRole("button", { name: "Finish 100" }).click();
  await expect(page.getByText("100 of 240 pc")).toBeVisible();
  await expect(page.getByLabel("Used of HON-B")).toHaveValue("241");
  await expect(page.getByText("Only 140 pc are still to be made.")).toHaveCount(1);
  await expect(page.getByRole("alertdialog")).toHaveCount(0);
  await other.context().close();
});

test("a scan goes where its code leads, and presses nothing that has the focus", async ({ page }) => {
  await page.goto("/builds/7");
  const queue = page.getByRole("button", { name: "Queue build" });
  await queue.focus();
  await scan(page, "nHON-4");
  await expect(page.getByText("No match").or(page.getByText("No match for “nHON-4”"))).toBeVisible();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await queue.focus();
  await scan(page, "B-7");
  await page.waitForTimeout(300);
  await expect(queue).toBeVisible();
  await scan(page, "HON-4");
  await expect(answer(page)).toHaveText(/[Hh]oney/);
  // Keys by themselves are still shortcuts, until they are switched off.
  await page.goto("/orders");
  await expect(page.getByRole("link", { name: /O-1/ })).toBeVisible();
  await page.keyboard.press("?");
  await page.getByRole("dialog").getByText("Single keys work on this device").click();
  await page.keyboard.press("Escape");
  await page.keyboard.press("n");
  await page.waitForTimeout(300);
  await expect(page.getByRole("dialog")).toHaveCount(0);
});

test("an order line is its code, Tab, its quantity, Enter; at a scanner's speed nothing is lost", async ({
  page,
}) => {
  await page.goto("/orders");
  await page.getByRole("button", { name: "New n" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("combobox", { name: "Customer" })).toBeFocused();
  await page.keyboard.type("Millrow Garden Centre", { delay: 15 });
  await page.keyboard.press("Tab");
  await expect(dialog.getByRole("combobox", { name: "Customer" })).toHaveValue("Millrow Garden Centre");
  await dialog.getByRole("combobox", { name: "Item 1" }).focus();
  const lines = [
    ["FEED-12", "2"],
    ["FRM-A", "30"],
    ["HON-4", "12"],
    ["SMK-S", "1"],
  ] as const;
  for (const [code, quantity] of lines) {
    await page.keyboard.type(code, { delay: 15 });
    await page.keyboard.press("Tab");
    await page.keyboard.type(quantity, { delay: 15 });
    await page.keyboard.press("Enter");
    await page.waitForTimeout(15);
  }
  for (const [i, [code, quantity]] of lines.entries()) {
    await expect(dialog.getByRole("combobox", { name: `Item ${i + 1}`, exact: true })).toHaveValue(
      new RegExp(`^${code} · `),
    );
    await expect(dialog.getByLabel(`Quantity ${i + 1}`, { exact: true })).toHaveValue(quantity);
  }
  await expect(dialog.getByRole("combobox", { name: "Item 5" })).toBeFocused();
  await page.keyboard.press("Control+Enter");
  await expect(page.getByText("O-4 created. Stock is reserved.")).toBeVisible();
});

test("long forms keep what was typed, however they are left", async ({ page }) => {
  // An order, left by Escape, by Back and by a reload.
  await page.goto("/check");
  await page.getByRole("link", { name: /^Orders/ }).click();
  const dialog = page.getByRole("dialog");
  const note = dialog.getByLabel("Note");
  await page.getByRole("button", { name: "New n" }).click();
  await note.fill("Ring the bell");
  for (const leave of [
    () => page.keyboard.press("Escape"),
    () => page.goBack().then(() => page.goForward()),
    () => page.reload(),
  ]) {
    await leave();
    await expect(dialog).toHaveCount(0);
    await page.getByRole("button", { name: "New n" }).click();
    await expect(note).toHaveValue("Ring the bell");
    await expect(dialog.getByText(/and did not save it/)).toBeVisible();
  }
  await dialog.getByRole("button", { name: "Discard it" }).click();
  await expect(note).toHaveValue("");
  await page.keyboard.press("Escape");

  // A purchase order, by Escape and a reload.
  await page.goto("/buying");
  await page.getByRole("button", { name: "New n" }).click();
  await dialog.getByLabel("Note to the supplier").fill("Call first");
  for (const leave of [() => page.keyboard.press("Escape"), () => page.reload()]) {
    await leave();
    await expect(dialog).toHaveCount(0);
    await page.getByRole("button", { name: "New n" }).click();
    await expect(dialog.getByLabel("Note to the supplier")).toHaveValue("Call first");
  }
  await page.keyboard.press("Escape");

  // A check, by a link, by a new one, and by Back.
  await page.goto("/check?want=38%3B4");
  await expect(page.getByRole("button", { name: "Build all 4" })).toBeVisible();
  await page.getByRole("link", { name: "Stock", exact: true }).click();
  await page.getByRole("link", { name: "Check", exact: true }).click();
  await page.getByRole("button", { name: "Go on with your last check" }).click();
  await expect(page.getByLabel("How many")).toHaveValue("4");

  // A parts list, left by a link.
  await page.goto("/catalog/37/parts-list");
  await page.getByLabel("Quantity of part 1", { exact: true }).fill("7");
  await page.getByRole("link", { name: "Stock", exact: true }).click();
  // Back leads to the list only once it was left.
  await expect(page).toHaveURL(/\/stock/);
  await page.goBack();
  await expect(page.getByLabel("Quantity of part 1", { exact: true })).toHaveValue("7");
  await page.getByRole("button", { name: "Discard changes" }).click();

  // A finish, with the parts handed out beside it, and a reload.
  await page.goto("/check?want=38%3B4");
  await page.getByRole("button", { name: "Build all 4" }).click();
  await page.getByRole("button", { name: "Queue build" }).click();
  await page.getByLabel("Used of SYR-72").fill("50.5");
  await page.getByRole("button", { name: /^Hand out/ }).click();
  await expect(page.getByRole("columnheader", { name: "On the bench" })).toBeVisible();
  await expect(page.getByLabel("Used of SYR-72")).toHaveValue("50.5");
  await page.reload();
  await expect(page.getByLabel("Used of SYR-72")).toHaveValue("50.5");
});

test("a short form asks before what was typed is lost: by Escape, a click beside it, a link and Back", async ({
  page,
}) => {
  await page.goto("/check");
  await page.goto("/customers");
  await page.getByRole("row").filter({ hasText: "Tarnholt Bee Club" }).click();
  await page.getByRole("button", { name: "Change", exact: true }).click();
  const dialog = page.getByRole("dialog");
  const question = page.getByRole("alertdialog", { name: "Leave without saving?" });
  await dialog.getByLabel("Phone").fill("0123");
  for (const leave of [
    () => page.keyboard.press("Escape"),
    () => page.mouse.click(5, 300),
    () => dialog.getByRole("button", { name: "Close" }).click(),
    () => page.evaluate(() => history.back()),
  ]) {
    await leave();
    await question.getByRole("button", { name: "Keep editing" }).click();
    // A key that comes while the question still closes is the question's.
    await expect(question).toHaveCount(0);
    await expect(dialog.getByLabel("Phone")).toHaveValue("0123");
  }
  await page.keyboard.press("Escape");
  await question.getByRole("button", { name: "Leave without saving" }).click();
  await expect(dialog).toHaveCount(0);
});

test("removing asks with what will go, and nothing goes until it is said", async ({ page }) => {
  await page.goto("/settings");
  await page.getByRole("button", { name: "New store" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Name").fill("Barn");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Barn is saved.")).toBeVisible();
  await page.getByRole("button", { name: "Remove Barn" }).click();
  const question = page.getByRole("alertdialog", { name: "Remove Barn?" });
  await question.getByRole("button", { name: "Cancel" }).click();
  await expect(page.getByRole("button", { name: "Change Barn" })).toBeVisible();
  await page.getByRole("button", { name: "Remove Front store" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Remove" }).click();
  await expect(page.getByText("This can't be removed: something else still uses it.")).toBeVisible();
  await page.getByRole("button", { name: "Remove Barn" }).click();
  await question.getByRole("button", { name: "Remove" }).click();
  await expect(page.getByText("Store removed.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Change Barn" })).toHaveCount(0);
});

test("what was removed is brought back from the message", async ({ page }) => {
  await page.goto("/builds/repeat");
  const target = page
    .getByRole("table", { name: "Stock targets" })
    .getByRole("row")
    .filter({ hasText: "FEED-12" });
  const before = await target.textContent();
  await page.getByRole("button", { name: "Remove the stock target of FEED-12" }).click();
  await expect(page.getByText("Stock target of FEED-12 removed.")).toBeVisible();
  await expect(target).toHaveCount(0);
  await page.getByRole("alertdialog").getByRole("button", { name: "Undo" }).click();
  await expect(target).toHaveCount(1);
  expect(await target.textContent()).toBe(before);
});

test("the company, its people and bins are changed, and what can't be says why", async ({ page }) => {
  await page.goto("/settings");
  await page.getByRole("button", { name: "Change", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Currency").fill("JPY");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog.getByText(/^The currency can't change once stock is recorded in it/)).toBeVisible();
  await dialog.getByLabel("Currency").fill("EUR");
  await dialog.getByLabel("Name").fill("Brackenmere Bees");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("navigation", { name: "Main menu" })).toContainText("Brackenmere Bees");
  await page.getByRole("button", { name: "Change Tobias" }).click();
  await dialog.getByLabel("Name").fill("Tobias K.");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Tobias K. is saved.")).toBeVisible();
  await page.getByRole("button", { name: "Change Front store" }).click();
  await dialog.getByLabel("New bin").fill("99-Z");
  await dialog.getByRole("button", { name: "Add bin" }).click();
  await expect(dialog.getByLabel("New bin")).toHaveValue("");
  // The list is drawn anew when the server's word of the change comes, and a press just then is lost.
  await expect(async () => {
    const remove = dialog.getByRole("button", { name: "Remove bin 99-Z" });
    if ((await remove.count()) > 0) await remove.click({ timeout: 5000 });
    await expect(remove).toHaveCount(0, { timeout: 5000 });
  }).toPass();
  await expect(page.getByText("Bin 99-Z is removed.")).toBeVisible();
});

test.describe("on a new device", () => {
  test.use({ person: null });
  test("who is working is asked once, and never guessed", async ({ page }) => {
    await page.goto("/orders");
    await expect(page.getByRole("heading", { name: "Who are you?" })).toBeVisible();
    await page.getByRole("button", { name: "Maren" }).click();
    await expect(page.getByRole("button", { name: "Signed in as Maren. Switch" })).toBeVisible();
    await page.reload();
    await expect(page.getByRole("button", { name: "Signed in as Maren. Switch" })).toBeVisible();
  });
});
