import { scrollsSideways } from "./room.ts";
import { expect, test } from "./site.ts";
import { api, cells, check, idsOf, pick, queue } from "./steps.ts";

test("two hives with scales are taken apart by serial number, one scale damaged; its card tells it all, and each is undone", async ({
  page,
}) => {
  const [hive = 0, scales = 0] = await idsOf(page, "HIVE-C", "SCL-E");
  await queue(page, "HIVE-C", "2");
  await page.getByLabel("Run from").fill("H-0007");
  await page.getByRole("button", { name: "Fill in 2" }).click();
  await page.getByRole("button", { name: "Finish 2", exact: true }).click();
  await expect(page.getByText(/serial numbers H-0007/)).toBeVisible();
  await page.goto(`/catalog/${hive}`);
  await page.getByRole("button", { name: /^Take apart .* H-0008$/ }).click();
  const dialog = page.getByRole("dialog");
  const built = dialog.getByRole("button", { name: /Built by$/ });
  await expect(built).toHaveText("B-8, 2 pc left");
  // Where it is not believed, the parts list says what to expect.
  await built.click();
  await page.getByRole("option", { name: "not known: by the parts list" }).click();
  await expect(built).toHaveText("not known: by the parts list");
  await expect(dialog.getByLabel("Serial number of SCL-E")).toHaveValue("");
  await built.click();
  await page.getByRole("option", { name: "B-8, 2 pc left" }).click();
  await expect(dialog.getByLabel("Serial number of SCL-E")).toHaveCount(0);
  const scale = dialog.getByRole("row").filter({ hasText: "SCL-E" });
  const [damagedScale = ""] = ((await scale.textContent()) ?? "").match(/SC-\d+/) ?? [];
  await scale.getByLabel(/^Damaged of SCL-E/).fill("1");
  await expect(scale.getByLabel(/^Good of SCL-E/)).toHaveValue("0");
  await scale.getByLabel(/^Good of SCL-E/).fill("1");
  await dialog.getByRole("button", { name: "Take apart", exact: true }).click();
  await expect(dialog.getByText("Good, damaged and missing must add up to 1 pc.")).toBeVisible();
  await scale.getByLabel(/^Good of SCL-E/).fill("0");
  await dialog.getByLabel("Why").fill("Its scale fell");
  await pick(dialog.getByRole("combobox", { name: "Work" }), "LAB-B");
  await dialog.getByLabel("Time spent").fill("30");
  await expect(dialog.getByText(/taken apart, .* back in stock; the time costs €16\.00/)).toBeVisible();
  await page.setViewportSize({ width: 360, height: 740 });
  expect(await scrollsSideways(page)).toEqual([]);
  await page.setViewportSize({ width: 1280, height: 800 });
  await dialog.getByRole("button", { name: "Take apart", exact: true }).click();
  await expect(page.getByRole("heading", { name: "1 pc Hive with scale taken apart" })).toBeVisible();
  const [, expected, good, damaged] = await cells(page, "Parts", "SCL-E");
  expect([expected, good, damaged]).toEqual(["1 pc", "0 pc", "1 pc"]);
  await expect(page.getByText("30 min, €16.00")).toBeVisible();
  await page.goto(`/trace?item=${hive}&serial=H-0008`);
  await expect(page.getByText("taken apart (T-2)")).toBeVisible();
  // The scale's own card says where it came from, where it was, and what became of it.
  await page.goto(`/trace?item=${scales}&serial=${damagedScale}&direction=backward`);
  await expect(page.getByText("scrapped (T-2)")).toBeVisible();
  for (const document of ["T-2", "B-8"]) await expect(page.getByText(document).first()).toBeVisible();

  // The other one has a good scale, which lies in stock again.
  await page.goto(`/catalog/${hive}`);
  await page.getByRole("button", { name: /^Take apart .* H-0007$/ }).click();
  await expect(built).toHaveText("B-8, 1 pc left");
  await dialog.getByRole("button", { name: "Take apart", exact: true }).click();
  await expect(page.getByText(/^T-3 · H-0007 · from /)).toBeVisible();
  await page.goto("/builds/8");
  await expect(page.getByText(/, 2 taken apart since/)).toBeVisible();

  // Undone, exactly mirrored.
  for (const number of ["3", "2"]) {
    await page.goto(`/take-aparts/${number}`);
    await page.getByRole("button", { name: "Undo …" }).click();
    await page.getByRole("button", { name: "Undo take-apart" }).click();
    await expect(page.getByText(`T-${number} undone.`)).toBeVisible();
  }
  await page.goto(`/catalog/${hive}`);
  for (const serial of ["H-0007", "H-0008"])
    await expect(page.getByRole("button", { name: new RegExp(`^Take apart .* ${serial}$`) })).toBeVisible();
});

test("more than there is is refused, and met by a count", async ({ page }) => {
  await page.goto("/take-aparts");
  await expect(page.getByRole("link", { name: /T-1/ })).toBeVisible();
  await page.keyboard.press("n");
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("combobox", { name: "Product" }).fill("HIVE-N");
  await page.keyboard.press("Tab");
  await dialog.getByLabel("Quantity").fill("3");
  await expect(dialog.getByLabel("Expected of FRM-A")).toHaveValue("60");
  await dialog.getByRole("button", { name: "Take apart", exact: true }).click();
  await expect(dialog.getByText("Only 2 pc of HIVE-N are in Yard Y6-A.")).toBeVisible();
  // Something nobody wrote down is inside, too.
  const found = dialog.getByRole("combobox", { name: "Something else was inside" });
  await found.fill("HTL-J");
  await found.press("Tab");
  await expect(dialog.getByLabel("Expected of HTL-J")).toHaveValue("1");
  // At the bench the good parts are scanned; what was not scanned is missing.
  const scanned = dialog.getByLabel("Scan", { exact: true });
  for (const code of ["FRM-A", "58"]) {
    await scanned.fill(code);
    await scanned.press("Enter");
  }
  await expect(dialog.getByText("FRM-A: 58 of 60 good")).toBeVisible();
  await expect(dialog.getByLabel("Good of FRM-A")).toHaveValue("58");
  await expect(dialog.getByLabel("Missing of FRM-A")).toHaveValue("2");
  await expect(dialog.getByLabel("Missing of HTL-J")).toHaveValue("1");
  // Fewer are taken apart: what was typed and found stays.
  await dialog.getByLabel("Quantity").fill("2");
  await expect(dialog.getByLabel("Good of FRM-A")).toHaveValue("38");
  await expect(dialog.getByLabel("Missing of FRM-A")).toHaveValue("2");
  await expect(dialog.getByLabel("Missing of HTL-J")).toHaveValue("1");

  // The third one stands there: it is counted, and then taken apart.
  const [hive = 0] = await idsOf(page, "HIVE-N");
  await page.goto(`/catalog/${hive}`);
  await page.getByRole("button", { name: /^Count Yard Y6-A/ }).click();
  await dialog.getByLabel("Counted", { exact: true }).fill("3");
  await dialog.getByLabel("Reason").fill("Behind the others");
  await dialog.getByRole("button", { name: "Save count" }).click();
  await expect(dialog).toHaveCount(0);
  await page.getByRole("button", { name: /^Take apart Yard Y6-A/ }).click();
  await expect(dialog.getByLabel("Good of FRM-A")).toHaveValue("60");
  await dialog.getByRole("button", { name: "Take apart", exact: true }).click();
  await expect(page.getByRole("heading", { name: "3 pc Complete hive taken apart" })).toBeVisible();
});

test("a shortage in the check is met by taking apart, and undone again", async ({ page }) => {
  const [hive = 0, frame = 0] = await idsOf(page, "HIVE-N", "FRM-A");
  const line = { item: hive, quantity: "20", store: "Yard", bin: "Y6-A", unitCost: "148.00" };
  await api(page, "/api/stock/receipts", { lines: [line], day: "2026-11-23", reason: "too many made" });
  const { id } = await api<{ id: number }>(page, "/api/items", {
    code: "NUC-5",
    name: "Small hive of five frames",
    kind: "built",
    unit: "pc",
  });
  const saved = await page.request.put(`/api/items/${id}/parts-list`, {
    headers: { "yosegi-person": "1", "idempotency-key": "list" },
    data: {
      makes: "1",
      usual: "1",
      overhead: "0",
      extra: "0",
      yield: "100",
      lines: [{ part: "FRM-A", quantity: "5", unit: "pc" }],
    },
  });
  expect(saved.status(), await saved.text()).toBe(200);
  await page.goto("/check");
  await check(page, "NUC-5", "100");
  const way = page.getByRole("table", { name: "Take apart" });
  await expect(way).toContainText("Complete hive");
  const free = async () => (await api<{ free: string }>(page, `/api/items/${frame}`)).free;
  const before = await free();
  await way.getByRole("button", { name: "Take apart 10 HIVE-N" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByLabel("Expected of FRM-A")).toHaveValue("200");
  await dialog.getByLabel("Why").fill("Its frames are needed");
  await dialog.getByRole("button", { name: "Take apart", exact: true }).click();
  await expect(page.getByText("Taken apart as T-2.")).toBeVisible();
  await expect(way).toHaveCount(0);
  expect(Number(await free()) - Number(before)).toBe(200);
  await page.goto("/take-aparts/2");
  await page.getByRole("button", { name: "Undo …" }).click();
  await page.getByRole("button", { name: "Undo take-apart" }).click();
  await expect(page.getByText("T-2 undone.")).toBeVisible();
  await check(page, "NUC-5", "100");
  await expect(way).toBeVisible();
});
