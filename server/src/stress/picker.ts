// Fetches one piece after the other in a round and says each one's number when it is recorded; it is killed in the middle of
// that. Run by killpicks.test.ts: picker.ts <file> <round> <how many>
import { parseAmounts, routes } from "@yosegi/contract";
import { change, read } from "../db/index.ts";
import { fetchPick, roundSheet } from "../picking/index.ts";
import { openStore } from "../store.ts";
import { DAY } from "./plain.ts";

const [file = "", round = "", count = ""] = process.argv.slice(2);
const store = await openStore(file, () => new Date(`${DAY}T09:00:00Z`));
process.stdout.write("ready\n");
for (let n = 1; n <= Number(count); n++) {
  const { stops } = await read(store, (ctx) => roundSheet(ctx, Number(round)));
  const [stop] = stops;
  if (!stop) throw new Error("nothing is left to be fetched");
  const body = parseAmounts(routes.fetchPick.body, {
    location: stop.location,
    bin: stop.bin,
    item: stop.item.id,
    lot: stop.lot,
    serial: stop.serial,
    quantity: "1",
    there: null,
    more: false,
    reason: "",
    day: DAY,
  });
  await change(store, 1, (ctx) => fetchPick(ctx, Number(round), body));
  process.stdout.write(`${n}\n`);
}
