import type { Locator, Page } from "@playwright/test";
import { extractText } from "unpdf";
import { expect } from "./site.ts";

/** Holds back the answers to what is asked of an address, until what this gives is called. */
export async function holdAnswers(page: Page, address: string): Promise<() => void> {
  let give = () => {};
  const held = new Promise<void>((resolve) => {
    give = resolve;
  });
  await page.route(address, async (route) => {
    await held;
    await route.continue();
  });
  return give;
}

/** Types a code into an item field and goes on, as with a scan gun. */
export async function pick(field: Locator, code: string): Promise<void> {
  await field.click();
  await field.fill(code);
  await field.press("Tab");
  await expect(field).toHaveValue(new RegExp(`^${code} · `));
}

/** Types the name of a customer or supplier and goes on. */
export async function pickFirm(field: Locator, name: string): Promise<void> {
  await field.click();
  await field.fill(name);
  await field.press("Tab");
  await expect(field).toHaveValue(name);
}

/** Begins a new order of a customer, due in so many days; gives its dialog. */
export async function beginOrder(page: Page, customer: string, due: number): Promise<Locator> {
  await page.goto("/orders");
  await expect(page.getByText("Select an order.")).toBeVisible();
  await page.keyboard.press("n");
  const dialog = page.getByRole("dialog");
  await pickFirm(dialog.getByRole("combobox", { name: "Customer" }), customer);
  await dialog.getByRole("textbox", { name: "Due on" }).fill(`+${due}`);
  return dialog;
}

/** Asks the check in place of of a product. */
export async function check(page: Page, product: string, quantity: string): Promise<void> {
  await page.getByRole("link", { name: "Check", exact: true }).click();
  await pick(page.getByRole("combobox", { name: "Product" }), product);
  await page.getByLabel("How many").fill(quantity);
}

/** Makes a build from a check and queues it. */
export async function queue(page: Page, product: string, quantity: string): Promise<void> {
  await page.goto("/check");
  await check(page, product, quantity);
  await page.getByRole("button", { name: new RegExp(`^Build (all )?${quantity}`) }).click();
  await page.getByRole("button", { name: "Queue build" }).click();
  await expect(page.getByRole("button", { name: `Finish ${quantity}` })).toBeVisible();
}

/** The text of each cell of a table's row, found by a text in it. */
export async function cells(page: Page, table: string, row: string): Promise<string[]> {
  const line = page.getByRole("table", { name: table }).getByRole("row").filter({ hasText: row });
  await expect(line.first()).toBeVisible();
  const texts = (await line.getByRole("cell").allInnerTexts()).map((text) =>
    text.replace(/\s+/g, " ").trim(),
  );
  // The box that selects the row says nothing of it.
  return texts[0] === "" ? texts.slice(1) : texts;
}

/** Asks the server beside the page. */
export async function api<T>(page: Page, path: string, data?: object): Promise<T> {
  const headers = { "yosegi-person": "1", "idempotency-key": `${path} ${JSON.stringify(data)}` };
  const response = data
    ? await page.request.post(path, { headers, data })
    : await page.request.get(path, { headers });
  expect(response.status(), await response.text()).toBe(200);
  return (await response.json()) as T;
}

/** Ids of items by their codes. */
export const idsOf = async (page: Page, ...codes: string[]) =>
  (await api<{ items: { id: number }[] }>(page, "/api/items/look-up", { codes })).items.map(({ id }) => id);

/** Fetches all that an order waits for, so that it is packed; gives the order's id. */
export async function packOrder(page: Page, number: string): Promise<number> {
  const { picks } = await api<{ picks: { id: number; number: string }[] }>(page, "/api/picks");
  const id = picks.find((one) => one.number === number)?.id ?? 0;
  const { stops, ...round } = await api<{
    id: number;
    stops: { location: number; bin: string; item: { id: number }; quantity: string }[];
  }>(page, "/api/picks", { documents: [{ kind: "order", id }] });
  for (const { location, bin, item, quantity } of stops)
    await api(page, `/api/picks/${round.id}/fetch`, {
      location,
      bin,
      item: item.id,
      quantity,
      day: "2026-11-23",
    });
  return id;
}

/** The answer in large letters. */
export const answer = (page: Page): Locator => page.getByRole("heading", { level: 1 });

/** All text of a PDF, page by page. */
export async function pdfText(bytes: Buffer): Promise<string[]> {
  const { text } = await extractText(new Uint8Array(bytes));
  return text.map((page) => page.replace(/\s+/g, " "));
}

/** Types like a scanner: all keys at once, and Enter, to whatever has the focus. Sent one by one, a busy machine would slow them down. */
export const scan = (page: Page, code: string): Promise<void> =>
  page.evaluate(
    (keys) => {
      for (const key of keys)
        for (const type of ["keydown", "keyup"])
          document.activeElement?.dispatchEvent(
            new KeyboardEvent(type, { key, bubbles: true, cancelable: true }),
          );
    },
    [...code, "Enter"],
  );
