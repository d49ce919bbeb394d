// The rules of docs/architecture.md, as a check that can fail. Who imports whom is dependency-cruiser's part; the
// others are found by reading the source. Prints each breach with its rule, and fails when it has read nothing.
import { spawnSync } from "node:child_process";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

const breaches = [];

function files(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return entry.name === "dist" || entry.name === "node_modules" ? [] : files(path);
    return /\.tsx?$/.test(entry.name) && !/\.(test|spec)\.tsx?$/.test(entry.name) ? [path] : [];
  });
}

/** Reports each line that a pattern finds in the files named, unless it stands in an exempt file. */
function forbid(rule, folder, pattern, { only = /./, except = /^$/ } = {}) {
  const read = files(folder).filter((path) => only.test(path) && !except.test(path));
  if (read.length === 0) breaches.push(`rule ${rule}: no file read in ${folder}; the check itself is broken`);
  for (const path of read)
    for (const [index, line] of readFileSync(path, "utf8").split("\n").entries())
      if (pattern.test(line)) breaches.push(`rule ${rule}: ${path}:${index + 1}: ${line.trim()}`);
}

const imports = spawnSync(
  join("node_modules", ".bin", "depcruise"),
  [
    "--config",
    ".dependency-cruiser.cjs",
    "--output-type",
    "json",
    "core/src",
    "contract/src",
    "server/src",
    "web/src",
    "demo/src",
  ],
  { encoding: "utf8", maxBuffer: 256 * 1024 * 1024 },
);
if (imports.error) throw imports.error;
const { summary } = JSON.parse(imports.stdout);
// Without its parser dependency-cruiser finds no module and passes.
if (summary.totalCruised < 50 || summary.totalDependenciesCruised < 100)
  breaches.push(`only ${summary.totalCruised} modules were read; the check itself is broken`);
for (const { rule, from, to } of summary.violations) breaches.push(`rule ${rule.name}: ${from} → ${to}`);

// Each table belongs to the area in whose folder it is read and written; others read the views of it. That every table
// of the schema has an owner is a test of the server.
const owners = JSON.parse(readFileSync("server/src/db/tableowners.json", "utf8"));
for (const [areas, tables] of Object.entries(owners))
  forbid(
    "a table is read by its own area and by views only",
    "server/src",
    new RegExp(`\\b(?:FROM|JOIN|INTO|UPDATE)\\s+(?:${tables.join("|")})\\b(?!\\s*\\()`),
    { except: new RegExp(`/(${areas.split(", ").join("|")}|db|testing|stress)/|/views\\.ts$`) },
  );

const STOCK = "(posting|movement|balance|pool|lot|serial)";
forbid(
  "2 (only the ledger writes stock)",
  "server/src",
  new RegExp(
    `\\b(INSERT\\s+(OR\\s+\\w+\\s+)?INTO|UPDATE|DELETE\\s+FROM|REPLACE\\s+INTO)\\s+${STOCK}\\b`,
    "i",
  ),
  { except: /server\/src\/(ledger|db)\// },
);
forbid("2 (only the ledger writes stock)", "demo/src", /\b(INSERT|UPDATE|DELETE|REPLACE)\b/);
forbid(
  "3 (no figure in a component)",
  "web/src",
  /\.(times|div|minus|plus|mul|round)\(|parseFloat|\.reduce\(/,
  {
    only: /\.tsx$/,
    // The table's own scrolling, and a check that compares, are no figures of the trade.
    except: /ui\/table\.tsx$/,
  },
);
forbid("3 (no figure in a route)", "server/src", /\.(times|div|minus|plus|mul)\(|@yosegi\/core/, {
  only: /routes\.ts$/,
});
forbid(
  "5 (every route is of the contract)",
  "server/src",
  /\b(app|api)\.(get|post|put|patch|delete|route)\(/,
  {
    // The stream of events has no answer that a schema could describe; its events have one.
    except: /server\/src\/(app|http\/(serve|events))\.ts$/,
  },
);
forbid("6 (one error handler)", "server/src", /\.status\(|\.code\(\d/, { except: /http\/errors\.ts$/ });

// Words that the glossary left behind: what a person reads says what a shop person would.
const LEFT_BEHIND = [
  "nobody can say",
  "wait(s|ed)? no more",
  "is waited for",
  "the books hold",
  "take(n)? it back",
  "standing build",
  "keep rule",
  "kept check",
  "no day\\b",
  "other days",
  "outside workshop",
  "not counted",
  "running out: ",
  "offered nowhere",
  "told in",
  "is figured",
  "are figured",
  "give up the rest",
  "stands here",
  "is no (day|number|kit|time zone|part|work)\\b",
  "made, as a copy",
  ", keyed",
];
const leftBehind = new RegExp(
  // Text within quotes, or as it stands in markup; not a comment.
  `^(?!\\s*(/?\\*|//))(.*["\`>][^"\`<]*|\\s*[A-Z][^=;(){}]*)\\b(${LEFT_BEHIND.join("|")})`,
  "i",
);
forbid("a word the glossary left behind", "web/src", leftBehind);
forbid("a word the glossary left behind", "contract/src", leftBehind, { only: /errors\.ts$/ });

for (const breach of breaches) console.error(breach);
console.log(
  `${summary.totalCruised} modules and ${summary.totalDependenciesCruised} imports read, ${breaches.length} breaches.`,
);
process.exit(breaches.length === 0 ? 0 : 1);
