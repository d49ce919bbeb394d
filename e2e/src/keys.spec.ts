import { expect, test } from "./site.ts";
import { answer, cells, check, holdAnswers } from "./steps.ts";

test.describe("a person who writes numbers in German", () => {
  test.use({ locale: "de-DE" });
  test("reads and types them so, exactly", async ({ page }) => {
    await page.goto("/check");
    await check(page, "FEED-12", "20");
    await expect(answer(page)).toContainText("All 20 can be made now.");
    expect((await cells(page, "Parts", "SYR-72")).slice(2, 3)).toEqual(["249,900 L"]);
    await page.getByRole("textbox", { name: "Wanted on" }).fill("freitag");
    await page.getByRole("button", { name: "Build all 20" }).click();
    await page.getByRole("button", { name: "Queue build" }).click();
    await page.getByLabel("Used of SYR-72").fill("251,4");
    await expect(page.getByRole("row").filter({ hasText: "SYR-72" })).toContainText("+1,500 L");
    await page.getByLabel("Used of SYR-72").fill("251.4");
    await expect(page.getByRole("row").filter({ hasText: "SYR-72" })).not.toContainText("+1,500 L");
    await expect(page.getByText("“251.4” is not a number.")).toBeVisible();
    await page.getByRole("button", { name: "Finish 20" }).click();
    await expect(page.getByText("are in stock")).toHaveCount(0);
    await expect(page.getByLabel("Used of SYR-72")).toHaveValue("251.4");
  });
});

test("what is typed quickly arrives whole, also where it stands in the address", async ({ page }) => {
  for (const [path, field] of [
    ["/builds", "Filter builds"],
    ["/orders", "Filter orders"],
    ["/buying", "Filter purchase orders"],
    ["/catalog", "Search"],
    ["/reorder", "Search"],
  ] as const) {
    await page.goto(path);
    await page.getByLabel(field, { exact: true }).click();
    await page.keyboard.type("honey jar of 454 g");
    await expect(page.getByLabel(field, { exact: true }), path).toHaveValue("honey jar of 454 g");
    await expect(page).toHaveURL(/search=honey\+jar\+of\+454\+g/);
  }
  await page.goto("/check?want=38%3B2");
  await page.getByLabel("How many").click();
  await page.keyboard.type("12.50");
  await expect(page.getByLabel("How many")).toHaveValue("12.50");
  await page.getByLabel("How many").fill("");
  await page.keyboard.type("2 dozen");
  await expect(page.getByLabel("How many")).toHaveValue("2 dozen");
  await expect(page.getByText("= 24 pc")).toBeVisible();
});

test("a product that is found late leaves the quantity that was typed meanwhile", async ({ page }) => {
  const find = await holdAnswers(page, "**/api/items?search=FEED-12*");
  await page.goto("/check");
  await page.getByRole("combobox", { name: "Product" }).fill("FEED-12");
  await page.getByRole("combobox", { name: "Product" }).press("Tab");
  await page.getByLabel("How many").fill("24");
  await expect(page).toHaveURL(/24/);
  find();
  await expect(page.getByRole("combobox", { name: "Product" })).toHaveValue("FEED-12 · Autumn feed 12.5 L");
  await expect(page.getByLabel("How many")).toHaveValue("24");
  await expect(page.getByRole("button", { name: "Build all 24" })).toBeVisible();
});

test("a day is typed in words or taken from the calendar", async ({ page }) => {
  await page.goto("/check?want=38%3B2");
  const due = page.getByRole("textbox", { name: "Wanted on" });
  await due.fill("t");
  await expect(page).toHaveURL(/want=38%3B2%3B\d{4}-\d\d-\d\d/);
  const today = new URL(page.url()).searchParams.get("want")?.split(";")[2] ?? "";
  await due.fill("+10");
  await due.blur();
  await expect(page.getByText("in 10 days")).toBeVisible();
  await due.fill("someday");
  await expect(page.getByText("“someday” isn't a date.")).toBeVisible();
  await expect(due).toHaveValue("someday");
  await due.fill("");
  await page.getByRole("button", { name: "Wanted on: open the calendar" }).click();
  await page
    .getByRole("dialog")
    .getByRole("button", { name: /^Today/ })
    .click();
  await expect(page).toHaveURL(new RegExp(`want=38%3B2%3B${today}`));
});

test("a code is taken as typed, whatever the list shows under the pointer", async ({ page }) => {
  await page.goto("/orders");
  await page.getByRole("button", { name: /^New/ }).click();
  const item = page.getByRole("combobox", { name: "Item 1" });
  const box = await item.boundingBox();
  if (!box) throw new Error("the field is there");
  await page.mouse.move(box.x + 60, box.y + box.height + 70);
  for (const key of ["Tab", "Enter"]) {
    await item.fill("LAB-O");
    // The list is open, and the pointer lies on another of its choices.
    await expect(page.getByRole("option").nth(1)).toBeVisible();
    await item.press(key);
    await expect(item).toHaveValue(/^LAB-O/);
    await item.fill("");
  }
});

test("a figure that arrives while one stands in its field is typed over", async ({ page }) => {
  await page.goto("/check");
  await check(page, "FEED-12", "20");
  await page.getByRole("button", { name: "Build all 20" }).click();
  await page.getByRole("button", { name: "Queue build" }).click();
  await expect(page.getByLabel("Used of SYR-72")).toHaveValue("249.9");
  const answer = await holdAnswers(page, "**/finish-preview");
  await page.reload();
  const used = page.getByLabel("Used of SYR-72");
  await used.focus();
  await expect(used).toHaveValue("");
  answer();
  await expect(used).toHaveValue("249.9");
  await page.keyboard.type("251.4");
  await expect(used).toHaveValue("251.4");
  await expect(page.getByRole("row").filter({ hasText: "SYR-72" })).toContainText("+1.500 L");
});

test("a choice that has not arrived yet can't be pressed, and opens once it has", async ({ page }) => {
  const give = await holdAnswers(page, "**/api/stores");
  await page.goto("/catalog/18");
  await page.getByRole("button", { name: "Receive stock" }).click();
  const store = page.getByRole("dialog").getByRole("button", { name: /Store/ });
  await expect(store).toBeDisabled();
  give();
  await store.click();
  await expect(page.getByRole("option", { name: "Front store" })).toBeVisible();
});

test("an answer lost on the way: pressed again, it is recorded once", async ({ page }) => {
  await page.goto("/catalog/18");
  await expect(answer(page)).toHaveText("Canister 12.5 L");
  await page.getByRole("button", { name: "Receive stock" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Quantity").fill("10");
  // The server records it, and its answer never arrives.
  await page.route(
    "**/api/stock/receipts",
    async (route) => {
      await route.fetch();
      await route.abort();
    },
    { times: 1 },
  );
  await dialog.getByRole("button", { name: "Receive", exact: true }).click();
  await expect(
    dialog.getByText("Can't reach the server. We don't know yet whether this was saved"),
  ).toBeVisible();
  await dialog.getByRole("button", { name: "Receive", exact: true }).click();
  await expect(page.getByText("10 pc of CAN-12 received as RC-3.")).toBeVisible();
  await expect(
    page
      .getByRole("definition")
      .filter({ hasText: /^50 pc$/ })
      .first(),
  ).toBeVisible();
  await page.goto("/stock?document=RC-3");
  await expect(page.getByText("1 movement, latest first.")).toBeVisible();
});

test("a long catalog stays light: only the rows in view are there, sorted over all of them", async ({
  page,
  baseURL,
}) => {
  const rows = Array.from({ length: 3000 }, (_, i) => `P-${i},Part ${i},bought,pc,none,${i % 50}.25,,,`);
  const items = ["code,name,kind,unit,tracking,cost,price,store,bin", ...rows].join("\n");
  const content = Buffer.from(items).toString("base64");
  const body = {
    files: [{ kind: "items", name: "items.csv", content, columns: {} }],
    update: false,
    job: "many",
  };
  const checked = await page.request.post(`${baseURL}/api/imports/check`, { data: body });
  const { token } = await checked.json();
  const done = await page.request.post(`${baseURL}/api/imports`, {
    data: { ...body, token, goodRowsOnly: false },
    headers: { "yosegi-person": "1", "idempotency-key": "many" },
  });
  expect(done.ok()).toBe(true);
  await page.goto("/catalog");
  await expect(page.getByText("3,044 items", { exact: true })).toBeVisible();
  const shown = page.getByRole("table", { name: "Items" }).getByRole("row");
  expect(await shown.count()).toBeLessThan(80);
  await page.getByRole("button", { name: "Name" }).click();
  await page.getByRole("button", { name: "Name" }).click();
  await expect(shown.nth(1)).toContainText("Wood glue");
  await shown.nth(1).getByRole("link").focus();
  await page.keyboard.press("ArrowDown");
  await expect(shown.nth(2).getByRole("link")).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(answer(page)).not.toHaveText("Catalog");
  await page.goBack();
  await page.getByLabel("Search", { exact: true }).fill("part 2999");
  await expect(page.getByText("1 item", { exact: true })).toBeVisible();
});

test("the theme is the person's own, and stays", async ({ page }) => {
  await page.goto("/check");
  await page.getByRole("button", { name: /^Signed in as Ines/ }).click();
  await page.getByRole("menuitemradio", { name: "Dark" }).click();
  const ground = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
  expect(await ground()).toBe("rgb(30, 24, 20)");
  await page.reload();
  await expect(page.getByRole("combobox", { name: "Product" })).toBeVisible();
  expect(await ground()).toBe("rgb(30, 24, 20)");
});
