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
  await expect(rows).toHaveCount(100);
  await expect(list.getByText("Heather show")).toHaveCount(0);
  await page.getByLabel("Filter orders").fill("heather");
  await expect(rows).toHaveCount(1);
  await expect(list.getByText("Heather show")).toBeVisible();
  await expect(list.getByRole("button", { name: /^Show more/ })).toHaveCount(0);
  await page.getByLabel("Filter orders").fill("");
  await expect(rows).toHaveCount(100);
  await list.getByRole("button", { name: "Show more (15 left)" }).click();
  await expect(rows).toHaveCount(MADE + 3);
  await expect(list.getByText("Heather show")).toBeVisible();
});
