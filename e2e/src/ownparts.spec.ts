import { expect, test } from "./site.ts";
import { answer, cells, pick } from "./steps.ts";

test("one build gets parts of its own; the list stays, and the build can follow it again", async ({
  page,
}) => {
  await page.goto("/builds/7");
  await page.getByRole("button", { name: "More actions for B-7" }).click();
  await page.getByRole("menuitem", { name: "Change its parts …" }).click();
  const dialog = page.getByRole("dialog", { name: "Parts of B-7" });
  await dialog.getByLabel("Quantity 2").fill("3");
  await dialog.getByRole("button", { name: "Remove line 3" }).click();
  await dialog.getByRole("button", { name: "Add part" }).click();
  await dialog.getByLabel("Quantity 3").fill("1.5");
  await dialog.getByRole("button", { name: "Save parts" }).click();
  // Nothing is sent while a part has no item: the field says so and keeps what was typed.
  await expect(dialog.getByRole("combobox", { name: "Part 3" })).toBeFocused();
  await pick(dialog.getByRole("combobox", { name: "Part 3" }), "PIN-20");
  await dialog.getByRole("button", { name: "Save parts" }).click();
  await expect(page.getByText("B-7 has parts of its own.")).toBeVisible();
  const planned = async (part: string) => (await cells(page, "Parts", part)).slice(0, 2);
  expect(await planned("SCL-E")).toEqual([
    "Hive scale, electronic SCL-E · 4 pc on the parts list · 12-A",
    "3 pc",
  ]);
  expect(await planned("PIN-20")).toEqual([
    expect.stringContaining("PIN-20 · not on the parts list"),
    "1.500 kg",
  ]);
  await expect(page.getByText("Left out: 48 min Bench work.")).toBeVisible();
  await page.getByRole("button", { name: "More actions for B-7" }).click();
  await page.getByRole("menuitem", { name: "Change its parts …" }).click();
  await dialog.getByRole("button", { name: "Use the parts list again" }).click();
  await expect(page.getByText("B-7 follows its parts list again.")).toBeVisible();
  expect(await planned("SCL-E")).toEqual(["Hive scale, electronic SCL-E · 12-A", "4 pc"]);
});

test("a build that is done is recorded in one go, also from the line of an order", async ({
  page,
  baseURL,
}) => {
  await page.goto("/builds");
  await page.getByRole("button", { name: "More ways to create a build" }).click();
  await page.getByRole("menuitem", { name: "Record a finished build …" }).click();
  const dialog = page.getByRole("dialog");
  await pick(dialog.getByRole("combobox", { name: "Product" }), "FEED-12");
  await expect(dialog.getByLabel("Lot")).not.toHaveValue("");
  // What is typed stays when somebody else records a build meanwhile, and other numbers would be offered.
  const home = await dialog.getByLabel("Bin").inputValue();
  await dialog.getByLabel("Bin").fill("09-Z");
  const found = await page.request.get(`${baseURL}/api/items?search=FEED-12`);
  const { items } = await found.json();
  const next = await page.request.get(`${baseURL}/api/next-numbers?product=${items[0].id}`);
  const { suggestedLot, suggestedExpiry, store, bin } = await next.json();
  const again = page.waitForResponse(/next-numbers/);
  const recorded = await page.request.post(`${baseURL}/api/builds/record`, {
    headers: { "yosegi-person": "2", "idempotency-key": "theirs" },
    data: {
      product: items[0].id,
      quantity: "1",
      list: null,
      note: "",
      costTag: "",
      day: "2026-11-23",
      store,
      bin,
      lot: suggestedLot,
      expiry: suggestedExpiry,
      serials: [],
      line: null,
    },
  });
  expect(recorded.status()).toBe(200);
  await again;
  await expect(dialog.getByLabel("Bin")).toHaveValue("09-Z");
  await dialog.getByLabel("Bin").fill(home);
  await dialog.getByLabel("Good units").fill("900");
  await dialog.getByRole("button", { name: "Record build" }).click();
  await expect(dialog.getByText(/Sugar syrup: [\d,.]+ needed, [\d,.]+ L in stock/)).toBeVisible();
  await dialog.getByLabel("Good units").fill("2");
  await dialog.getByRole("button", { name: "Record build" }).click();
  await expect(page.getByText(/^B-\d+ recorded: 2 pc in stock\.$/)).toBeVisible();
  await expect(answer(page)).toHaveText("2 × Autumn feed 12.5 L");

  await page.goto("/orders/2");
  await page.getByRole("button", { name: "Record a build of HIVE-N" }).click();
  await expect(dialog.getByRole("heading", { name: "Record a build for O-2" })).toBeVisible();
  await expect(dialog.getByLabel("Good units")).toHaveValue("3");
  await dialog.getByLabel("Good units").fill("1");
  await dialog.getByRole("button", { name: "Record build" }).click();
  await expect(page.getByText(/^B-\d+ recorded: 1 pc in stock\.$/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Build the missing 2" })).toBeVisible();
});

test("lines of open orders are built from the page of builds, several at once", async ({ page }) => {
  await page.goto("/builds/orders");
  await expect(page.getByRole("button", { name: "Build selected" })).toBeDisabled();
  await page.getByRole("checkbox", { name: "Select HIVE-N for O-2" }).press("Space");
  await page.getByRole("button", { name: "Build for 1 line" }).click();
  await expect(page.getByText(/^B-\d+ created\.$/)).toBeVisible();
  await expect(answer(page)).toHaveText("3 × Complete hive");
  await expect(page.getByRole("link", { name: "O-2", exact: true })).toBeVisible();
  await page.goto("/builds/orders");
  await expect(page.getByText("No open order lacks anything that could be built.")).toBeVisible();
});

test("items are archived together, with a way back; an import is undone", async ({ page }) => {
  await page.goto("/import");
  const rows = "Artikel,name,kind,unit\nZQ-1,First,bought,pc\nZQ-2,Second,bought,pc\n";
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Choose items" }).click();
  await (await chooser).setFiles({ name: "x.csv", mimeType: "text/csv", buffer: Buffer.from(rows) });
  await expect(page.getByText("First match the columns that are needed.")).toBeVisible();
  await page.getByRole("button", { name: /Artikel/ }).click();
  await page.getByRole("option", { name: "code (needed)" }).click();
  await page.getByRole("button", { name: "Import all of it" }).click();
  await expect(page.getByText("Imported as I-2.")).toBeVisible();
  await page.goto("/catalog?search=ZQ-");
  await page.getByRole("checkbox", { name: "Select all items" }).press("Space");
  await page.getByRole("button", { name: "Archive", exact: true }).click();
  await expect(page.getByText("2 items archived.")).toBeVisible();
  await expect(page.getByText("No items match.")).toBeVisible();
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(page.getByRole("checkbox", { name: "Select ZQ-1" })).toBeVisible();
  await page.goto("/import");
  await page.getByRole("button", { name: "Undo I-2" }).click();
  await page.getByRole("button", { name: "Undo import" }).click();
  await expect(page.getByText("I-2 is undone: 2 items removed.")).toBeVisible();
  await expect(page.getByText(/^undone .* by Ines$/)).toBeVisible();
});
