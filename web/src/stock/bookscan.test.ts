import { describe, expect, it } from "vitest";
import {
  BLANK_LINE,
  type BookItem,
  binNamed,
  fromOf,
  type InBin,
  inBinNamed,
  pastedBookings,
  placeNamed,
  sentTo,
  withReceived,
  withScanned,
} from "./bookscan.ts";

const tool: BookItem = { id: 1, code: "HTL-J", name: "Hive tool", unit: "pc", packs: [], tracking: "none" };
const syrup: BookItem = { id: 2, code: "SYR-72", name: "Syrup", unit: "L", packs: [], tracking: "lot" };
const inBin = (item: BookItem, quantity: string, lot = "", serial = ""): InBin => ({
  item,
  barcode: item.id === 1 ? "29001" : "",
  lot,
  serial,
  quantity,
});
const stores = [
  { id: 1, name: "Front store", archived: false, bins: ["01-A", "A1"] },
  { id: 2, name: "Yard", archived: false, bins: ["Y1-A", "A1"] },
];
const open = { location: 1, store: "Front store", bin: "01-A" };

describe("a scanned bin", () => {
  it("is in the store that is worked in, else in the first that has it, in any case", () => {
    expect(binNamed("a1", stores, "Yard")).toEqual({ location: 2, store: "Yard", bin: "A1" });
    expect(binNamed("y1-a", stores, "Front store")?.store).toBe("Yard");
    expect(binNamed("Z9", stores, "Yard")).toBeNull();
  });
});

describe("what is scanned in a bin", () => {
  const contents = [inBin(tool, "7"), inBin(syrup, "10", "HS-1"), inBin(syrup, "4", "HS-2")];
  it("is an item, a barcode or a lot of it; an item of two lots asks which", () => {
    expect(inBinNamed("htl-j", contents).found?.item.id).toBe(1);
    expect(inBinNamed("29001", contents).found?.item.id).toBe(1);
    expect(inBinNamed("HS-2", contents).found?.quantity).toBe("4");
    expect(inBinNamed("SYR-72", contents)).toEqual({ found: null, why: "which" });
    expect(inBinNamed("nothing", contents)).toEqual({ found: null, why: "not there" });
  });
  it("is moved whole and once, scrapped one by one, and goes to the next bin", () => {
    const [first] = contents;
    if (!first) throw new Error("nothing in the bin");
    const moved = withScanned([BLANK_LINE], "move", open, first);
    expect(moved.map(({ quantity }) => quantity)).toEqual(["7"]);
    expect(withScanned(moved, "move", open, first)).toEqual(moved);
    const scrapped = withScanned(withScanned([], "scrap", open, first), "scrap", open, first);
    expect(scrapped.map(({ quantity, from }) => [quantity, fromOf(from).bin])).toEqual([["2", "01-A"]]);
    const [sent] = sentTo(moved, { location: 2, store: "Yard", bin: "Y1-A" });
    expect([sent?.store, sent?.bin]).toEqual(["Yard", "Y1-A"]);
    // What has its bin keeps it.
    expect(sentTo(sent ? [sent] : [], open)[0]?.bin).toBe("Y1-A");
  });
});

describe("what is scanned coming in", () => {
  it("is one more of it, until it has its bin; a serial-tracked one is a line each", () => {
    const two = withReceived(withReceived([], tool), tool);
    expect(two.map(({ quantity }) => quantity)).toEqual(["2"]);
    expect(withReceived(sentTo(two, open), tool)).toHaveLength(2);
    const scale: BookItem = { ...tool, id: 3, tracking: "serial" };
    expect(withReceived(withReceived([], scale), scale)).toHaveLength(2);
  });
});

it("pasted rows are read by what is booked, with numbers as the person writes them", () => {
  const marks = { decimal: ",", group: "." };
  expect(pastedBookings([["SYR-72", "2,5", "Y1-A", "Yard A1", "HS-1"]], "move", marks)[0]).toMatchObject({
    quantity: "2.5",
    from: "Y1-A",
    to: "Yard A1",
    piece: "HS-1",
  });
  expect(pastedBookings([["HTL-J", "2", "A1", "5,10"]], "receive", marks)[0]).toMatchObject({
    to: "A1",
    unitCost: "5.10",
  });
  expect(pastedBookings([["HTL-J", "x", "A1"], [""]], "scrap", marks)).toMatchObject([
    { quantity: "x", from: "A1" },
  ]);
  expect(placeNamed("Yard A1", stores, "Front store")).toEqual({ store: "Yard", bin: "A1" });
  expect(placeNamed("new bin", stores, "Front store")).toEqual({ store: "Front store", bin: "new bin" });
});
