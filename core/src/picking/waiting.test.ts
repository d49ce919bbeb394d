import { expect, it } from "vitest";
import { stopsLeft } from "./waiting.ts";

const stop = (bin: string, lot: string, quantity: string, item = 1) => ({
  location: 1,
  bin,
  lot,
  serial: "",
  item: { id: item },
  quantity,
});
const fetch = (bin: string, lot: string, quantity: string) => ({
  location: 1,
  bin,
  lot,
  serial: "",
  item: 1,
  quantity,
});
const left = (...given: Parameters<typeof stopsLeft>) =>
  stopsLeft(...given).map(({ bin, lot, quantity }) => `${bin} ${lot} ${quantity}`);

it("takes what waits off the stop it was scanned at, then off the nearest of its item", () => {
  const stops = [stop("01", "A", "5"), stop("01", "B", "2"), stop("02", "A", "4"), stop("03", "", "1", 2)];
  expect(left(stops, [fetch("01", "A", "3")])).toEqual(["01 A 2", "01 B 2", "02 A 4", "03  1"]);
  expect(left(stops, [fetch("01", "B", "3")])).toEqual(["01 A 4", "02 A 4", "03  1"]);
  expect(left(stops, [fetch("09", "C", "1"), fetch("01", "A", "10")])).toEqual(["03  1"]);
  expect(left(stops, [fetch("01", "A", "99")])).toEqual(["03  1"]);
});
