import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { scrollsSideways, smallTargets } from "./room.ts";
import { expect, test } from "./site.ts";

const SCREENS = [
  ["today", "/today"],
  ["orders", "/orders"],
  ["check", "/check?want=38%3B40"],
  ["a check of several, with what if", "/check?want=35%3B300&want=36%3B20&if=&if.stock=6%3B40"],
  ["an order", "/orders/2"],
  ["orders ready to ship", "/orders/ready"],
  ["shipments", "/shipments"],
  ["a return", "/returns/1"],
  ["take-aparts", "/take-aparts"],
  ["a rework", "/reworks/1"],
  ["the steps of reworks", "/reworks/steps"],
  ["several reworks at once", "/reworks/several"],
  ["builds", "/builds"],
  ["a build", "/builds/2"],
  ["a finished build", "/builds/3"],
  ["the calendar of builds", "/builds/calendar"],
  ["several builds at once", "/builds/several"],
  ["builds for orders", "/builds/orders"],
  ["recurring builds", "/builds/repeat"],
  ["the label tray", "/labels"],
  ["catalog", "/catalog"],
  ["an item", "/catalog/38"],
  ["a parts list", "/catalog/38/parts-list"],
  ["a kit", "/catalog/41"],
  ["a kit's contents", "/catalog/41/kit"],
  ["lists and revisions", "/catalog/38/lists"],
  ["prices", "/prices?wish=40"],
  ["price lists", "/price-lists"],
  ["a price list", "/price-lists/2"],
  ["a customer", "/customers/8"],
  ["replacing", "/replace?part=8&successor=6"],
  ["suppliers", "/suppliers"],
  ["a supplier", "/suppliers/1"],
  ["a purchase order", "/buying/2"],
  ["reorder", "/reorder"],
  ["outbox", "/outbox/2"],
  ["settings", "/settings"],
  ["import", "/import"],
  ["what to pick", "/pick"],
  ["a round under way", "/pick/1"],
  ["what is packed for an order", "/orders/3/packed"],
  ["a lot", "/trace?item=22&lot=HB-22"],
  ["ledger", "/stock"],
  ["where everything is", "/stock/places"],
  ["counts", "/stock/counts"],
  ["moving stock", "/stock/book"],
  ["receiving stock", "/stock/book?do=receive"],
] as const;

/** Looks at the page alone: it has no frames of others, for which a page of its own would be opened each time. */
const look = (page: Page) =>
  new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ["violations"] });

async function faults(axe: AxeBuilder): Promise<string[]> {
  const { violations } = await axe.analyze();
  return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`);
}

/** Words with a capital inside: names in the code have them, what a shop person reads or hears has none. */
const namesOfCode = (snapshot: string): string[] =>
  snapshot.replaceAll(/\/url: .*/g, "").match(/\b[A-Za-z]*[a-z][A-Z][a-z]\w*/g) ?? [];

test.describe("screens that are only looked at", () => {
  test.use({ database: "looked at" });

  for (const [name, path] of SCREENS)
    test(`${name} says its names, has contrast, light and dark, and fits a tablet and a phone`, async ({
      page,
    }) => {
      await page.emulateMedia({ colorScheme: "light" });
      await page.goto(path);
      await expect(page.getByRole("navigation", { name: "Main menu" })).toBeVisible();
      await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
      await page.waitForLoadState("networkidle");
      expect(await faults(look(page))).toEqual([]);
      expect(namesOfCode(await page.locator("body").ariaSnapshot())).toEqual([]);
      // The same names in other colours: only these are looked at again.
      await page.emulateMedia({ colorScheme: "dark" });
      expect(await faults(look(page).withRules("color-contrast"))).toEqual([]);
      for (const width of [1024, 820, 360]) {
        await page.setViewportSize({ width, height: 740 });
        expect(await scrollsSideways(page), `at ${width} px`).toEqual([]);
      }
      expect(await smallTargets(page)).toEqual([]);
    });
});

/** What is opened over a page, or shown after a refusal, and how to come there. */
const OPENED: readonly (readonly [name: string, path: string, open: (page: Page) => Promise<void>])[] = [
  [
    "a new order that is refused",
    "/orders",
    async (page) => {
      await page.getByRole("button", { name: "New n" }).click();
      await page.keyboard.press("Control+Enter");
      await expect(page.locator("[aria-invalid=true]").first()).toBeFocused();
    },
  ],
  [
    "a message that is settled",
    "/orders",
    async (page) => {
      await page.getByRole("button", { name: "New n" }).click();
      await page.getByRole("button", { name: "Lines from a message or list" }).click();
      const read = page.getByRole("dialog", { name: "From a message or list" });
      await read.getByRole("textbox").fill("12 first-year sets, 3 with large suits\n5 hive tols");
      await read.getByRole("button", { name: "Find the items" }).click();
      await expect(read.getByText("2 lines to settle.")).toBeVisible();
    },
  ],
  ["a shipment", "/orders/2", (page) => page.keyboard.press("s")],
  [
    "what came back, inspected",
    "/returns/1",
    (page) => page.getByRole("button", { name: "Inspect SUIT-L" }).click(),
  ],
  [
    "a product taken apart",
    "/catalog/36",
    async (page) => {
      await page
        .getByRole("button", { name: /^Take apart / })
        .first()
        .click();
      await expect(page.getByRole("dialog").getByLabel("Good of FRM-A")).toBeVisible();
    },
  ],
  [
    "what papers say",
    "/settings",
    async (page) => {
      await page.getByRole("button", { name: "Change papers" }).click();
    },
  ],
  [
    "stock taken in by hand",
    "/catalog/38",
    (page) => page.getByRole("button", { name: "Receive stock" }).click(),
  ],
  ["a count", "/catalog/8", (page) => page.getByRole("button", { name: /^Count Front store/ }).click()],
  [
    "further steps of a build",
    "/builds/7",
    (page) => page.getByRole("button", { name: "More actions for B-7" }).click(),
  ],
  [
    "a choice of columns",
    "/stock",
    (page) => page.getByRole("button", { name: "Columns of Movements" }).click(),
  ],
  [
    "the parts of a build",
    "/builds/7",
    async (page) => {
      await page.getByRole("button", { name: "More actions for B-7" }).click();
      await page.getByRole("menuitem", { name: /Change its parts/ }).click();
      await expect(page.getByRole("dialog", { name: "Parts of B-7" })).toBeVisible();
    },
  ],
  [
    "a list of items",
    "/check",
    (page) => page.getByRole("combobox", { name: "Product" }).pressSequentially("FEED"),
  ],
  [
    "a calendar",
    "/check?want=38%3B40",
    (page) => page.getByRole("button", { name: "Wanted on: open the calendar" }).click(),
  ],
  [
    "one part of a check",
    "/check?want=38%3B40",
    (page) => page.getByRole("button", { name: "More about Feed label" }).click(),
  ],
  [
    "the menu of a phone",
    "/orders",
    async (page) => {
      await page.setViewportSize({ width: 360, height: 740 });
      await page.getByRole("button", { name: "Menu" }).click();
    },
  ],
];

test.describe("what opens over a page", () => {
  test.use({ database: "looked at" });
  for (const [name, path, open] of OPENED)
    test(`${name} says its names and has contrast`, async ({ page }) => {
      await page.goto(path);
      await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
      await open(page);
      await expect(page.locator("[role=dialog], [role=menu], [role=listbox]").first()).toBeVisible();
      await page.waitForLoadState("networkidle");
      // While a list is open the page around is hidden from a screen reader, though the field in it keeps the focus.
      const axe = look(page);
      const list = page.getByRole("listbox");
      expect(await faults((await list.count()) > 0 ? axe.include("[role=listbox]") : axe)).toEqual([]);
    });
});

test("dialogs fit at 360 px", async ({ page }) => {
  await page.setViewportSize({ width: 360, height: 740 });
  for (const [path, button] of [
    ["/orders/2", "Change"],
    ["/orders/2", "Ship …"],
    ["/builds/7", "Change"],
    ["/buying/1", "Receive"],
    ["/customers/8", "Change"],
    ["/take-aparts", "New"],
  ] as const) {
    await page.goto(path);
    await page.getByRole("button", { name: button, exact: true }).click();
    const dialog = page.getByRole("dialog");
    await expect(dialog).toBeVisible();
    expect(await scrollsSideways(page), path).toEqual([]);
    const beyond = await dialog.evaluate((node) =>
      [node, ...node.querySelectorAll("*")].some((e) => e.getBoundingClientRect().right > 360),
    );
    expect(beyond, path).toBe(false);
  }
});

test("an address that leads nowhere says so, and a lost server too", async ({ page, context }) => {
  await page.goto("/nowhere");
  await expect(page.getByRole("heading", { name: "Page not found" })).toBeVisible();
  await page.goto("/catalog/9999");
  await expect(page.getByText("There is no item 9999.")).toBeVisible();
  await page.goto("/builds/7");
  await expect(page.getByRole("button", { name: "Queue build" })).toBeVisible();
  await context.setOffline(true);
  await page.getByRole("button", { name: "Queue build" }).click();
  await expect(page.getByText(/^Can't reach the server\. We don't know yet/)).toBeVisible();
  await context.setOffline(false);
  await page.getByRole("button", { name: "Queue build" }).click();
  await expect(page.getByRole("button", { name: "Finish 4" })).toBeVisible();
});
