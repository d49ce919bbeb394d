import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import type { Page } from "@playwright/test";
import { expect, test } from "./site.ts";
import { api, idsOf, packOrder, pick, scan } from "./steps.ts";

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

/** Counts a bin of which something is missing. */
async function countBin(page: Page): Promise<void> {
  await page.getByRole("button", { name: "New count" }).click();
  await page.getByRole("dialog").getByLabel("Bins").fill("02-A, 02-B, 03-A, 03-B");
  await page.getByRole("dialog").getByRole("button", { name: "Create count sheet" }).click();
  const fields = page.getByRole("textbox", { name: /^Counted / });
  await fields.first().fill("50");
  await fields.first().press("Enter");
  await expect(page.getByRole("heading", { name: /^1 of / })).toBeVisible();
}

/** Scans what is moved from one bin to another. */
async function moveByScan(page: Page): Promise<void> {
  for (const code of ["02-B", "FRM-A", "60", "05-A", "Y2-A", "HB-22"]) await scan(page, code);
  await expect(page.getByText("HON-B HB-22 from Y2-A")).toBeVisible();
}

/** A hive is about to be taken apart, with two frames that are damaged. */
async function takeHiveApart(page: Page): Promise<void> {
  await expect(page.getByRole("link", { name: /T-1/ })).toBeVisible();
  await page.keyboard.press("n");
  const dialog = page.getByRole("dialog");
  await pick(dialog.getByRole("combobox", { name: "Product" }), "HIVE-N");
  await dialog.getByLabel("Good of FRM-A").fill("18");
  await dialog.getByLabel("Damaged of FRM-A").fill("2");
  await expect(dialog.getByText(/^damaged €[1-9]/)).toBeVisible();
}

/** Belts that tore go back to their supplier. */
async function sendBelts(page: Page): Promise<void> {
  const [belt = 0, bearing = 0] = await idsOf(page, "BELT-X", "BRG-6");
  const lines = [
    { item: belt, quantity: "2", store: "Yard", bin: "Y4-A" },
    { item: bearing, quantity: "1", store: "Yard", bin: "Y4-A" },
  ];
  const { id } = await api<{ id: number }>(page, "/api/supplier-returns", {
    supplier: 3,
    day: "2026-11-23",
    reason: "Belts tear at the seam",
    credit: "12.50",
    lines,
  });
  await page.goto(`/supplier-returns/${id}`);
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
}

/** A second rework has steps of its own, one of them overdue. */
async function addSteps(page: Page): Promise<void> {
  const [extractor = 0] = await idsOf(page, "EXT-2");
  const units = [{ serial: "EX-0077", quantity: "1", store: "Yard", bin: "Y5-A" }];
  const { id } = await api<{ id: number }>(page, "/api/reworks", {
    item: extractor,
    day: "2026-11-23",
    units,
  });
  for (const step of [
    { what: "Beat the frame straight", person: 2, due: "2026-11-22" },
    { what: "Paint the legs", person: 3, due: "2026-11-24", hour: "14:30", state: "under way" },
    { what: "Polish the tap" },
  ])
    await api(page, `/api/reworks/${id}/steps`, step);
  await page.reload();
  await page.getByRole("checkbox", { name: "Beat the frame straight" }).check({ force: true });
  await expect(page.getByRole("button", { name: "Mark as done" })).toBeEnabled();
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

/** The goods of an order are packed, and some are checked by scan. */
async function checkPacking(page: Page): Promise<void> {
  await packOrder(page, "O-3");
  await page.getByRole("button", { name: "Check packing" }).click();
  await expect(page.getByRole("heading", { name: "Packed for O-3" })).toBeVisible();
  for (const code of ["CARD-C", "6", "STRIP-T", "ALL", "SYRG-5", "4"]) await scan(page, code);
}

const VIEWS: View[] = [
  { name: "check", path: "/check?want=38%3B40" },
  { name: "round", path: "/pick", phone: true, before: walkRound },
  { name: "return", path: "/returns/1" },
  { name: "take-apart", path: "/take-aparts", before: takeHiveApart },
  { name: "supplier-return", path: "/supplier-returns", before: sendBelts },
  { name: "reorder", path: "/reorder" },
  { name: "build", path: "/check?want=38%3B20", before: typeFinish },
  { name: "move", path: "/stock/book", before: moveByScan },
  { name: "today", path: "/today" },
  { name: "order", path: "/orders/2" },
  { name: "catalog", path: "/catalog" },
  { name: "parts-list", path: "/catalog/38/parts-list" },
  { name: "rework", path: "/reworks/1" },
  { name: "rework-steps", path: "/reworks/steps", before: addSteps },
  { name: "trace", path: "/trace?item=22&lot=HB-22" },
  { name: "shipment", path: "/orders/3", before: shipWhole },
  { name: "count", path: "/stock/counts", before: countBin },
  { name: "packed", path: "/orders/3", before: checkPacking },
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
    await expect(page.locator("[aria-busy=true]")).toHaveCount(0);
    // Messages that pass would be in the way of the picture.
    await expect(page.getByRole("alertdialog")).toHaveCount(0);
    await page.mouse.move(0, 0);
    writeFileSync(join(FOLDER, `${name}.png`), await page.screenshot());
  });
