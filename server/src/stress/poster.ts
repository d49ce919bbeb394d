// Records one finish after the other into a database file and says each one's number when it is recorded; it is killed
// in the middle of that. Run by kill.test.ts: poster.ts <file> <build> <how many>
import { parseAmounts, routes } from "@yosegi/contract";
import { finishBuild } from "../builds/index.ts";
import { change } from "../db/index.ts";
import { openStore } from "../store.ts";
import { DAY, plainFinish } from "./plain.ts";

const [file = "", build = "", count = ""] = process.argv.slice(2);
const store = await openStore(file, () => new Date(`${DAY}T09:00:00Z`));
const finish = parseAmounts(routes.finishBuild.body, plainFinish("1"));
process.stdout.write("ready\n");
for (let n = 1; n <= Number(count); n++) {
  await change(store, 1, (ctx) => finishBuild(ctx, Number(build), finish));
  process.stdout.write(`${n}\n`);
}
