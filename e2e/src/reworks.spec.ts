import type { Page } from "@playwright/test";
import { scrollsSideways } from "./room.ts";
import { expect, test } from "./site.ts";
import { api, cells, idsOf, pdfText, pick, pickFirm, scan } from "./steps.ts";

/** Adds something to the rework that is open, by its menu: messages that pass lie over the links beside the tables. */
async function addTo(page: Page, what: string): Promise<void> {
  await page.getByRole("button", { name: "Add to W-2" }).click();
  await page.getByRole("menuitem", { name: what, exact: true }).click();
}

test("two extractors in one rework: one back as EXT-2R, one scrapped for parts; its card tells its life, and each is undone", async ({
  page,
}) => {
  const [extractor = 0, restored = 0] = await idsOf(page, "EXT-2", "EXT-2R");
  await api(page, "/api/stock/receipts", {
    lines: [
      { item: extractor, quantity: "1", serial: "EX-0078", unitCost: "290.00", store: "Yard", bin: "Y5-A" },
    ],
    day: "2026-11-23",
    reason: "bought at a fair",
  });
  await page.goto("/reworks");
  await expect(page.getByRole("link", { name: /W-1 · TB-12/ })).toBeVisible();
  await page.keyboard.press("n");
  const dialog = page.getByRole("dialog");
  await pick(dialog.getByRole("combobox", { name: "What is reworked" }), "EXT-2");
  await dialog.getByRole("button", { name: "Add a unit" }).click();
  for (const [nth, serial] of [
    [1, "EX-0077"],
    [2, "EX-0078"],
  ] as const) {
    await dialog.getByRole("button", { name: `From ${nth}` }).click();
    await page.getByRole("option", { name: new RegExp(serial) }).click();
  }
  await dialog.getByLabel("What is wrong").fill("Drums bent");
  await dialog.getByRole("button", { name: "Begin rework" }).click();
  await expect(page.getByRole("heading", { name: "2 pc Honey extractor in rework." })).toBeVisible();

  await addTo(page, "Step …");
  await dialog.getByLabel("What is done").fill("Straighten the drum");
  await dialog.getByLabel("Planned cost").fill("40");
  await dialog.getByRole("button", { name: "Add", exact: true }).click();
  await addTo(page, "Part …");
  await pick(dialog.getByRole("combobox", { name: "Part" }), "BELT-X");
  await dialog.getByRole("button", { name: /Taken from/ }).click();
  await page.getByRole("option", { name: /Yard Y4-A/ }).click();
  await dialog.getByRole("button", { name: /For$/ }).click();
  await page.getByRole("option", { name: "EX-0077" }).click();
  await dialog.getByRole("button", { name: "Add", exact: true }).click();
  expect((await cells(page, "Parts", "BELT-X")).slice(1, 4)).toEqual(["1 pc", "Yard Y4-A", "€4.70"]);

  // Whether it pays follows while one types, and the price is kept.
  await page.getByLabel("Price of all units").fill("700");
  await expect(
    page.getByText(/^Margin €55\.30, 7\.9 %\. Worth spending from now on: up to €95\.30\.$/),
  ).toBeVisible();
  await page.getByRole("button", { name: "Mark Straighten the drum as done" }).click();
  await expect(page.getByRole("heading", { name: "2 pc Honey extractor to finish." })).toBeVisible();

  // What is no number is refused at its field.
  const price = page.getByLabel("Price of all units");
  await price.fill("lots");
  await price.press("Tab");
  await expect(page.getByText(/“lots” is not a number/)).toBeVisible();
  await price.fill("700");
  await price.press("Enter");
  await expect(page.getByText(/“lots” is not a number/)).toHaveCount(0);

  // What is overdue stands first, for who does it; its parts and steps are kept for others.
  await page.getByRole("button", { name: "Change", exact: true }).click();
  await dialog.getByRole("textbox", { name: "Due" }).fill("2026-11-20");
  await dialog.getByRole("button", { name: /Assigned to/ }).click();
  await page.getByRole("option", { name: "Tobias" }).click();
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Overdue", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "More actions for W-2" }).click();
  await page.getByRole("menuitem", { name: "Keep as a starting point …" }).click();
  await dialog.getByLabel("Name").fill("New belt");
  await dialog.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(dialog).toHaveCount(0);

  await page.getByRole("button", { name: "Finish …" }).click();
  await pick(dialog.getByRole("combobox", { name: "Comes out as: EX-0077" }), "EXT-2R");
  await dialog.getByRole("button", { name: /What becomes of EX-0078/ }).click();
  await page.getByRole("option", { name: "Scrap, keep good parts" }).click();
  await dialog.getByLabel("Why scrapped: EX-0078").fill("Frame broken");
  await pick(dialog.getByRole("combobox", { name: "Good part 1" }), "BRG-6");
  await dialog.getByLabel("Quantity 1").fill("2");
  await dialog.getByRole("button", { name: /Store 1/ }).click();
  await page.getByRole("option", { name: "Yard" }).click();
  await dialog.getByLabel("Bin 1").fill("Y4-A");
  await dialog.getByRole("button", { name: "Finish", exact: true }).click();
  await expect(page.getByRole("heading", { name: "2 pc Honey extractor reworked." })).toBeVisible();
  // 310.00 + 4.70 + 20.00, and 290.00 + 20.00 of which two bearings come back.
  expect((await cells(page, "Units", "EX-0077")).slice(2, 4)).toEqual([
    "€334.70",
    "good, as EXT-2R, in Yard Y5-A",
  ]);
  expect((await cells(page, "Units", "EX-0078")).slice(2, 4)).toEqual([
    "€310.00",
    "scrapped for parts, 2 pc BRG-6, Frame broken",
  ]);

  // One live record: the number is an EXT-2R now, and its card says where it came from.
  await page.goto(`/trace?item=${restored}&serial=EX-0077`);
  await expect(page.getByText(/W-2 1 pc came out of a rework/)).toBeVisible();
  await expect(page.getByText("Honey extractor serial EX-0077")).toBeVisible();
  await page.goto(`/trace?item=${extractor}&serial=EX-0077`);
  await expect(page.getByText("another item (W-2)")).toBeVisible();

  await scan(page, "W-2");
  await page.getByRole("button", { name: "Undo finish …" }).click();
  await page.getByRole("button", { name: "Undo finish", exact: true }).click();
  await expect(page.getByRole("heading", { name: "2 pc Honey extractor to finish." })).toBeVisible();
  await page.getByRole("button", { name: "Undo …" }).click();
  await page.getByRole("button", { name: "Undo rework" }).click();
  await expect(page.getByRole("heading", { name: /is undone\.$/ })).toBeVisible();
  await page.goto(`/trace?item=${extractor}&serial=EX-0077`);
  await expect(page.getByRole("table", { name: "In stock" })).toContainText("Yard Y5-A");
});

test("a customer's own extractor is repaired with a subcontractor's step, charged, and given back", async ({
  page,
}) => {
  await page.goto("/customers/8");
  await page.getByRole("button", { name: "Take one in for rework" }).click();
  const dialog = page.getByRole("dialog");
  await pick(dialog.getByRole("combobox", { name: "What is reworked" }), "EXT-2");
  await dialog.getByLabel("Serial number 1").fill("TB-14");
  await dialog.getByLabel("What is wrong").fill("Gear worn");
  await dialog.getByRole("button", { name: "Begin rework" }).click();
  await expect(page.getByRole("heading", { name: "1 pc Honey extractor in rework." })).toBeVisible();
  await addTo(page, "Step …");
  await dialog.getByLabel("What is done").fill("Cut another gear");
  await pickFirm(dialog.getByRole("combobox", { name: "Or a subcontractor" }), "Calderan Metal");
  await pick(dialog.getByRole("combobox", { name: "Ordered as" }), "LAB-O");
  await dialog.getByLabel("Planned cost").fill("25");
  await dialog.getByLabel("Charge").fill("38");
  await dialog.getByRole("button", { name: "Add", exact: true }).click();
  await page.getByRole("button", { name: "Order Cut another gear" }).click();
  await expect(page.getByRole("table", { name: "Steps" }).getByRole("link", { name: /^P-/ })).toBeVisible();
  await addTo(page, "Part …");
  await pick(dialog.getByRole("combobox", { name: "Part" }), "BELT-X");
  await dialog.getByRole("button", { name: /Taken from/ }).click();
  await page.getByRole("option", { name: /Yard Y4-A/ }).click();
  await dialog.getByLabel("Charge").fill("9.50");
  await dialog.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByText("€47.50").first()).toBeVisible();
  await expect(page.getByText("€57.00 with tax")).toBeVisible();
  await page.getByRole("button", { name: "More actions for W-2" }).click();
  await page.getByRole("menuitem", { name: "Put the quote into the outbox" }).click();
  await expect(page.getByText("please find attached our quote W-2.")).toBeVisible();
  await page.goto("/reworks/2");
  await page.getByRole("button", { name: "Quote agreed" }).click();
  await expect(page.getByText(/^agreed, Ines/)).toBeVisible();
  // What comes after that is to be agreed, too.
  await addTo(page, "Line of text with an amount …");
  await dialog.getByLabel("Text", { exact: true }).fill("Parcel back");
  await dialog.getByLabel("Amount").fill("6.00");
  await dialog.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByText("€6.00 not agreed yet")).toBeVisible();
  await page.getByRole("button", { name: "Rest agreed" }).click();
  await expect(page.getByText("€6.00 not agreed yet")).toHaveCount(0);
  await page.getByRole("button", { name: "Remove Parcel back" }).click();
  await expect(page.getByText("€47.50").first()).toBeVisible();
  await page.setViewportSize({ width: 360, height: 740 });
  expect(await scrollsSideways(page)).toEqual([]);
  await page.setViewportSize({ width: 1280, height: 800 });

  // The step is done in the list of all steps.
  await page.goto("/reworks/steps");
  await page.getByRole("checkbox", { name: "Cut another gear" }).check({ force: true });
  await page.getByRole("button", { name: "Mark as done" }).click();
  await expect(page.getByRole("heading", { name: "1 step to do in reworks" })).toBeVisible();
  await page.goto("/reworks/2");
  await page.getByRole("button", { name: "Give back …" }).click();
  await dialog.getByRole("button", { name: "Give back", exact: true }).click();
  await expect(page.getByRole("heading", { name: "1 pc Honey extractor given back." })).toBeVisible();
  const bill = await page.request.get("/api/reworks/2/paper?kind=bill");
  const [text = ""] = await pdfText(await bill.body());
  for (const words of ["W-2", "TB-14", "Cut another gear", "38.00", "9.50", "47.50", "57.00"])
    expect(text).toContain(words);
  await page.goto("/customers/8");
  expect((await cells(page, "Units they have", "TB-14")).at(4)).toBe("W-2");

  // Undone: it is here again, and then with them as before.
  await page.goto("/reworks/2");
  await page.getByRole("button", { name: "Undo finish …" }).click();
  await page.getByRole("button", { name: "Undo finish", exact: true }).click();
  await page.getByRole("button", { name: "Undo …" }).click();
  await page.getByRole("button", { name: "Undo rework" }).click();
  await expect(page.getByRole("heading", { name: /is undone\.$/ })).toBeVisible();
});

test("several reworks are finished together; what can't be says why and stays selected", async ({ page }) => {
  const [extractor = 0, hive = 0] = await idsOf(page, "EXT-2", "HIVE-N");
  for (const [item, unit] of [
    [extractor, { serial: "EX-0077", bin: "Y5-A" }],
    [hive, { bin: "Y6-A" }],
  ] as const) {
    const units = [{ quantity: "1", store: "Yard", ...unit }];
    await api(page, "/api/reworks", { item, day: "2026-11-23", units });
  }
  await page.goto("/reworks");
  await page.getByRole("button", { name: "More to do with reworks" }).click();
  await page.getByRole("menuitem", { name: "Finish several …" }).click();
  const finish = page.getByRole("button", { name: /^Finish \d rework/ });
  await expect(finish).toBeDisabled();
  for (const number of ["W-1", "W-2", "W-3"])
    await page.getByRole("checkbox", { name: number }).check({ force: true });
  await finish.click();
  const said = page.getByRole("status").filter({ hasText: "W-1" });
  await expect(said).toContainText("W-1 has steps that are not done: Cut a new gear");
  await expect(said).toContainText("W-2: finished.");
  await expect(said).toContainText("W-3: finished.");
  await expect(finish).toHaveText("Finish 1 rework as good");
  await expect(page.getByRole("row").filter({ hasText: "W-2" })).toHaveCount(0);
});
