// Serves the databases of stories from one process, so that a story does not wait for a server to start. It is told what
// to do on its standard input, a JSON line each, and answers each by a line.
import { createInterface } from "node:readline";
import { setTimeout } from "node:timers/promises";
import { fileURLToPath } from "node:url";
import { makeApp, openStore } from "@yosegi/server";

export type Told = { open: string } | { close: string };

const PAGE = fileURLToPath(new URL("../../web/dist", import.meta.url));
const ahead = Date.parse(process.env.YOSEGI_NOW ?? "") - Date.now();
const running = new Map<string, () => Promise<void>>();

async function open(file: string): Promise<string> {
  const store = await openStore(file, () => new Date(Date.now() + ahead));
  const app = await makeApp(store, {
    page: PAGE,
    hosts: ["shop.test"],
    logger: { level: "warn", stream: process.stderr },
  });
  // A page that is gone leaves requests behind: the database is closed once they are answered.
  let asked = 0;
  const isQuestion = ({ url }: { url: string }) => !url.startsWith("/api/events");
  app.addHook("onRequest", async (request) => {
    if (isQuestion(request)) asked++;
  });
  app.addHook("onResponse", async (request) => {
    if (isQuestion(request)) asked--;
  });
  const address = await app.listen({ host: "127.0.0.1", port: 0 });
  running.set(file, async () => {
    await app.close();
    for (let waited = 0; asked > 0 && waited < 100; waited++) await setTimeout(20);
    await store.close();
  });
  return address.replace("127.0.0.1", "localhost");
}

async function close(file: string): Promise<string> {
  await running.get(file)?.();
  running.delete(file);
  return "closed";
}

for await (const line of createInterface(process.stdin)) {
  const told = JSON.parse(line) as Told;
  console.log(await ("open" in told ? open(told.open) : close(told.close)));
}
process.exit(0);
