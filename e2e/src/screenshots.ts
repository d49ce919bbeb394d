import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import type { Page } from "@playwright/test";
import { expect, test } from "./site.ts";
import { beginOrder } from "./steps.ts";

const FOLDER = fileURLToPath(new URL("../../docs/screenshots/", import.meta.url));

/** One view of the application, and what is pressed there before its picture is taken. */
interface View {
  name: string;
  path: string;
  dark?: boolean;
  /** On a handheld instead of a wide screen. */
  phone?: boolean;
  before?: (page: Page) => Promise<void>;
}

/** Queues the 20 autumn feed of docs/rules.md § 5 and types its finish. */
async function typeFinish(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Build all 20" }).click();
  await page.getByRole("button", { name: "Queue build" }).click();
  await page.getByLabel("Used of SYR-72").fill("251.4");
  await page.getByLabel("Good", { exact: true }).fill("19");
  await page.getByLabel("Rejected", { exact: true }).fill("1");
  await page.getByLabel("Why rejected").fill("canister split");
  await expect(page.getByText("€21.6716 each for 19")).toBeVisible();
}

/** Queues the hives with scale and types their serial numbers, one of them twice. */
async function typeSerials(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Queue build" }).click();
  await page.getByLabel("Good", { exact: true }).fill("3");
  await page.getByLabel("Run from").fill("H-0098");
  await page.getByRole("button", { name: "Fill in 3" }).click();
  await page.getByLabel("Serial number 2", { exact: true }).fill("H-0098");
  await page.getByRole("heading", { name: "Who worked" }).scrollIntoViewIfNeeded();
}

async function importBadRows(page: Page): Promise<void> {
  const file = join(FOLDER, "../../.tsbuild/items.csv");
  const rows = [
    "code,name,kind,unit,tracking,cost,price,store,bin",
    "SMK-S,Smoker with guard,bought,pc,none,17.90,29.90,Front store,10-A",
    "WAX-B,Beeswax block,bought,kg,lot,11.20,,Yard,Y2-B",
    "VEIL-1,Spare veil,bought,piece,none,4.10,9.50,,",
    "STRAP-1,Ratchet strap,bought,pc,none,two,6.90,,",
  ];
  writeFileSync(file, rows.join("\r\n"));
  const opened = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Choose items", exact: true }).click();
  await (await opened).setFiles(file);
  await expect(page.getByRole("table", { name: "Problems" })).toBeVisible();
}

/** Reads a customer's message into a new order; two of its lines are for a person to settle. */
async function readMessage(page: Page): Promise<void> {
  const order = await beginOrder(page, "Tarnholt Bee Club", 9);
  await order.getByRole("button", { name: "Lines from a message or list" }).click();
  const read = page.getByRole("dialog", { name: "From a message or list" });
  await read
    .getByRole("textbox")
    .fill("Please send 12 first-year sets, 3 with large suits\n5 hive tols and 2 smokers");
  await read.getByRole("button", { name: "Find the items" }).click();
  await expect(read.getByText("2 lines to settle.")).toBeVisible();
}

/** Ships an order that is ready, and opens the sheet of its shipment. */
async function shipWhole(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Ship …" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByText(/margin/).first()).toBeVisible();
  await dialog.getByRole("button", { name: "Ship", exact: true }).click();
  await page.getByRole("link", { name: "S-1" }).click();
  await expect(page.getByRole("table", { name: "Shipped" })).toBeVisible();
}

/** Walks a round over two builds and two orders, with its first stops fetched and the next one begun. */
async function walkRound(page: Page): Promise<void> {
  for (const name of [/O-1/, /B-5/, /B-6/, /O-3/])
    await page.getByRole("checkbox", { name }).check({ force: true });
  await page.getByRole("button", { name: /^Walk 4/ }).click();
  for (let fetched = 1; fetched <= 3; fetched++) {
    await page.getByRole("button", { name: /^Take/ }).click();
    await expect(page.getByText(new RegExp(`^${fetched} of`))).toBeVisible();
  }
  await expect(page.getByText(/kept on this device/)).toHaveCount(0);
  const bin = await page.getByLabel("Scan", { exact: true }).getAttribute("placeholder");
  await page.getByLabel("Scan", { exact: true }).fill(bin?.replace("Scan ", "") ?? "");
  await page.getByLabel("Scan", { exact: true }).press("Enter");
  await expect(page.getByText("1 begun")).toBeVisible();
}

const VIEWS: View[] = [
  { name: "check", path: "/check?want=38%3B40" },
  { name: "pick", path: "/pick", phone: true },
  { name: "round", path: "/pick", phone: true, before: walkRound },
  { name: "order-phone", path: "/orders/2", phone: true },
  { name: "purchase", path: "/buying/1" },
  { name: "reorder", path: "/reorder" },
  { name: "build", path: "/check?want=38%3B20", before: typeFinish },
  { name: "bench", path: "/builds/2" },
  {
    name: "cost-sheet",
    path: "/builds/3",
    before: (page) => page.getByRole("heading", { name: /finished for/ }).scrollIntoViewIfNeeded(),
  },
  { name: "serials", path: "/builds/7", before: typeSerials },
  { name: "calendar", path: "/builds/calendar" },
  { name: "order", path: "/orders/2" },
  { name: "catalog", path: "/catalog" },
  { name: "parts-list", path: "/catalog/38/parts-list" },
  { name: "message", path: "/orders", before: readMessage },
  { name: "trace", path: "/trace?item=22&lot=HB-22" },
  { name: "shipment", path: "/orders/3", before: shipWhole },
  { name: "import", path: "/import", before: importBadRows },
  { name: "places", path: "/stock/places", dark: true },
];

for (const { name, path, dark = false, phone = false, before } of VIEWS)
  test(name, async ({ page }) => {
    mkdirSync(FOLDER, { recursive: true });
    await page.emulateMedia({ colorScheme: dark ? "dark" : "light" });
    if (phone) await page.setViewportSize({ width: 360, height: 740 });
    await page.goto(path);
    await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
    await page.waitForLoadState("networkidle");
    await before?.(page);
    // Messages that pass would be in the way of the picture.
    await expect(page.getByRole("alertdialog")).toHaveCount(0, { timeout: 10_000 });
    await page.mouse.move(0, 0);
    writeFileSync(join(FOLDER, `${name}.png`), await page.screenshot());
  });
