import { readFile } from "node:fs/promises";
import { IMPORT_KINDS, IMPORT_NAMES, type ImportFile, type ImportKind, routes } from "@yosegi/contract";
import type { World } from "./open.ts";

/** A file as the page sends it. */
export const fileOf = (
  kind: ImportKind,
  content: string | Buffer,
  change: Partial<ImportFile> = {},
): ImportFile => ({
  kind,
  name: `${IMPORT_NAMES[kind]}.csv`,
  content: Buffer.from(content).toString("base64"),
  columns: {},
  decimal: null,
  ...change,
});

/** The text of a file that ships with the demo. */
export const demoText = (kind: ImportKind): Promise<string> =>
  readFile(new URL(`../../../demo/${IMPORT_NAMES[kind]}.csv`, import.meta.url), "utf8");

/** All files that ship with the demo. */
export async function demoFiles(): Promise<ImportFile[]> {
  return Promise.all(IMPORT_KINDS.map(async (kind) => fileOf(kind, await demoText(kind))));
}

/** Names the company, with one store and one person. */
export async function setUpCompany(world: World): Promise<void> {
  await world.ok(routes.setUp, {
    body: {
      name: "Brackenmere Bee Supply",
      currency: "EUR",
      timeZone: "Europe/Vienna",
      store: "Front store",
      person: "Ines",
    },
    person: null,
  });
}

/** Brings in the demo company's catalog and opening stock, and its other people. */
export async function importDemo(world: World): Promise<void> {
  for (const name of ["Tobias", "Maren"]) await world.ok(routes.addPerson, { body: { name } });
  const body = { files: await demoFiles(), update: false, job: "demo" };
  const { token } = await world.ok(routes.checkImport, { body });
  await world.ok(routes.import, { body: { ...body, token, goodRowsOnly: false } });
}
