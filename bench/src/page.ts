// What a person feels of the page: how long a key takes until it is painted, and how evenly a long list scrolls.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { type Browser, chromium, type Page } from "@playwright/test";
import { PLAIN_ORDER_LINE } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { change, makeApp, newFirm, newOrder, openStore } from "@yosegi/server";
import { BUSY, makeCompany } from "./make.ts";
import { against, report } from "./measure.ts";

/** Most times what a key takes in a list of five lines that it may take in one of two hundred. */
const MOST_TYPING = 3;
/** The same in an order of 500 lines. */
const MOST_ORDERING = 5;
/** Most times the steps of a scroll of fifty rows that those of a long list may take. */
const MOST_SCROLL = 2;
const RUNS = 40;
const SHORT = { product: 1, lines: 5 };
const LONG = { product: 2, lines: 200 };
/** Lines of the orders that are typed in. */
const ORDER = { few: 5, many: 500 };

const folder = mkdtempSync(join(tmpdir(), "yosegi-bench-"));
const file = join(folder, "busy.db");
console.log(`Making ${BUSY.items} items and ${BUSY.builds} open builds …`);
await (await makeCompany(file, BUSY)).close();
const store = await openStore(file, () => new Date("2026-01-01T09:00:00Z"));
const app = await makeApp(store, { page: fileURLToPath(new URL("../../web/dist", import.meta.url)) });
const address = await app.listen({ host: "127.0.0.1", port: 0 });

const customer = await change(store, 1, (ctx) =>
  newFirm(ctx, {
    kind: "customer",
    code: "CUS",
    name: "Customer",
    address: "",
    contact: "",
    email: "",
    phone: "",
    terms: "",
    note: "",
    onHold: false,
    creditLimit: null,
    taxExempt: false,
    group: "",
  }),
);
const browsers: Browser[] = [];

/** A page in a browser of its own: of several pages in one only the first is drawn. */
async function newPage(): Promise<Page> {
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
    args: ["--no-sandbox", "--disable-gpu"],
  });
  browsers.push(browser);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: "en-GB" });
  await page.addInitScript(() => localStorage.setItem("yosegi.person", "1"));
  return page;
}

/** Pastes a list of so many lines into the editor of a product, and stands in a quantity in the middle of it. */
async function openList({ product, lines }: typeof LONG): Promise<Page> {
  const page = await newPage();
  await page.goto(`${address}/catalog/${product}/parts-list`);
  await page.getByRole("combobox", { name: "Part 1", exact: true }).focus();
  // Parts that no list is about, so that none goes into itself.
  const rows = Array.from({ length: lines }, (_, i) => `PRT-${String(20_000 + i).padStart(6, "0")}\t1`).join(
    "\n",
  );
  await page.evaluate((data) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData("text/plain", data);
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }),
    );
  }, rows);
  const quantity = page.getByLabel(`Quantity of part ${Math.ceil(lines / 2)}`, { exact: true });
  await quantity.waitFor({ timeout: 60_000 });
  await quantity.focus();
  return page;
}

/** Presses a key and waits until what it did is painted. */
async function key(page: Page, name: string): Promise<void> {
  const heard = await page.evaluateHandle(() => ({
    painted: new Promise<void>((resolve) => {
      window.addEventListener("keydown", () => requestAnimationFrame(() => setTimeout(resolve)), {
        once: true,
      });
    }),
  }));
  await page.keyboard.press(name);
  await heard.evaluate(({ painted }) => painted);
}

/** Scrolls to the end of a list of documents until all of it is there. */
async function loadAll(page: Page, list: string): Promise<void> {
  const more = page.getByRole("button", { name: /^Show more/ });
  await more.waitFor();
  while ((await more.count()) > 0) {
    await page.evaluate((selector) => {
      const pane = document.querySelector(selector)?.parentElement;
      if (pane) pane.scrollTop = pane.scrollHeight;
    }, list);
    await page.waitForTimeout(20);
  }
}

/** Scrolls what lies in the middle of the list by a step, and waits until it is painted. */
const scroll = (page: Page, list: string) =>
  page.evaluate(
    (selector) =>
      new Promise<void>((resolve) => {
        const [found] = [...document.querySelectorAll(selector)].flatMap((node) => {
          for (let up: Element | null = node; up; up = up.parentElement)
            if (up.scrollHeight > up.clientHeight + 1 && getComputedStyle(up).overflowY === "auto")
              return [up];
          return [];
        });
        if (!found) throw new Error(`Nothing scrolls around ${selector}`);
        const down = found.scrollTop + 2 * found.clientHeight < found.scrollHeight;
        found.scrollTop = down ? found.scrollTop + 240 : 0;
        requestAnimationFrame(() => setTimeout(resolve));
      }),
    list,
  );

const short = await openList(SHORT);
const long = await openList(LONG);
let digit = 0;
const typing = await against(
  `a key in a list of ${LONG.lines} lines, of ${SHORT.lines}`,
  RUNS,
  () => key(long, String(1 + (digit++ % 9))),
  () => key(short, String(1 + (digit++ % 9))),
);

/** Opens an order of so many lines to be changed, and stands in a quantity in the middle of it. */
async function openOrder(lines: number): Promise<Page> {
  const { id } = await change(store, 1, (ctx) =>
    newOrder(ctx, {
      customer: customer.id,
      due: "2026-01-20",
      validUntil: null,
      reference: "",
      address: "",
      terms: "",
      costTag: "",
      note: "",
      goOn: false,
      texts: [],
      lines: Array.from({ length: lines }, (_, i) => ({
        ...PLAIN_ORDER_LINE,
        item: (i % (BUSY.productsBuilt * 2)) + 1,
        quantity: decimal(2),
        discount: decimal(0),
        toBuild: decimal(0),
      })),
    }),
  );
  const page = await newPage();
  await page.goto(`${address}/orders/${id}`);
  await page.getByRole("button", { name: "Change", exact: true }).click();
  const quantity = page.getByLabel(`Quantity ${Math.ceil(lines / 2)}`, { exact: true });
  await quantity.waitFor({ timeout: 60_000 });
  // The server works in this very process: what it answers when the form opens is not part of what a key takes.
  await page.getByRole("group", { name: "Total" }).waitFor({ timeout: 120_000 });
  await page.waitForLoadState("networkidle", { timeout: 120_000 });
  await quantity.focus();
  return page;
}

const [fewLines, manyLines] = [await openOrder(ORDER.few), await openOrder(ORDER.many)];
const ordering = await against(
  `a key in an order of ${ORDER.many} lines, of ${ORDER.few}`,
  RUNS,
  () => key(manyLines, String(1 + (digit++ % 9))),
  () => key(fewLines, String(1 + (digit++ % 9))),
);

const few = await newPage();
await few.goto(`${address}/builds?search=B-10`);
await few.getByRole("navigation", { name: "Builds", exact: true }).getByRole("link").first().waitFor();
const builds = await newPage();
await builds.goto(`${address}/builds`);
const list = 'nav[aria-label="Builds"]';
await loadAll(builds, list);
const scrolling = await against(
  `a scroll of ${BUSY.builds} builds, of some fifty`,
  RUNS,
  () => scroll(builds, list),
  () => scroll(few, list),
);
const items = await newPage();
await items.goto(`${address}/catalog`);
await items.getByRole("table", { name: "Items" }).waitFor();
const table = await against(
  "a scroll of the catalog, of some fifty builds",
  RUNS,
  () => scroll(items, 'table[aria-label="Items"]'),
  () => scroll(few, list),
);

await Promise.all(browsers.map((browser) => browser.close()));
await app.close();
await store.close();
rmSync(folder, { recursive: true });
const ok = [
  report([typing], MOST_TYPING),
  report([ordering], MOST_ORDERING),
  report([scrolling, table], MOST_SCROLL),
];
process.exit(ok.every(Boolean) ? 0 : 1);
