import type { Page } from "@playwright/test";
import { expect, test } from "./site.ts";
import { answer, cells, check, pdfText, pickFirm, queue } from "./steps.ts";

const finish = (page: Page, quantity: string) =>
  page.getByRole("button", { name: `Finish ${quantity}`, exact: true }).click();

test("half of a build with a substitute, waste and two people; the rest later, with the cost of both", async ({
  page,
}) => {
  await queue(page, "FEED-12", "20");
  const handOut = page.getByRole("button", { name: "Hand out 5 parts to the bench" });
  await page.getByLabel("Handed out on", { exact: true }).fill("+1");
  await handOut.click();
  await expect(page.getByText("The date is in the future.")).toBeVisible();
  await page.getByLabel("Handed out on", { exact: true }).fill("-1");
  await handOut.click();
  await expect(page.getByText("Parts for B-8 are on the bench.")).toBeVisible();
  expect((await cells(page, "Parts used", "LBL-F")).slice(1, 4)).toEqual(["21 pc", "21 pc", "3 pc"]);

  // Ten are done: a label roll was torn, so other labels were taken, and a sheet of labels of them was spoilt.
  await page.getByLabel("Good", { exact: true }).fill("10");
  await expect(page.getByLabel("Used of LBL-F")).toHaveValue("11");
  await page.getByRole("button", { name: "More of LBL-F" }).click();
  await page.getByRole("button", { name: /^Honey label \(.* free\)$/ }).click();
  await expect(page.getByLabel("Used of LBL-F")).toHaveValue("0");
  expect((await cells(page, "Parts used", "LBL-H"))[0]).toBe("Honey label LBL-H · instead of LBL-F");
  await page.getByLabel("Used of LBL-H").fill("12");
  await page.getByRole("button", { name: "More of CAN-12" }).click();
  const more = page.getByRole("dialog");
  await more.getByLabel("Used in all").fill("11");
  await more.getByLabel("Of which scrapped").fill("1");
  await more.getByRole("button", { name: "Done" }).click();
  await expect(more.getByText("Enter why it was scrapped.")).toBeVisible();
  await more.getByLabel("Why scrapped").fill("dented");
  await more.getByRole("button", { name: "Done" }).click();
  await expect.poll(async () => (await cells(page, "Parts used", "CAN-12"))[5]).toBe("+1 pc +€2.10");
  await page.getByRole("button", { name: "Add person" }).click();
  await page.getByRole("button", { name: "Add person" }).click();
  await page.getByLabel("Time 1").fill("9");
  await page.getByLabel("Time 2").fill("8");
  await expect(page.getByText(/^Below the reorder level afterwards: .*Feed label/)).toBeVisible();
  await finish(page, "10");

  await expect(page.getByRole("heading", { name: /^10 pc finished for €/ })).toBeVisible();
  await expect(page.getByText("1 pc Canister 12.5 L scrapped: dented")).toBeVisible();
  await expect(page.getByText(/Ines 9 min · Tobias 8 min/)).toBeVisible();
  await expect(page.getByText("10 of 20 pc")).toBeVisible();
  // The rest is planned right: all 21 labels are on the bench still, 10 are needed.
  expect((await cells(page, "Parts used", "LBL-F")).slice(1, 3)).toEqual(["10 pc", "21 pc"]);
  await expect(page.getByLabel("Lot")).toHaveValue(/^AF-\d{4}-2$/);
  await finish(page, "10");
  await expect(page.getByRole("heading", { name: /^20 pc finished for €/ })).toBeVisible();
  expect((await cells(page, "Cost sheet by part", "LBL-H")).slice(1, 4)).toEqual([
    "0 pc",
    "12 pc",
    "+12 pc +€1.44",
  ]);
  await expect(page.getByText("Margin")).toBeVisible();

  // The last part is undone, exactly as it was; then all of it.
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.getByRole("button", { name: "Undo this finish" }).click();
  await expect(page.getByText("10 of 20 pc")).toBeVisible();
  expect((await cells(page, "Parts used", "LBL-F")).slice(1, 3)).toEqual(["10 pc", "21 pc"]);
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.getByRole("button", { name: "Undo this finish" }).click();
  await expect(page.getByText("0 of 20 pc")).toBeVisible();
  await expect(page.getByText(/^Undone .* by /)).toHaveCount(2);
  await page.getByRole("button", { name: "More actions for B-8" }).click();
  await page.getByRole("menuitem", { name: "Return parts to stock …" }).click();
  await page.getByRole("button", { name: "Return to stock" }).click();
  await expect(page.getByText("Parts for B-8 are back in stock.")).toBeVisible();
  await page.getByRole("button", { name: "More actions for B-8" }).click();
  await page.getByRole("menuitem", { name: "Cancel the build …" }).click();
  await page.getByRole("button", { name: "Cancel B-8" }).click();
  await check(page, "FEED-12", "40");
  await expect(answer(page)).toContainText("22 of 40 can be made now.");
  // The ledger says for which day the parts were handed out, where it is not the one on which it was keyed.
  await page.goto("/stock?document=B-8");
  await expect(page.getByText(/ · for \d+ \w+/)).toHaveCount(5);
});

test("what there is is handed out, what it does for is finished, and all of it undone in one press", async ({
  page,
}) => {
  await queue(page, "FEED-12", "30");
  await page.getByRole("button", { name: "Hand out 5 parts to the bench" }).click();
  await expect(page.getByText("Sugar syrup: 374.85 needed, 300 L in stock")).toBeVisible();
  await expect(page.getByText("Feed label: 32 needed, 24 pc in stock")).toBeVisible();
  await page.getByRole("button", { name: "Hand out what's available" }).click();
  await expect(page.getByText("Parts for B-8 are on the bench.")).toBeVisible();
  await expect
    .poll(async () => (await cells(page, "Parts used", "LBL-F")).slice(1, 4))
    .toEqual(["32 pc", "24 pc", "0 pc"]);

  await page.getByLabel("Good", { exact: true }).fill("10");
  await page.getByRole("button", { name: "Finish 10" }).click();
  await expect(page.getByText("10 of 30 pc")).toBeVisible();
  await expect(page.getByText("At most 12 pc can be finished.")).toBeVisible();
  await page.getByRole("button", { name: "Finish 12 instead" }).click();
  await expect(page.getByText("Not enough stock on record.")).toHaveCount(0);
  await page.getByRole("button", { name: "Finish 12" }).click();
  await expect(page.getByText("22 of 30 pc")).toBeVisible();

  await page.getByRole("button", { name: "Undo", exact: true }).first().click();
  await page.getByRole("dialog").getByRole("button", { name: "Cancel", exact: true }).click();
  await expect(page.getByText("22 of 30 pc")).toBeVisible();
  await page.getByRole("button", { name: "Undo", exact: true }).first().click();
  await page.getByRole("button", { name: "Undo all 22 pc" }).click();
  await expect(page.getByText("0 of 30 pc")).toBeVisible();
  await expect(page.getByText(/^Undone .* by /)).toHaveCount(2);
  await expect
    .poll(async () => (await cells(page, "Parts used", "LBL-F")).slice(1, 4))
    .toEqual(["32 pc", "24 pc", "0 pc"]);
});

test("undo is refused where the units have moved on, and says where to", async ({ page }) => {
  await page.goto("/builds/5");
  await page.getByLabel("Good", { exact: true }).fill("1");
  await finish(page, "1");
  await expect(page.getByRole("heading", { name: /^1 pc finished/ })).toBeVisible();
  // All three hives there are go into hives with a scale.
  await queue(page, "HIVE-C", "3");
  await page.getByRole("button", { name: "Fill in 3" }).click();
  await expect(page.getByText("Start with a number that ends in digits, e.g. H-0001.")).toBeVisible();
  await page.getByLabel("Run from").fill("H-0001");
  await page.getByRole("button", { name: "Fill in 3" }).click();
  await finish(page, "3");
  await expect(page.getByRole("heading", { name: /^3 pc finished/ })).toBeVisible();
  await page.goto("/builds/5");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.getByRole("button", { name: "Undo this finish" }).click();
  await expect(page.getByText("This can no longer be undone: HIVE-N has moved since, in B-8.")).toBeVisible();
  await page.getByRole("dialog").getByRole("button", { name: "Cancel", exact: true }).click();
  await expect(page.getByText("1 of 3 pc")).toBeVisible();
});

test("serial numbers from a run, pasted and scanned; what is wrong is mended in place or renumbered", async ({
  page,
}) => {
  await queue(page, "HIVE-C", "1");
  await page.getByLabel("Run from").fill("H-0098");
  await page.getByRole("button", { name: "Fill in 1" }).click();
  await expect(page.getByLabel("Serial number 1", { exact: true })).toHaveValue("H-0098");
  await finish(page, "1");
  await expect(page.getByText("serial numbers H-0098 · H-0098 with SC-2041")).toBeVisible();

  await page.goto("/check");
  await check(page, "HIVE-C", "1");
  await page.getByRole("button", { name: "Build all 1" }).click();
  await page.getByRole("button", { name: "Change", exact: true }).click();
  await page.getByRole("dialog").getByLabel("How many").fill("3");
  await page.getByRole("button", { name: "Save" }).click();
  await page.getByRole("button", { name: "Queue build" }).click();
  await expect(page.getByLabel("Run from")).toHaveValue("H-0099");
  const unit = (n: number) => page.getByLabel(`Serial number ${n}`, { exact: true });
  await page.context().grantPermissions(["clipboard-read", "clipboard-write"]);
  const paste = async (text: string) => {
    await page.evaluate((copied) => navigator.clipboard.writeText(copied), text);
    await unit(1).focus();
    await page.keyboard.press("Control+v");
  };
  // Numbers in a line of a message are as good as a column of a spreadsheet, in which one is in use and one comes twice.
  await paste("H-0101, H-0102; H-0103");
  await expect(unit(3)).toHaveValue("H-0103");
  await paste("H-0098\nH-0105\nH-0105");
  await expect(unit(3)).toHaveValue("H-0105");
  await expect(page.getByText("Already used.")).toHaveCount(1);
  await expect(page.getByText("Entered twice.")).toHaveCount(1);
  // One is mended in place by a scan, which ends with Enter and goes on to the next.
  await unit(1).fill("");
  await unit(1).pressSequentially("H-0104");
  await unit(1).press("Enter");
  await expect(unit(2)).toBeFocused();
  await expect(page.getByText("Already used.")).toHaveCount(0);
  await page.getByRole("button", { name: "Renumber the 1 marked" }).click();
  await expect(unit(3)).toHaveValue("H-0106");
  await expect(page.getByText("Entered twice.")).toHaveCount(0);
  // Only one hive is left: the three cannot be finished, one can, and it says which scale went in.
  await page.getByRole("button", { name: "Finish 1 instead" }).click();
  await page.getByRole("button", { name: /SCL-E in unit 1/ }).click();
  await page.getByRole("option", { name: "SCL-E SC-2043" }).click();
  await finish(page, "1");
  await expect(page.getByText("H-0104 with SC-2043")).toBeVisible();
  // The number leads to the unit: what went into it, and where it went.
  const scan = page.getByLabel("Scan or search by code, number or name");
  await page.keyboard.press("/");
  await scan.pressSequentially("h-0104");
  await scan.press("Enter");
  await expect(answer(page)).toHaveText("Serial number H-0104");
  await expect(page.getByRole("link", { name: "serial SC-2043" })).toBeVisible();
});

test("short on the books, but there on the shelf: counted, and finished in the same step", async ({
  page,
}) => {
  await queue(page, "FEED-12", "22");
  await page.getByLabel("Used of LBL-F").fill("30");
  await expect(page.getByText("Feed label: 30 needed, 24 on record, 6 pc short")).toBeVisible();
  await expect(page.getByRole("button", { name: /^Take Honey label instead/ })).toBeVisible();
  await page.getByRole("button", { name: "Count LBL-F" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Counted").fill("40");
  await dialog.getByRole("button", { name: "Save count" }).click();
  await expect(dialog.getByText("Say what was found, or why.")).toBeVisible();
  await dialog.getByLabel("Reason").fill("a roll behind the rack");
  await dialog.getByRole("button", { name: "Save count" }).click();
  await expect(page.getByText("Counted: 40 pc of Feed label in Front store 06-A")).toBeVisible();
  await finish(page, "22");
  await expect(page.getByText("Feed label counted +16 pc: a roll behind the rack")).toBeVisible();
  await page.getByRole("link", { name: "movements" }).click();
  const counted = page
    .getByRole("table", { name: "Movements" })
    .getByRole("row")
    .filter({ hasText: "a roll behind" });
  await expect(counted).toContainText("+16 pc");
});

test("the build sheet as PDF, its code scanned; labels into the tray", async ({ page }) => {
  await page.goto("/builds/2");
  await expect(answer(page)).toHaveText("400 × Assembled frame");
  const opened = page.context().waitForEvent("request", (asked) => asked.url().includes("/api/build-sheets"));
  await page.getByRole("button", { name: "Print sheet" }).click();
  const address = (await opened).url();
  expect(address).toContain("/api/build-sheets?ids=2");
  const answered = await page.request.get(address);
  const [text = ""] = await pdfText(await answered.body());
  expect(text).toContain("300 pc × Assembled frame");
  expect(text).toContain("B-2 · FRM-A · on the bench");
  expect(text).toContain("Done by");
  expect(text).toContain("Deep wax foundation FND-D · Wired side up. bench WX-31, WX-32 300 pc");
  expect(text).toContain("Wood glue GLUE-W · drawn at finish 03-B 1.5 L");
  expect(text).toContain("For the spring hives");

  // The code on the paper says the number; scanned into the field at the top it opens the build from anywhere.
  await page.goto("/stock");
  const scan = page.getByLabel("Scan or search by code, number or name");
  await scan.pressSequentially("B-2");
  await scan.press("Enter");
  await expect(page).toHaveURL(/\/builds\/2$/);

  await page.goto("/builds/1");
  await page.getByRole("button", { name: "Labels" }).click();
  await page.getByRole("button", { name: "Add to label tray" }).click();
  await expect(page.getByText("Labels for B-1 added to the tray.")).toBeVisible();
  await page.goto("/labels");
  await expect(answer(page)).toHaveText("8 labels to print");
  await expect(page.getByRole("img", { name: "Code 128 of AF-01" })).toBeVisible();
  const labels = await pdfText(await (await page.request.get("/api/label-sheets")).body());
  expect(labels.join(" ").match(/Lot AF-01/g)).toHaveLength(8);
  await page.getByRole("button", { name: "Mark as printed" }).click();
  await expect(answer(page)).toHaveText("No labels to print");
});

test("several at once: what can be finished is, what cannot is named", async ({ page }) => {
  await page.goto("/builds/several");
  for (const number of ["B-2", "B-5", "B-7"]) await page.getByText(number, { exact: true }).waitFor();
  await page.getByRole("checkbox", { name: "Select all open builds" }).press("Space");
  await page.getByRole("button", { name: "Finish 3 builds as planned" }).click();
  const status = page.getByRole("status").filter({ hasText: "B-5" });
  await expect(status).toContainText("B-5: finished.");
  await expect(status).toContainText("B-6: finished.");
  await expect(status).toContainText("B-2: Not enough stock on record of Deep wax foundation.");
  await expect(page.getByRole("button", { name: "Print 1 sheet" })).toBeVisible();
});

test("several drafts are queued at once", async ({ page }) => {
  await page.goto("/builds/several");
  await page.getByRole("checkbox", { name: "Select B-7" }).press("Space");
  await page.getByRole("checkbox", { name: "Select B-5" }).press("Space");
  // Only what is a draft.
  await page.getByRole("button", { name: "Queue 1 build" }).click();
  await expect(page.getByRole("status").filter({ hasText: "B-7" })).toContainText("B-7: queued.");
  await expect(page.getByRole("row").filter({ hasText: "B-7" })).toContainText("queued");
});

test("split, join and copy; the filters and the calendar follow", async ({ page }) => {
  await page.goto("/builds/5");
  await page.getByRole("button", { name: "More actions for B-5" }).click();
  await page.getByRole("menuitem", { name: "Split in two …" }).click();
  await page.getByLabel("Split off").fill("3");
  await page.getByRole("button", { name: "Split", exact: true }).click();
  await expect(page.getByText("B-5 has 3 pc left to make; leave some of it.")).toBeVisible();
  await page.getByLabel("Split off").fill("1");
  await page.getByRole("button", { name: "Split", exact: true }).click();
  await expect(answer(page)).toHaveText("1 × Complete hive");
  await expect(page.getByRole("definition").filter({ hasText: "B-5" })).toBeVisible();

  await page.goto("/builds/1");
  await page.getByRole("button", { name: "More actions for B-1" }).click();
  await page.getByRole("menuitem", { name: "Duplicate …" }).click();
  await page.getByText("Plan what B-1 really used").click();
  await page.getByRole("button", { name: "Create draft" }).click();
  await expect(page.getByText("Uses the same parts as B-1, scaled.")).toBeVisible();

  await page.goto("/builds");
  await page.getByRole("button", { name: /Assigned to/ }).click();
  await page.getByRole("option", { name: "Maren" }).click();
  await expect(page.getByRole("navigation", { name: "Builds", exact: true }).getByRole("link")).toHaveCount(
    1,
  );
  await page.goto("/builds?tag=spring");
  await expect(page.getByRole("navigation", { name: "Builds", exact: true }).getByRole("link")).toHaveText(
    /B-2/,
  );
  await page.goto("/builds/calendar");
  await expect(
    page.getByRole("table", { name: "Calendar of builds" }).getByRole("link", { name: /HON-4/ }),
  ).toBeVisible();
});

test("kept in stock and built on fixed days", async ({ page }) => {
  await page.goto("/builds/repeat");
  await expect(answer(page)).toHaveText("Autumn feed 12.5 L is to be built");
  await page.getByRole("button", { name: "Add recurring build" }).click();
  const dialog = page.getByRole("dialog");
  const product = dialog.getByRole("combobox", { name: "Product" });
  await product.fill("HON-4");
  await product.press("Tab");
  await dialog.getByLabel("Quantity").fill("24");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog.getByText("On which days?")).toBeVisible();
  await dialog.getByText("Friday").click();
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect.poll(async () => (await cells(page, "Recurring builds", "24 × Honey"))[1]).toBe("Friday");
  await page.getByRole("button", { name: "Build 8" }).click();
  await expect(answer(page)).toHaveText("8 × Autumn feed 12.5 L");
  await expect(page.getByRole("definition").filter({ hasText: "draft" })).toBeVisible();
});

test("a build is finished on a phone, at 360 px", async ({ page }) => {
  await page.setViewportSize({ width: 360, height: 780 });
  await page.goto("/builds/5");
  await expect(page.getByLabel("Used of BOX-D")).toBeVisible();
  await page.getByLabel("Used of BOX-D").fill("7");
  await page.getByLabel("Good", { exact: true }).fill("2");
  await page.getByRole("button", { name: "Finish 2", exact: true }).click();
  await expect(page.getByRole("heading", { name: /^2 pc finished/ })).toBeVisible();
  const width = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(width).toBe(360);
});

test("a subcontractor does the build: its parts lie there, and its fee goes into the cost", async ({
  page,
}) => {
  await page.goto("/builds/5");
  await page.getByRole("button", { name: "Change", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await pickFirm(dialog.getByRole("combobox", { name: "Subcontractor" }), "Norrfold Joinery");
  await dialog.getByRole("button", { name: "Save" }).click();
  await page.getByRole("button", { name: "Hand out 5 parts to Norrfold Joinery" }).click();
  await expect(page.getByText("Parts for B-5 are with Norrfold Joinery.")).toBeVisible();
  await expect(page.getByRole("definition").filter({ hasText: "not ordered yet" })).toBeVisible();
  await page.getByRole("button", { name: "More actions for B-5" }).click();
  await page.getByRole("menuitem", { name: "Order the subcontractor’s fee …" }).click();
  await dialog.getByRole("button", { name: "Add to order" }).click();
  await expect(dialog.getByText("Choose an item.")).toBeVisible();
  const work = dialog.getByRole("combobox", { name: "Service" });
  await work.fill("LAB-O");
  await work.press("Tab");
  await dialog.getByLabel("Unit price").fill("30");
  await dialog.getByRole("button", { name: "Add to order" }).click();
  await expect(page.getByRole("definition").filter({ hasText: "€30.00 on P-" })).toBeVisible();
  await finish(page, "3");
  await expect(page.getByRole("table", { name: "Cost sheet by kind" })).toBeVisible();
  expect(await cells(page, "Cost sheet by kind", "Subcontractor")).toEqual([
    "Subcontractor",
    "€30.00",
    "–",
    "€30.00",
  ]);
});

test("a file is attached to a build", async ({ page }) => {
  await page.goto("/builds/6");
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Attach a file" }).click();
  await (await chooser).setFiles({
    name: "labels.txt",
    mimeType: "text/plain",
    buffer: Buffer.from("as agreed"),
  });
  const link = page.getByRole("link", { name: "labels.txt" });
  await expect(link).toBeVisible();
  const path = (await link.getAttribute("href")) ?? "";
  expect(await (await page.request.get(path)).text()).toBe("as agreed");
});
