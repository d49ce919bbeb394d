// Plain Node, no imports beyond node:*, so that it works before any install.
import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { once } from "node:events";
import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";

const root = join(dirname(fileURLToPath(import.meta.url)), "..");
process.chdir(root);
const database = resolve(process.env.YOSEGI_DB ?? "data/yosegi.db");

/** Runs a command with its output shown; true where it ended well. */
const ran = (command, args, env = {}) =>
  spawnSync(command, args, { stdio: "inherit", env: { ...process.env, ...env } }).status === 0;
const must = (command, args, env) => {
  if (!ran(command, args, env)) {
    console.error(`\nFailed: ${command} ${args.join(" ")}`);
    process.exit(1);
  }
};
/** Runs a command beside what comes next; the promise ends with it, or ends everything where it fails. */
async function mustMeanwhile(command, args, env = {}) {
  const child = spawn(command, args, { stdio: "inherit", env: { ...process.env, ...env } });
  const [code] = await once(child, "exit");
  if (code === 0) return;
  console.error(`\nFailed: ${command} ${args.join(" ")}`);
  process.exit(1);
}
const bin = (name) => join("node_modules", ".bin", name);
const has = (command) => spawnSync("sh", ["-c", `command -v ${command}`]).status === 0;

async function debian(...packages) {
  const install = ["install", "-y", "--no-install-recommends", ...packages];
  const env = { DEBIAN_FRONTEND: "noninteractive" };
  console.log(`Installing ${packages.join(", ")} …`);
  await mustMeanwhile("apt-get", ["update", "-qq"], env);
  await mustMeanwhile("apt-get", ["-qq", ...install], env);
}

/** Ends once the one native addon is there; what does not need it goes on meanwhile. */
let addon = Promise.resolve();

/** Installs the packages of the lockfile where that, or Node, has changed since; `addon` is then still to be awaited. */
async function install() {
  const stamp = "node_modules/.installed-for";
  const want = createHash("sha256")
    .update(readFileSync("package-lock.json"))
    .update(`${process.platform} ${process.arch} ${process.version}`)
    .digest("hex");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === want) return;
  const compiler = { python3: "python3", make: "make", "g++": "g++" };
  const missing = Object.keys(compiler).filter((command) => !has(command));
  if (missing.length > 0) await debian(...missing.map((command) => compiler[command]));
  console.log("Installing packages (about two minutes the first time) …");
  must("npm", ["ci", "--ignore-scripts", "--no-audit", "--no-fund", "--loglevel=error"]);
  addon = buildAddon().then(() => writeFileSync(stamp, want));
}

/** SQLite's driver is compiled, most of the time on one core. */
async function buildAddon() {
  await mustMeanwhile("npm", ["rebuild", "sqlite3", "--loglevel=error"], {
    JOBS: "max",
  });
  if (spawnSync(process.execPath, ["-e", "require('sqlite3')"]).status === 0) return;
  console.error("sqlite3 was not built: it needs python3, make and g++.");
  process.exit(1);
}

async function installBrowser() {
  const chromium = process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell";
  if (!existsSync(chromium)) await debian("chromium-headless-shell");
}

function bundle(entry, out) {
  must(bin("esbuild"), [
    entry,
    "--bundle",
    "--platform=node",
    "--target=node20",
    "--format=esm",
    "--packages=external",
    "--alias:@yosegi/core=./core/src/index.ts",
    "--alias:@yosegi/contract=./contract/src/index.ts",
    "--alias:@yosegi/server=./server/src/index.ts",
    "--sourcemap",
    `--outfile=${out}`,
    "--log-level=warning",
  ]);
}

function build() {
  must(bin("vite"), ["build", "web", "--logLevel", "warn"]);
  bundle("server/src/main.ts", "server/dist/main.js");
  bundle("server/src/audit.ts", "server/dist/audit.js");
  bundle("demo/src/seed.ts", "server/dist/seed.js");
  bundle("server/src/mix/solverthread.mjs", "server/dist/solverthread.js");
  bundle("server/src/imports/sheetthread.mjs", "server/dist/sheetthread.js");
}

/** What serves the stories' databases. */
const bundleHost = () => bundle("e2e/src/host.ts", "server/dist/e2ehost.js");

/** Makes the demo company where there is no database; --empty starts with none. */
function seed() {
  mkdirSync(dirname(database), { recursive: true });
  if (!process.argv.includes("--empty"))
    must(process.execPath, ["server/dist/seed.js", database, join(root, "demo")]);
}

function serve(args, env = {}) {
  const child = spawn(process.execPath, args, {
    stdio: "inherit",
    env: { ...process.env, YOSEGI_DB: database, ...env },
  });
  for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => child.kill(signal));
  child.on("exit", (code, signal) => process.exit(signal ? 1 : (code ?? 1)));
}

const totals = { passed: 0, failed: 0 };
const count = (passed, failed) => {
  totals.passed += passed;
  totals.failed += failed;
};
/** A check that passes or fails as a whole. */
async function check(name, command, args) {
  const started = Date.now();
  const child = spawn(command, args, { stdio: "inherit" });
  const [code] = await once(child, "exit");
  const ok = code === 0;
  console.log(`${ok ? "ok" : "FAILED"}: ${name} (${((Date.now() - started) / 1000).toFixed(1)} s)`);
  count(ok ? 1 : 0, ok ? 0 : 1);
}
/** A runner whose own report says how many of its tests passed; one that leaves no report has failed. */
function runner(name, command, args, report, read, env) {
  writeFileSync(report, "");
  const ok = ran(command, args, env);
  const text = readFileSync(report, "utf8");
  const [passed, failed] = text === "" ? [0, 1] : read(JSON.parse(text));
  if (passed + failed === 0) console.error(`${name} ran no test.`);
  count(passed, failed === 0 && (!ok || passed === 0) ? 1 : failed);
}

/** The compiler has one thread, so that the other checks run beside it. */
async function lint() {
  const types = check("types", bin("tsc"), ["-b"]);
  await check("lint", bin("biome"), ["check", "--error-on-warnings", "--max-diagnostics=20", "."]);
  await check("boundaries", process.execPath, ["scripts/boundaries.mjs"]);
  await check("API document is current", process.execPath, [
    "--import",
    "tsx",
    "scripts/api-docs.ts",
    "--check",
  ]);
  await types;
}
/** Packages whose tests need no database. */
const PAGES = ["core", "contract", "web"];
const DATABASES = ["demo", "server"];
function unit(...projects) {
  const report = ".tsbuild/vitest.json";
  runner(
    "vitest",
    bin("vitest"),
    [
      "run",
      ...projects.map((name) => `--project=${name}`),
      "--reporter=default",
      "--reporter=json",
      `--outputFile.json=${report}`,
    ],
    report,
    (r) => [r.numPassedTests, r.numFailedTests + (r.numTotalTests - r.numPassedTests - r.numFailedTests)],
  );
}
function e2e() {
  bundleHost();
  const report = ".tsbuild/playwright.json";
  runner(
    "playwright",
    bin("playwright"),
    ["test", "--config", "e2e/playwright.config.ts"],
    report,
    (r) => [r.stats.expected, r.stats.unexpected + r.stats.flaky + r.stats.skipped],
    { PLAYWRIGHT_JSON_OUTPUT_FILE: join(root, report) },
  );
}
function finish() {
  const line = `${totals.passed} passed, ${totals.failed} failed`;
  writeFileSync(".tsbuild/totals", `${line}\n`);
  console.log(`\n${line}`);
  process.exit(totals.failed === 0 ? 0 : 1);
}

const tasks = {
  async start() {
    build();
    await addon;
    seed();
    serve(["--enable-source-maps", "server/dist/main.js"]);
  },
  async test() {
    const browser = installBrowser();
    await lint();
    build();
    unit(...PAGES);
    await addon;
    unit(...DATABASES);
    await browser;
    e2e();
    finish();
  },
  async lint() {
    await lint();
    finish();
  },
  unit() {
    unit(...PAGES, ...DATABASES);
    finish();
  },
  async e2e() {
    await installBrowser();
    build();
    e2e();
    finish();
  },
  dev() {
    bundle("demo/src/seed.ts", "server/dist/seed.js");
    seed();
    const page = spawn(bin("vite"), ["web"], { stdio: "inherit" });
    process.on("exit", () => page.kill());
    serve(["--watch", "--import", "tsx", "server/src/main.ts"]);
  },
  audit() {
    bundle("server/src/audit.ts", "server/dist/audit.js");
    must(process.execPath, ["server/dist/audit.js", database]);
  },
  backup() {
    bundle("server/src/backup.ts", "server/dist/backup.js");
    must(process.execPath, ["server/dist/backup.js", database, ...process.argv.slice(3, 4)]);
  },
  async bench() {
    await installBrowser();
    build();
    const ok = [
      "catalog",
      "cover",
      "finish",
      "ship",
      "rail",
      "promise",
      "page",
      "trace",
      "past",
      "today",
      "scan",
    ].map((name) => ran(process.execPath, ["--import", "tsx", `bench/src/${name}.ts`]));
    process.exit(ok.every(Boolean) ? 0 : 1);
  },
  /** What CI runs short, as long as it is meant to: many clients at once, and kills in the middle of postings. */
  stress() {
    must(bin("vitest"), ["run", "--project", "server", "server/src/stress"], { YOSEGI_STRESS: "long" });
  },
  docs() {
    must(process.execPath, ["--import", "tsx", "scripts/api-docs.ts"]);
  },
  async screenshots() {
    await installBrowser();
    build();
    bundleHost();
    must(bin("playwright"), ["test", "--config", "e2e/screenshots.config.ts"]);
  },
};

/** Tasks that begin with what needs no database, and wait for the addon themselves. */
const MEANWHILE = ["start", "test", "lint", "docs"];

const name = process.argv[2] ?? "";
const task = tasks[name];
if (!task) {
  console.error(`Tasks: ${Object.keys(tasks).join(", ")}`);
  process.exit(2);
}
await install();
if (!MEANWHILE.includes(name)) await addon;
mkdirSync(".tsbuild", { recursive: true });
await task();
