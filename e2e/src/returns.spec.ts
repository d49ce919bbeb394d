import { expect, test } from "./site.ts";
import { api, cells, idsOf, pdfText, pick, pickFirm } from "./steps.ts";

test("a set comes back without its gloves: credited 226.35, inspected, and all of it undone", async ({
  page,
}) => {
  // KIT-YARD is shipped whole.
  const [item] = await idsOf(page, "KIT-YARD");
  const order = await api<{ id: number; orderLines: { id: number }[] }>(page, "/api/orders", {
    customer: 8,
    lines: [{ item, quantity: "1" }],
  });
  const { orderLines } = await api<typeof order>(page, `/api/orders/${order.id}`);
  await api(page, `/api/orders/${order.id}/ship`, {
    day: "2026-11-23",
    lines: [{ line: orderLines[0]?.id, quantity: null }],
    takeFromOthers: true,
  });
  await page.goto("/shipments/1");
  await page.getByRole("button", { name: "Return …" }).click();
  const form = page.getByRole("dialog");
  await form.getByRole("button", { name: "Receive the return" }).click();
  await expect(form.getByText("Enter what came back.")).toBeVisible();
  await expect(form.getByText("Enter why it came back.")).toBeVisible();
  await form.getByRole("button", { name: "All of it came back" }).click();
  await expect(form.getByText("Credit €239.00")).toBeVisible();
  await form.getByLabel("Came back of GLV-M").fill("2");
  await form.getByLabel("Why it came back").fill("Changed their mind");
  await form.getByRole("button", { name: "Receive the return" }).click();
  await expect(form.getByText("Only 1 pair of GLV-M are still with the customer.")).toBeVisible();
  await form.getByLabel("Came back of GLV-M").fill("");
  await expect(form.getByText("Credit €226.35")).toBeVisible();
  await form.getByRole("button", { name: "Receive the return" }).click();
  await expect(page.getByRole("heading", { name: "4 lines of 4 to inspect." })).toBeVisible();
  await expect(page.getByText("Missing: 1 pair Gloves, size M of First-year set.")).toBeVisible();
  await expect(page.getByText("€226.35").first()).toBeVisible();
  const paper = await page.request.get("/api/returns/2/paper");
  expect((await pdfText(await paper.body())).join(" ")).toContain("226.35");

  // The smoker is scrapped, the rest is good.
  await page.getByRole("button", { name: "Inspect SMK-S" }).click();
  await form.getByRole("button", { name: "What becomes of it" }).click();
  await page.getByRole("option", { name: "Scrap" }).click();
  await form.getByRole("button", { name: "Record" }).click();
  await expect(form.getByText("Enter why it is scrapped.")).toBeVisible();
  await form.getByLabel("Why it is scrapped").fill("Dented");
  await form.getByRole("button", { name: "Record" }).click();
  await expect(page.getByRole("heading", { name: "3 lines of 4 to inspect." })).toBeVisible();
  await page.getByRole("button", { name: "All good: put the rest back" }).click();
  await expect(page.getByRole("heading", { name: "All of it is inspected." })).toBeVisible();
  expect((await cells(page, "Inspected", "SMK-S"))[2]).toBe("scrapped, Dented");

  // Undone again, piece by piece, then the return, then the shipment.
  for (const code of ["SMK-S", "HIVE-N", "SUIT-M", "HTL-J"])
    await page.getByRole("button", { name: `Undo ${code}` }).click();
  await page.getByRole("button", { name: "Undo …" }).click();
  await page.getByRole("button", { name: "Undo return" }).click();
  await expect(page.getByRole("heading", { name: "This return is undone." })).toBeVisible();
});

test("what came back without a shipment is put back, and ordered again free", async ({ page }) => {
  await page.goto("/returns");
  await page.getByRole("link", { name: /Tarnholt Bee Club/ }).click();
  await expect(page.getByRole("heading", { name: "2 lines of 2 to inspect." })).toBeVisible();
  await page.getByRole("button", { name: "All good: put it back" }).click();
  await expect(page.getByRole("heading", { name: "All of it is inspected." })).toBeVisible();
  await page.getByRole("button", { name: /^Replace what came back/ }).click();
  await page.getByRole("menuitem", { name: "Free, without credit" }).click();
  await expect(page.getByText("Ordered again as O-4.")).toBeVisible();
  await expect(page.getByText("€72.50, replaced free")).toBeVisible();

  // Another one, of which nobody knows with what it was shipped.
  await page.keyboard.press("n");
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Receive the return" }).click();
  await expect(
    dialog
      .getByText("Choose the shipment it came with, or the customer.")
      .or(dialog.getByText("Enter why it came back."))
      .first(),
  ).toBeVisible();
});

test("faulty goods go back to their supplier at their value, from stock and from a return, ordered again and undone", async ({
  page,
}) => {
  await page.goto("/supplier-returns");
  await expect(page.getByRole("heading", { name: "Nothing went back yet" })).toBeVisible();
  await page.keyboard.press("n");
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Send back" }).click();
  await expect(dialog.getByText("Choose a supplier.")).toBeVisible();
  await pickFirm(dialog.getByRole("combobox", { name: "Supplier" }), "Calderan Metal");
  await dialog.getByLabel("Why it goes back").fill("Blunt");
  await pick(dialog.getByRole("combobox", { name: "Item 1" }), "HTL-J");
  await dialog.getByRole("button", { name: /From 1$/ }).click();
  await page.getByRole("option", { name: /^Front store/ }).click();
  await dialog.getByLabel("Quantity 1").fill("4000");
  await dialog.getByLabel("Credit expected").fill("9");
  await dialog.getByRole("button", { name: "Send back" }).click();
  await expect(dialog.getByText(/^Only \d+ pc of HTL-J are in Front store/)).toBeVisible();
  await dialog.getByLabel("Quantity 1").fill("2");
  await dialog.getByRole("button", { name: "Send back" }).click();
  await expect(page.getByRole("heading", { name: "1 line sent back to Calderan Metal" })).toBeVisible();
  await expect(page.getByText("€10.20").first()).toBeVisible();
  await expect(page.getByText("€9.00")).toBeVisible();
  await page.getByRole("button", { name: "Order again" }).click();
  await expect(page.getByRole("link", { name: /^P-\d+$/ })).toBeVisible();

  // What a customer sent back goes on to its supplier, and is to be inspected again when that is undone.
  await page.goto("/returns/1");
  await page.getByRole("button", { name: "Inspect GLV-L" }).click();
  await dialog.getByRole("button", { name: "Back to its supplier …" }).click();
  await pickFirm(dialog.getByRole("combobox", { name: "Supplier" }), "Calderan Metal");
  await dialog.getByLabel("Why it goes back").fill("Seams open");
  await dialog.getByRole("button", { name: "Send back" }).click();
  await expect(page.getByText("Sent back as RS-2.")).toBeVisible();
  await expect(page.getByRole("table", { name: "Inspected" })).toContainText("sent back to its supplier");
  await page.goto("/supplier-returns/2");
  await page.getByRole("button", { name: "Undo …" }).click();
  await page.getByRole("button", { name: "Undo return" }).click();
  await expect(page.getByText("RS-2 undone.")).toBeVisible();
  await page.goto("/returns/1");
  await expect(page.getByRole("button", { name: "Inspect GLV-L" })).toBeVisible();
});
