import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { makeApp } from "./app.ts";
import { WrongDatabase } from "./db/index.ts";
import { tellPeople } from "./notices/index.ts";
import { makeRecurring } from "./recurring/index.ts";
import { networkAddresses, ownNames, serverCertificate } from "./secure/index.ts";
import { openStore } from "./store.ts";

const file = process.env.YOSEGI_DB ?? "data/yosegi.db";

const secure = process.env.YOSEGI_HTTPS === "1";

// A handheld has to reach it: that is what HTTPS is asked for.
const host = process.env.HOST ?? (secure ? "0.0.0.0" : "127.0.0.1");

const port = Number(process.env.PORT ?? 3210);

const page = fileURLToPath(new URL("../../web/dist", import.meta.url));

const store = await openStore(file, clockFrom(process.env.YOSEGI_NOW)).catch((error: unknown) => {
  if (!(error instanceof WrongDatabase)) throw error;
  console.error(error.message);
  process.exit(1);
});

const hosts = (process.env.YOSEGI_HOSTS ?? "")
  .split(",")
  .map((name) => name.trim())
  .filter(Boolean);

const certificate = secure
  ? await serverCertificate(join(dirname(file), "certificate"), ownNames(hosts), new Date())
  : null;

const app = await makeApp(store, {
  page,
  hosts,
  certificate,
  logger: { level: "warn" },
  addresses: () => othersAddresses(),
});

// A promise that fails while nobody waits for it would end the process, and with it the work of everybody else. What it
// was for has failed and said so, or its transaction was rolled back; so it is logged, and the others go on.
process.on("unhandledRejection", (error) => app.log.error({ err: error }, "unhandled rejection"));

// Recurring builds make their drafts on their day, and people are told of what is new, whether or not anybody looks.
const MINUTE = 60_000;

const keepMaking = () =>
  makeRecurring(store)
    .then(() => tellPeople(store))
    .catch((error: unknown) => {
      app.log.error(error);
    });
await keepMaking();

const clock = setInterval(keepMaking, MINUTE);

for (const signal of ["SIGINT", "SIGTERM"] as const)
  process.once(signal, () => {
    // Fastify lets running requests end before it closes; only then is the file closed.
    clearInterval(clock);
    app
      .close()
      .then(() => store.close())
      .then(() => process.exit(0))
      .catch((error: unknown) => {
        app.log.error(error);
        process.exit(1);
      });
  });

try {
  await app.listen({ host, port });
} catch (error) {
  if ((error as NodeJS.ErrnoException).code !== "EADDRINUSE") throw error;
  console.error(`Port ${port} is taken. Choose another one: PORT=${port + 1} npm start`);
  process.exit(1);
}

const bound =
  app.addresses().map((address) => (typeof address === "string" ? port : address.port))[0] ?? port;

const shown = host === "0.0.0.0" || host === "127.0.0.1" ? "localhost" : host;

const scheme = secure ? "https" : "http";

console.log(`Yosegi is at ${scheme}://${shown}:${bound} (data in ${file})`);
const [other] = othersAddresses();
if (secure && other !== undefined)
  console.log(
    `Handhelds: open ${other}/api/reach/certificate on the device once, install the certificate and trust it, then open ${other}. Settings shows the address as a QR code.`,
  );

/** By which other devices reach it: behind a proxy the names it was given, else this machine's addresses. */
function othersAddresses(): string[] {
  if (hosts.length > 0 && !secure) return hosts.map((name) => `https://${name}`);
  if (host === "127.0.0.1" || host === "localhost") return [];
  const names = host === "0.0.0.0" || host === "::" ? networkAddresses() : [host];
  return names.map((name) => `${scheme}://${name}:${bound}`);
}

/** A clock that begins at a moment and runs on from there, for tests that must not depend on the hour; else the real one. */
function clockFrom(moment: string | undefined): (() => Date) | undefined {
  if (moment === undefined) return undefined;
  const ahead = Date.parse(moment) - Date.now();
  return () => new Date(Date.now() + ahead);
}
