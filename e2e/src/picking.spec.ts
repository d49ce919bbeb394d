import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { scrollsSideways, smallTargets } from "./room.ts";
import { expect, test } from "./site.ts";
import { queue, scan } from "./steps.ts";

test.use({ viewport: { width: 360, height: 740 } });

interface Stop {
  location: number;
  bin: string;
  item: { id: number; code: string; tracking: string };
  lot: string;
  serial: string;
  quantity: string;
}

/** What the server says of a round. */
const roundOf = async (page: Page): Promise<{ id: number; stops: Stop[] }> =>
  (await page.request.get(`/api/picks/${page.url().split("/").at(-1)}`)).json();

/** Chooses what to fetch for, and starts the round. */
async function start(page: Page, ...names: RegExp[]): Promise<void> {
  await page.goto("/pick");
  for (const name of names) await page.getByRole("checkbox", { name }).check({ force: true });
  await page.getByRole("button", { name: /^(Walk \d|Pick [OB]-)/ }).click();
  await expect(page.getByRole("heading", { name: /^PR-\d+$/ })).toBeVisible();
}

const said = (page: Page) => page.getByRole("status").filter({ hasText: /\S/ });

test("a round for two builds and an order, by scans only, up to the next step", async ({ page }) => {
  await start(page, /Honey 454 g/, /Complete hive/, /Millrow Garden Centre/);
  await expect(page.getByText("B-5, B-6")).toBeVisible();
  const { stops } = await roundOf(page);
  const [first] = stops;
  await expect(page.getByRole("region", { name: "Go to" })).toBeVisible();
  // What is said aloud for a moment names things that are gone by then.
  const { violations } = await new AxeBuilder({ page }).setLegacyMode(true).exclude("[role=log]").analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ target }) => target.join(" "))])).toEqual([]);
  expect(await scrollsSideways(page)).toEqual([]);
  expect(await smallTargets(page)).toEqual([]);
  // Wrong bin, wrong item: each says what is expected.
  await scan(page, "99-Z");
  await expect(said(page).first()).toContainText(`99-Z is not where to go. Go to ${first?.bin}.`);
  await scan(page, first?.bin ?? "");
  await expect(said(page).first()).toContainText("Right bin.");
  await scan(page, "EXT-2");
  await expect(said(page).first()).toContainText(`EXT-2 is not what to take here. Take ${first?.item.code}.`);
  for (const { bin, item, lot, serial } of stops) {
    await scan(page, bin);
    await scan(page, item.code);
    if (lot !== "" || serial !== "") await scan(page, serial || lot);
    if (serial === "") await scan(page, "ALL");
    await expect(said(page).first()).toContainText(`${item.code} taken`);
  }
  await expect(page.getByRole("heading", { name: "All fetched" })).toBeVisible();
  await expect(page.getByText(`${stops.length} of ${stops.length} fetched`)).toBeVisible();
  await expect(page.getByRole("link", { name: "Finish B-6" })).toBeVisible();
  await page.getByRole("link", { name: "Ship O-3" }).click();
  await expect(page.getByRole("heading", { name: "Millrow Garden Centre" })).toBeVisible();
  await page.getByRole("button", { name: /^Ship / }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByText("from Packed O-3").first()).toBeVisible();
  await dialog.getByRole("button", { name: "Ship", exact: true }).click();
  await expect(page.getByText("Shipped as S-1.")).toBeVisible();
});

test("a substitute that the parts list allows is fetched for what is left short, and given back before that", async ({
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await queue(page, "FEED-12", "20");
  await page.setViewportSize({ width: 360, height: 740 });
  await start(page, /Autumn feed/);
  const labels = page.getByRole("list", { name: "Then" }).getByRole("button", { name: /label/i });
  await labels.click();
  await page.getByRole("button", { name: "Other …" }).click();
  await page.getByRole("button", { name: "Leave it short" }).click();
  await expect(page.getByText("Not fetched: 21 pc LBL-F for B-8 (left short)")).toBeVisible();
  const takeOther = page.getByRole("button", { name: "Take LBL-H instead of LBL-F for B-8" });
  await takeOther.click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByLabel("Of LBL-F, to be replaced")).toHaveValue("21");
  await dialog.getByLabel("Of LBL-F, to be replaced").fill("22");
  await dialog.getByRole("button", { name: "Fetch LBL-H instead" }).click();
  await expect(dialog.getByText("Only 21 pc of LBL-F are still to be handed out.")).toBeVisible();
  await dialog.getByLabel("Of LBL-F, to be replaced").fill("5");
  await dialog.getByRole("button", { name: "Fetch LBL-H instead" }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByText("Not fetched: 16 pc LBL-F for B-8 (left short)")).toBeVisible();
  expect(await scrollsSideways(page)).toEqual([]);
  expect(await smallTargets(page)).toEqual([]);
  await page.getByRole("button", { name: "Take LBL-F again for B-8" }).click();
  await expect(page.getByText("Not fetched: 21 pc LBL-F for B-8 (left short)")).toBeVisible();
  await takeOther.click();
  await dialog.getByRole("button", { name: "Fetch LBL-H instead" }).click();
  await expect(page.getByText(/^Not fetched/)).toHaveCount(0);
  await labels.click();
  await page.getByRole("button", { name: "Take 21 pc" }).click();
  await expect(page.getByText("1 of 5 fetched")).toBeVisible();
  await expect(page.getByRole("list", { name: "Substitutes taken" })).toHaveCount(0);
});

test("by touch only, with a bin that holds less than the books say, and one fetch undone", async ({
  page,
}) => {
  await start(page, /Honey 454 g/);
  const { stops } = await roundOf(page);
  expect(stops.map(({ item }) => item.code)).toEqual(["HON-B", "JAR-4", "LID-63"]);
  await page.getByRole("button", { name: /^Take 110/ }).click();
  await expect(page.getByText("1 of 3 fetched")).toBeVisible();
  // 200 jars are there, and no more.
  await page.getByRole("button", { name: "Other …" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Taken").fill("200");
  await dialog.getByText("Count the bin: the books are wrong").click();
  await dialog.getByRole("button", { name: "Take", exact: true }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByRole("button", { name: /^Take 240/ })).toBeVisible();
  await page.getByRole("button", { name: /^Take 240/ }).click();
  await expect(page.getByRole("heading", { name: "All fetched" })).toBeVisible();
  await expect(page.getByText("Not fetched: 40 pc JAR-4 for B-6 (not in stock)")).toBeVisible();
  await page.getByRole("button", { name: /3 fetches recorded/ }).click();
  await page.getByRole("button", { name: "Undo LID-63" }).click();
  await expect(page.getByRole("button", { name: /^Take 240/ })).toBeVisible();
});

test("two people on one round see each other's progress, and it is handed over", async ({
  page,
  browser,
  baseURL,
}) => {
  await start(page, /Complete hive/);
  const context = await browser.newContext({ baseURL: baseURL ?? "", viewport: { width: 360, height: 740 } });
  const other = await context.newPage();
  await other.addInitScript(() => localStorage.setItem("yosegi.person", "3"));
  await other.goto(page.url());
  await expect(other.getByText("0 of 5 fetched")).toBeVisible();
  await page.getByRole("button", { name: /^Take / }).click();
  await expect(other.getByText("1 of 5 fetched")).toBeVisible();
  await other.getByRole("button", { name: /^Take / }).click();
  await expect(page.getByText("2 of 5 fetched")).toBeVisible();
  await page.getByRole("button", { name: /Steps of PR-2/ }).click();
  await page.getByRole("menuitem", { name: "Hand over to Maren" }).click();
  await expect(page.getByText("PR-2 is now Maren's.")).toBeVisible();
  await context.close();
});

test.describe("without a connection", () => {
  test.use({ serviceWorkers: "allow" });

  /** Waits until the page would open without the server. */
  const ready = (page: Page) =>
    page.evaluate(async () => {
      await navigator.serviceWorker.ready;
      // The worker keeps the answers that it gave itself.
      if (!navigator.serviceWorker.controller)
        await new Promise((resolve) =>
          navigator.serviceWorker.addEventListener("controllerchange", resolve, { once: true }),
        );
    });

  test("a scan is kept on the device, through a reload, and recorded once when the server is back", async ({
    page,
    context,
  }) => {
    await start(page, /Complete hive/);
    await ready(page);
    await page.reload();
    await expect(page.getByText("0 of 5 fetched")).toBeVisible();
    await context.setOffline(true);
    await page.getByRole("button", { name: /^Take / }).click();
    await expect(page.getByText(/1 of 5 fetched.*1 kept on this device/)).toBeVisible();
    await page.reload();
    await expect(page.getByText(/1 of 5 fetched.*1 kept on this device/)).toBeVisible();
    await page.getByRole("button", { name: /^Take / }).click();
    await expect(page.getByText(/2 of 5 fetched.*2 kept on this device/)).toBeVisible();
    await context.setOffline(false);
    await expect(page.getByText(/kept on this device/)).toHaveCount(0);
    await expect(page.getByText("2 of 5 fetched")).toBeVisible();
    const round = await (await page.request.get("/api/picks/2")).json();
    expect(round.fetched).toHaveLength(2);
  });

  test("a scan that is refused afterwards holds back only its own line, and is settled", async ({
    page,
    context,
  }) => {
    await start(page, /Complete hive/);
    await ready(page);
    const { stops } = await roundOf(page);
    const [first, second] = stops;
    await context.setOffline(true);
    await page.getByRole("button", { name: /^Take / }).click();
    await expect(page.getByText(/1 of 5 fetched/)).toBeVisible();
    await page.getByRole("button", { name: /^Take / }).click();
    await expect(page.getByText(/2 of 5 fetched/)).toBeVisible();
    // Meanwhile somebody counted the first bin, and found nothing in it.
    const counted = await page.request.post("/api/stock/counts", {
      headers: { "yosegi-person": "2", "idempotency-key": "count-1" },
      data: {
        item: first?.item.id,
        store: "Front store",
        bin: first?.bin,
        there: "0",
        reason: "empty",
        day: "2026-11-23",
      },
    });
    expect(counted.status()).toBe(200);
    await context.setOffline(false);
    await expect(page.getByText(/was not recorded/)).toBeVisible();
    await expect(page.getByText(/The books have 0 pc of/)).toBeVisible();
    await expect(page.getByText(/kept on this device/)).toHaveCount(0);
    await expect(page.getByRole("button", { name: new RegExp(`${second?.item.code}`) })).toHaveCount(0);
    await page.getByRole("button", { name: "Record it: the bin is empty now" }).click();
    await expect(page.getByText(/was not recorded/)).toHaveCount(0);
    await expect(page.getByText("2 of 5 fetched")).toBeVisible();
  });
});

test("a picker's choice of lots, and a fixed one that needs a reason", async ({ page }) => {
  const headers = (key: string) => ({ "yosegi-person": "1", "idempotency-key": key });
  const { items } = await (
    await page.request.post("/api/items/look-up", { data: { codes: ["SYR-72"] } })
  ).json();
  const other = "HS-200";
  const received = await page.request.post("/api/stock/receipts", {
    headers: headers("receipt"),
    data: {
      lines: [
        {
          item: items[0].id,
          quantity: "50",
          unitCost: "1.35",
          store: "Yard",
          bin: "Y1-A",
          lot: other,
          expiry: "2030-01-01",
        },
      ],
      day: "2026-11-23",
    },
  });
  expect(received.status()).toBe(200);
  const { firms } = await (await page.request.get("/api/firms?kind=customer")).json();
  const ordered = await page.request.post("/api/orders", {
    headers: headers("order"),
    data: { customer: firms[0].id, lines: [{ item: items[0].id, quantity: "6", price: "4.00" }] },
  });
  expect(ordered.status()).toBe(200);
  await start(page, new RegExp((await ordered.json()).number));
  const { stops } = await roundOf(page);
  const [stop] = stops;
  expect([stop?.bin, stop?.lot]).toEqual(["Y1-A", "HS-118"]);
  // The picker may take the other lot of the bin, and it is written down.
  await scan(page, stop?.bin ?? "");
  await scan(page, other);
  await page.getByLabel("Scan", { exact: true }).fill("2");
  await page.getByLabel("Scan", { exact: true }).press("Enter");
  await expect(page.getByText("1 of 2 fetched")).toBeVisible();
  const item = await (await page.request.get(`/api/items/${items[0].id}`)).json();
  const fixed = await page.request.put(`/api/items/${item.id}`, {
    headers: headers("fixed"),
    data: { ...item, price: item.ownPrice, lotFixed: true },
  });
  expect(fixed.status()).toBe(200);
  await page.reload();
  await expect(page.getByRole("region", { name: "Go to" })).toBeVisible();
  await scan(page, stop?.bin ?? "");
  await scan(page, other);
  await expect(said(page).first()).toContainText(
    `Take lot ${stop?.lot}. To take ${other}, press Other and say why.`,
  );
  await page.getByRole("button", { name: "Other …" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: /Lot/ }).click();
  await page.getByRole("option", { name: other }).click();
  await dialog.getByLabel("Why another one").fill("the first drum leaks");
  await dialog.getByRole("button", { name: "Take", exact: true }).click();
  await expect(page.getByRole("heading", { name: "All fetched" })).toBeVisible();
  // The page answers a scan at once, and sends it after that.
  await expect
    .poll(async () => {
      const round = await (await page.request.get("/api/picks/2")).json();
      return round.fetched.map((one: { lot: string; reason: string }) => [one.lot, one.reason]);
    })
    .toEqual([
      [other, "the first drum leaks"],
      [other, ""],
    ]);
});
