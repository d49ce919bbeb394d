import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import type { Page } from "@playwright/test";
import { expect, test } from "./site.ts";

const FOLDER = fileURLToPath(new URL("../../docs/screenshots/", import.meta.url));

interface Shot {
  path: string;
  dark?: boolean;
  before?: (page: Page) => Promise<void>;
}

/** A picture: one view, or several that belong together, two beside each other. */
interface View extends Partial<Shot> {
  name: string;
  shots?: Shot[];
}

/** Queues the 20 autumn feed of docs/rules.md § 5 and types its finish. */
async function typeFinish(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Build all 20" }).click();
  await page.getByRole("button", { name: "Queue it: reserve the parts" }).click();
  await page.getByLabel("Used of SYR-72").fill("251.4");
  await page.getByLabel("Good", { exact: true }).fill("19");
  await page.getByLabel("Rejected", { exact: true }).fill("1");
  await page.getByLabel("Why rejected").fill("canister split");
  await expect(page.getByText("€21.6716 each for 19")).toBeVisible();
}

/** Queues the hives with scale and types their serial numbers, one of them twice. */
async function typeSerials(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Queue it: reserve the parts" }).click();
  await page.getByLabel("Good", { exact: true }).fill("3");
  await page.getByLabel("Run from").fill("H-0098");
  await page.getByRole("button", { name: "Fill in 3" }).click();
  await page.getByLabel("Serial number 2", { exact: true }).fill("H-0098");
  await page.getByRole("heading", { name: "Who worked" }).scrollIntoViewIfNeeded();
}

/** Puts the labels of a finished build into the tray. */
async function fillTray(page: Page): Promise<void> {
  for (const build of [1, 3]) {
    await page.goto(`/builds/${build}`);
    await page.getByRole("button", { name: "Labels" }).click();
    await page.getByRole("button", { name: "Into the label tray" }).click();
    await expect(page.getByRole("dialog")).toHaveCount(0);
  }
  await page.goto("/labels");
  await expect(page.getByRole("img").first()).toBeVisible();
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

/** Changes the locked list of HON-4 and looks at what that makes of it. */
async function compare(page: Page): Promise<void> {
  await page.getByLabel("Waste of part 1").fill("2.5");
  await page.getByRole("button", { name: "Remove part 4" }).click();
  await page.getByRole("combobox", { name: "Part 5" }).fill("CARD-C");
  await page.keyboard.press("Tab");
  await page.getByLabel("Quantity of part 5").fill("1");
  await page.getByRole("button", { name: "Save as the next revision" }).click();
  await page.getByRole("link", { name: "Compare with 1" }).click();
  await expect(page.getByRole("table", { name: "Changed lines" })).toBeVisible();
}

/** Presses a button, and what comes up because of it. */
const press =
  (...names: string[]) =>
  async (page: Page): Promise<void> => {
    for (const name of names) await page.getByRole("button", { name }).first().click();
    await page.waitForLoadState("networkidle");
  };

const VIEWS: View[] = [
  { name: "check", path: "/check?want=38%3B40" },
  {
    name: "check-part",
    path: "/check?want=35%3B300",
    before: press("Deep wax foundation: reserved for whom"),
  },
  { name: "what-if", path: "/check?want=38%3B40&if=&if.want=0%3B30&if.stock=19%3B60" },
  {
    name: "best-mix",
    path: "/check?want=35%3B300&want=36%3B20&want=38%3B40",
    before: async (page) => {
      await press("Best mix", "Figure it")(page);
      await expect(page.getByRole("table", { name: "Best mix" })).toBeVisible();
    },
  },
  { name: "purchase", path: "/buying/1" },
  { name: "reorder", path: "/reorder" },
  { name: "build", path: "/check?want=38%3B20", before: typeFinish },
  { name: "bench", path: "/builds/2" },
  {
    name: "cost-sheet",
    path: "/builds/3",
    before: (page) => page.getByRole("heading", { name: /finished for/ }).scrollIntoViewIfNeeded(),
  },
  {
    name: "finishing",
    shots: [
      { path: "/builds/7", before: typeSerials },
      { path: "/builds/2", before: press("More of FND-D") },
      { path: "/builds/2", before: press("Count FND-D") },
      { path: "/builds/1", before: press("Labels") },
    ],
  },
  {
    name: "planning",
    shots: [
      { path: "/builds/calendar" },
      { path: "/builds/several" },
      { path: "/builds/repeat" },
      { path: "/labels", before: fillTray },
    ],
  },
  {
    name: "orders",
    shots: [
      { path: "/orders/2" },
      {
        path: "/orders/2",
        before: async (page) => {
          await page.getByRole("button", { name: "Change", exact: true }).click();
          await page.getByRole("button", { name: "Another line" }).click();
          await page.getByRole("combobox", { name: "Item 2" }).fill("KIT");
          await expect(page.getByRole("option").first()).toBeVisible();
        },
      },
    ],
  },
  { name: "catalog", shots: [{ path: "/catalog" }, { path: "/catalog/38" }] },
  { name: "parts-list", path: "/catalog/38/parts-list" },
  {
    name: "revisions",
    shots: [{ path: "/catalog/38/lists" }, { path: "/catalog/39/parts-list", before: compare }],
  },
  {
    name: "upkeep",
    shots: [
      { path: "/replace?part=20&successor=19&per=2" },
      { path: "/prices?wish=40" },
      { path: "/suppliers/1" },
      { path: "/outbox/2" },
    ],
  },
  { name: "kit", shots: [{ path: "/catalog/41" }, { path: "/catalog/44/kit" }] },
  { name: "import", path: "/import", before: importBadRows },
  { name: "ledger", path: "/stock", dark: true },
];

/** Goes to a view and takes its picture. */
async function take(page: Page, { path, dark = false, before }: Shot): Promise<Buffer> {
  await page.emulateMedia({ colorScheme: dark ? "dark" : "light" });
  await page.goto(path);
  await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
  await page.waitForLoadState("networkidle");
  await before?.(page);
  // Messages that pass would be in the way of the picture.
  await expect(page.getByRole("alertdialog")).toHaveCount(0, { timeout: 10_000 });
  await page.mouse.move(0, 0);
  return page.screenshot();
}

/** Several pictures as one, two beside each other. */
async function together(page: Page, pictures: readonly Buffer[]): Promise<Buffer> {
  const images = pictures.map((p) => `<img src="data:image/png;base64,${p.toString("base64")}">`);
  await page.setViewportSize({ width: 2576, height: 100 });
  await page.goto("about:blank");
  await page.setContent(
    `<style>body{margin:0;background:#d8ccb6;display:grid;grid-template-columns:1280px 1280px;gap:16px}img{display:block}</style>${images.join("")}`,
  );
  return page.screenshot({ fullPage: true });
}

for (const { name, shots, path = "", ...view } of VIEWS)
  test(name, async ({ page }) => {
    mkdirSync(FOLDER, { recursive: true });
    const pictures: Buffer[] = [];
    for (const shot of shots ?? [{ path, ...view }]) pictures.push(await take(page, shot));
    const [first] = pictures;
    if (!first) throw new Error(`${name} shows nothing`);
    writeFileSync(
      join(FOLDER, `${name}.png`),
      pictures.length === 1 ? first : await together(page, pictures),
    );
  });
