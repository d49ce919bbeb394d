// Writes docs/api.md from the schemas of the contract; --check fails where the file is not what they give.
import { readFileSync, writeFileSync } from "node:fs";
import { ERRORS, KEY_HEADER, PERMISSIONS, PERSON_HEADER, type Route, routes } from "../contract/src/index.ts";

const FILE = "docs/api.md";

function entry(route: Route): string {
  const fields = (schema: unknown): string =>
    Object.keys((schema as { shape?: object }).shape ?? {}).join(", ");
  const parts = [
    ["Query", fields(route.query)],
    ["Body", fields(route.body)],
    ["Answer", fields(route.answer)],
  ].filter(([, names]) => names !== "");
  const words = parts.map(([what, names]) => `${what}: ${names}.`).join(" ");
  const kind = route.command ? `command, ${route.permission}` : route.permission;
  return `- \`${route.method} ${route.path}\` (${kind}): ${route.summary}. ${words}`;
}

const areas = [...new Set(Object.values(routes).map((route) => route.area))];
const sections = areas.map((area) => {
  const own = Object.values<Route>(routes).filter((route) => route.area === area);
  return `## ${area}\n\n${own.map(entry).join("\n")}\n`;
});
const errors = Object.entries(ERRORS).map(([code, { status }]) => `| \`${code}\` | ${status} |`);
const permissions = Object.entries(PERMISSIONS).map(([name, covers]) => `| ${name} | ${covers} |`);
const text = `# The API

Made from the schemas in \`contract/src\` by \`npm run docs\`; the whole of it, with every field, is served as OpenAPI at
\`/api/openapi.json\`. Amounts are exact decimals as text ("12.5"), days are calendar dates ("2026-12-31").

A **command** takes two headers: \`${PERSON_HEADER}\`, the id of the person who does it (except setting up), and \`${KEY_HEADER}\`,
any text of the caller's own. The same key with the same request is done once and answered alike every time; with another
request it is refused.

An error answers with \`code\`, \`message\` and \`fields\` (path, code and message of each field concerned).

Each route names what a person must be allowed to do for it; so far everybody is. Figures that show a cost or a price are
marked in the schemas.

| permission | what it covers |
|---|---|
${permissions.join("\n")}

${sections.join("\n")}
## Errors

| code | status |
|---|---|
${errors.join("\n")}
`;

if (!process.argv.includes("--check")) {
  writeFileSync(FILE, text);
  console.log(`${FILE} is written.`);
} else if (readFileSync(FILE, "utf8") !== text) {
  console.error(`${FILE} is not what the schemas give; run: npm run docs`);
  process.exit(1);
}
