import type { Locator, Page } from "@playwright/test";
import { expect, test } from "./site.ts";
import { answer } from "./steps.ts";

/** Counts what a person does: keys that are pressed, and presses of the pointer. */
class Hands {
  keys = 0;
  presses = 0;
  readonly #page: Page;

  constructor(page: Page) {
    this.#page = page;
  }

  async type(text: string): Promise<void> {
    this.keys += text.length;
    await this.#page.keyboard.type(text);
  }

  async key(name: string): Promise<void> {
    this.keys++;
    await this.#page.keyboard.press(name);
  }

  async click(what: Locator): Promise<void> {
    this.presses++;
    await what.click();
  }
}

/** Goes on with Tab until what is named has the focus, as somebody does who has no mouse. */
async function tabTo(page: Page, name: RegExp, most = 60): Promise<void> {
  for (let i = 0; i < most; i++) {
    const focused = await page.evaluate(() => {
      const node = document.activeElement;
      return node?.getAttribute("aria-label") ?? node?.textContent ?? "";
    });
    if (name.test(focused)) return;
    await page.keyboard.press("Tab");
  }
  throw new Error(`${name} was not reached by ${most} Tabs`);
}

test("from a check to the finished build by the keyboard alone", async ({ page }) => {
  await page.goto("/check");
  await expect(page.getByRole("combobox", { name: "Product" })).toBeFocused();
  await page.keyboard.type("FEED-12");
  await page.keyboard.press("Tab");
  await expect(page.getByLabel("How many")).toBeFocused();
  await page.keyboard.type("20");
  await expect(answer(page)).toContainText("All 20 can be made now.");
  await tabTo(page, /^Build all 20$/);
  await page.keyboard.press("Enter");
  await expect(answer(page)).toHaveText("20 × Autumn feed 12.5 L");
  await page.keyboard.press("q");
  await expect(page.getByRole("button", { name: "Finish 20" })).toBeVisible();
  await tabTo(page, /^Hand out/);
  await page.keyboard.press("Enter");
  await expect(page.getByText(/Parts for B-\d+ are on the bench/)).toBeVisible();
  await tabTo(page, /^Finish 20$/);
  await page.keyboard.press("Enter");
  await expect(page.getByText("20 of 20 pc").first()).toBeVisible();
  // What was done last can be taken back without a mouse too.
  await tabTo(page, /^Undo/);
  await page.keyboard.press("Enter");
  await tabTo(page, /^Undo|^Take back/, 6);
});

// The steps that were counted when the first half was looked at: they must not grow.
test.describe("steps that are taken twenty times a day", () => {
  test("a check takes 7 keys", async ({ page }) => {
    await page.goto("/check");
    await expect(page.getByRole("combobox", { name: "Product" })).toBeFocused();
    const hands = new Hands(page);
    await hands.type("FEED");
    await hands.key("Tab");
    await hands.type("40");
    await expect(answer(page)).toContainText("of 40 can be made now");
    expect([hands.keys, hands.presses]).toEqual([7, 0]);
  });

  test("an order of two lines takes 37 keys and no press: a line is its code, Tab, its quantity, Enter", async ({
    page,
  }) => {
    await page.goto("/orders");
    await expect(page.getByRole("link", { name: /O-1/ })).toBeVisible();
    const hands = new Hands(page);
    await hands.key("n");
    await expect(page.getByRole("combobox", { name: "Customer" })).toBeFocused();
    await hands.type("TARN");
    // The day and their reference are passed over.
    const field = () => page.evaluate(() => document.activeElement?.getAttribute("name"));
    while ((await field()) !== "lines.0.item") await hands.key("Tab");
    await hands.type("SMK-S");
    await hands.key("Tab");
    await hands.type("3");
    await hands.key("Enter");
    await expect(page.getByRole("combobox", { name: "Item 2" })).toBeFocused();
    await hands.type("KIT-TOOL");
    await hands.key("Tab");
    await hands.type("12");
    await hands.key("Control+Enter");
    await expect(answer(page)).toHaveText("Tarnholt Bee Club");
    expect(hands.presses).toBe(0);
    expect(hands.keys).toBeLessThanOrEqual(37);
  });

  test("a finish as planned, a receipt in full, and the reorder suggestions take 1, 3 and 2 presses", async ({
    page,
  }) => {
    const hands = new Hands(page);
    await page.goto("/builds/5");
    await hands.click(page.getByRole("button", { name: /^Finish 3/ }));
    await expect(page.getByText("3 of 3 pc").first()).toBeVisible();
    expect(hands.presses).toBeLessThanOrEqual(3);
    const receipt = new Hands(page);
    await page.goto("/buying");
    await receipt.click(page.getByRole("link", { name: /P-2/ }));
    await receipt.click(page.getByRole("button", { name: "Receive", exact: true }));
    await receipt.click(page.getByRole("dialog").getByRole("button", { name: "Receive", exact: true }));
    await expect(page.getByRole("heading", { name: /^Received as RC-\d+/ })).toBeVisible();
    expect(receipt.presses).toBeLessThanOrEqual(4);
    const reorder = new Hands(page);
    await page.goto("/buying");
    await reorder.click(page.getByRole("link", { name: "Reorder" }));
    await reorder.click(page.getByRole("button", { name: /^Accept \d+ suggestion/ }));
    await expect(page.getByText(/^Created /)).toBeVisible();
    expect(reorder.presses).toBeLessThanOrEqual(3);
  });
});
