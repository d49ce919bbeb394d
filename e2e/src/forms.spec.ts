import type { Page } from "@playwright/test";
import { scrollsSideways, smallTargets } from "./room.ts";
import { expect, test } from "./site.ts";

const press = (name: string | RegExp) => (page: Page) =>
  page
    .getByRole("button", { name, ...(typeof name === "string" && { exact: true }) })
    .first()
    .click();

const choose = (menu: string | RegExp, item: string | RegExp) => async (page: Page) => {
  await press(menu)(page);
  await page.getByRole("menuitem", { name: item }).click();
};

/** A form of every kind with nothing typed in it yet, and how it is opened. */
const FORMS: readonly (readonly [name: string, path: string, open: (page: Page) => Promise<void>])[] = [
  ["a new order", "/orders", press(/^New( n)?$/)],
  ["a new purchase order", "/buying", press(/^New( n)?$/)],
  ["a new item", "/catalog", press(/^New( n)?$/)],
  ["a new supplier", "/suppliers", press(/^New( n)?$/)],
  ["a new customer", "/customers", press(/^New( n)?$/)],
  ["a new price list", "/price-lists", press(/^New( n)?$/)],
  [
    "a message for an order",
    "/orders",
    async (page) => {
      await press(/^New( n)?$/)(page);
      await press("Lines from a message or list")(page);
    },
  ],
  ["a build recorded in one go", "/builds", choose("More ways to create a build", /Record/)],
  ["a build with its own parts", "/builds", choose("More ways to create a build", /own parts/)],
  ["the parts of a build", "/builds/7", choose("More actions for B-7", /Change its parts/)],
  ["a build duplicated", "/builds/7", choose("More actions for B-7", /Duplicate/)],
  ["a build split", "/builds/7", choose("More actions for B-7", /Split/)],
  ["a build linked to an order", "/builds/7", choose("More actions for B-7", /Link/)],
  ["a build changed", "/builds/7", press("Change")],
  ["a count", "/catalog/8", press(/^Count Front store/)],
  ["stock received by hand", "/catalog/38", press("Receive stock")],
  ["a purchase received", "/buying/1", press("Receive")],
  ["the suppliers of an item", "/catalog/11", press("Edit suppliers")],
  ["a list added", "/catalog/38/lists", press("Add list")],
  ["a recurring build", "/builds/repeat", press("Add recurring build")],
  ["a stock target", "/builds/repeat", press("Add stock target")],
  ["a unit", "/settings", press("New unit")],
  ["a group", "/settings", press("New group")],
  ["a field", "/settings", press("New field")],
  ["a store", "/settings", press("New store")],
  ["a person", "/settings", press("New person")],
];

test.describe("an empty form on a phone", () => {
  test.use({ database: "looked at", viewport: { width: 360, height: 740 }, hasTouch: true });
  for (const [name, path, open] of FORMS)
    test(`${name} fits, with targets for a finger`, async ({ page }) => {
      await page.goto(path);
      await open(page);
      await expect(page.getByRole("dialog").first()).toBeVisible();
      await page.waitForLoadState("networkidle");
      expect(await scrollsSideways(page)).toEqual([]);
      expect(await smallTargets(page)).toEqual([]);
    });

  test("a parts list that is begun fits, and its first line too", async ({ page }) => {
    const { items } = await (await page.request.get("/api/items?search=EXT-2R")).json();
    await page.goto(`/catalog/${items[0].id}/parts-list`);
    await expect(page.getByRole("combobox", { name: "Part 1", exact: true })).toBeVisible();
    expect(await scrollsSideways(page)).toEqual([]);
    expect(await smallTargets(page)).toEqual([]);
  });
});

test.describe("a company that begins", () => {
  test.use({ database: "empty", person: null, viewport: { width: 360, height: 740 }, hasTouch: true });
  test("names itself on a phone", async ({ page }) => {
    await page.goto("/check");
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
    expect(await scrollsSideways(page)).toEqual([]);
    expect(await smallTargets(page)).toEqual([]);
  });
});
