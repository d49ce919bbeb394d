import { gzipSync } from "node:zlib";
import { expect, test } from "./site.ts";

/** Orders that are made beside those of the demo company, so that its list has more than a page. */
const MADE = 112;

test("a list of more than a page is searched whole, and more of it is shown on request", async ({
  page,
  baseURL,
}) => {
  const { firms } = await (await page.request.get(`${baseURL}/api/firms?kind=customer`)).json();
  const { items } = await (await page.request.get(`${baseURL}/api/items?search=FEED-12`)).json();
  for (let i = 1; i <= MADE; i++) {
    const made = await page.request.post(`${baseURL}/api/orders`, {
      headers: { "idempotency-key": `order-${i}`, "yosegi-person": "1" },
      data: {
        customer: firms[0].id,
        due: "2027-03-20",
        reference: i === MADE ? "Heather show" : "",
        note: "",
        lines: [{ id: null, item: items[0].id, quantity: "1", price: null, pricePer: "" }],
      },
    });
    expect(made.ok(), await made.text()).toBe(true);
  }
  await page.goto("/orders");
  const list = page.getByLabel("Orders", { exact: true });
  const rows = list.getByRole("link");
  const more = list.getByRole("button", { name: "Show more (15 left)" });
  await expect(more).toBeAttached();
  // Only what is in view is in the page.
  expect(await rows.count()).toBeLessThan(60);
  await expect(list.getByText("Heather show")).toHaveCount(0);
  await page.getByLabel("Filter orders").fill("heather");
  await expect(rows).toHaveCount(1);
  await expect(list.getByText("Heather show")).toBeVisible();
  await expect(list.getByRole("button", { name: /^Show more/ })).toHaveCount(0);
  await page.getByLabel("Filter orders").fill("");
  await expect(more).toBeAttached();
  // Coming near the end is a request for the rest.
  await more.scrollIntoViewIfNeeded();
  await expect(more).toHaveCount(0);
  const last = list.getByText("Heather show");
  await expect(async () => {
    await list.hover();
    await page.mouse.wheel(0, 2000);
    await expect(last).toBeVisible({ timeout: 500 });
  }).toPass();
});

test.describe("looked at", () => {
  test.use({ database: "looked at", loadsAhead: true });

  test("the first page needs at most 300 kB, and a page is loaded when it is opened", async ({ page }) => {
    const sizes = new Map<string, number>();
    const errors: string[] = [];
    page.on("console", (message) => message.type() === "error" && errors.push(message.text()));
    page.on("response", async (response) => {
      const { pathname } = new URL(response.url());
      if (/\.(js|css)$/.test(pathname)) sizes.set(pathname, gzipSync(await response.body()).length);
    });
    await page.goto("/check");
    await expect(page.getByRole("heading", { name: "Check what you can build" })).toBeVisible();
    const first = [...sizes.values()].reduce((sum, size) => sum + size, 0);
    expect(first).toBeGreaterThan(100_000);
    expect(first).toBeLessThan(300_000);
    await expect(page).toHaveTitle("Check – Yosegi");
    expect(errors).toEqual([]);
    // The others follow once it stands, so that they open also while the server is away.
    await expect.poll(() => [...sizes.keys()].some((path) => path.includes("/builds-"))).toBe(true);
    await page.waitForLoadState("networkidle");
    await page.route("**/assets/**", (route) => route.abort());
    await page.getByRole("link", { name: /^Buying/ }).click();
    await expect(page).toHaveTitle("Buying – Yosegi");
  });

  test("the tab is called by what is open", async ({ page }) => {
    await page.goto("/builds/5");
    await expect(page).toHaveTitle("B-5 · Builds – Yosegi");
    await page.getByRole("link", { name: "Catalog" }).click();
    await expect(page).toHaveTitle("Catalog – Yosegi");
  });

  test("a page that can't be loaded says so, and leaves the menu", async ({ page }) => {
    await page.route("**/assets/settings-*.js", (route) => route.abort());
    await page.goto("/settings");
    await expect(page.getByRole("heading", { name: "This page couldn't be loaded" })).toBeVisible();
    await page.getByRole("link", { name: /^Stock/ }).click();
    await expect(page).toHaveTitle("Stock – Yosegi");
  });
});
