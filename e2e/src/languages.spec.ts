import { expect, test } from "./site.ts";

const SCREENS = [
  "/orders/2",
  "/check?want=38%3B40",
  "/builds/2",
  "/builds/3",
  "/builds/calendar",
  "/builds/orders",
  "/builds/several",
  "/builds/repeat",
  "/catalog",
  "/catalog/38",
  "/catalog/38/lists",
  "/catalog/41",
  "/prices?wish=40",
  "/suppliers/1",
  "/buying/2",
  "/reorder",
  "/outbox/2",
  "/settings",
  "/import",
  "/stock",
];

/** How figures and days of another language would stand on a page. */
const FOREIGN = {
  "de-DE": [
    /[€$][ \u00a0]?\d/,
    /\d,\d{3}\.\d/,
    /\b\d{1,2} (Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)\b/,
  ],
  "en-GB": [/\d[ \u00a0]?€/, /\d\.\d{3},\d/, /\b\d{1,2}\.\d{1,2}\.(?!\d)/],
} as const;

/** Words that a page of another language would have: words are English whatever the device speaks. */
const GERMAN = /\b(heute|gestern|morgen|vor \d+ Tagen|in \d+ Tagen|und|Menge|Bau)\b/;

for (const locale of ["de-DE", "en-GB"] as const)
  test.describe(`a device that speaks ${locale}`, () => {
    test.use({ database: "looked at", locale });
    test("has its own figures and days on every page, among English words", async ({ page }) => {
      for (const path of SCREENS) {
        await page.goto(path);
        await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
        await page.waitForLoadState("networkidle");
        // As it is shown, a cell apart from the next; what papers say is in the company's own style.
        const text = await page.evaluate(() =>
          [...document.querySelectorAll("body *:not([data-paper])")]
            .flatMap((node) => [...node.childNodes].filter((child) => child.nodeType === Node.TEXT_NODE))
            .map((child) => child.textContent)
            .join("\n"),
        );
        for (const foreign of FOREIGN[locale]) expect(text, path).not.toMatch(foreign);
        expect(text, path).not.toMatch(GERMAN);
      }
      await page.goto("/check?want=38%3B40");
      const money = locale === "de-DE" ? /\d,\d\d\s€/ : /€\d+\.\d\d/;
      await expect(page.getByText(money).first()).toBeVisible();
    });
  });
