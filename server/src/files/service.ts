import {
  type AttachedFile,
  LARGEST_ATTACHMENT,
  type ParsedBody,
  type PICTURE_TYPES,
  Refusal,
  type routes,
} from "@yosegi/contract";
import { asJson, type NewRow, type Reading, type Writing } from "../db/index.ts";
import { clearPicture, pictureOf, setPicture } from "../items/index.ts";
import { ATTACHMENT, FILE } from "./tables.ts";

const COLUMNS = `f.id, f.name, f.type, length(f.content) AS size, n.name AS person, f.added_at AS moment`;

/** Files attached to an item, a parts list or a build, earliest first. */
export async function filesOf(
  ctx: Reading,
  owner: "item" | "list" | "build",
  id: number,
): Promise<AttachedFile[]> {
  return ctx.sql.all<AttachedFile>(
    `SELECT ${COLUMNS} FROM attachment a JOIN file f ON f.id = a.file_id JOIN person_name n ON n.id = f.added_by
      WHERE a.${owner}_id = $id ORDER BY f.id`,
    { id },
  );
}

const OWNERS = {
  item: { table: "item", what: "item" },
  picture: { table: "item", what: "item" },
  list: { table: "parts_list", what: "parts list" },
  build: { table: "build", what: "build" },
} as const;

/** Keeps a file with what it belongs to. A picture takes the place of the item's earlier one. */
export async function attachFile(
  ctx: Writing,
  body: ParsedBody<typeof routes.attachFile>,
): Promise<AttachedFile> {
  const content = Buffer.from(body.content, "base64");
  if (content.length > LARGEST_ATTACHMENT)
    throw Refusal.at("content", "file-too-large", {
      size: (content.length / 1e6).toFixed(1),
      limit: LARGEST_ATTACHMENT / 1e6,
    });
  const picture = pictureType(content);
  if (body.to === "picture" && picture === null) throw Refusal.at("content", "file-type");
  const { table, what } = OWNERS[body.to];
  if (!(await ctx.sql.one(`SELECT 1 FROM ${table} WHERE id = $id`, { id: body.id })))
    throw new Refusal("not-found", { what, id: body.id });
  const id = await insert(ctx, body, content, picture);
  if (body.to === "picture") {
    const before = await pictureOf(ctx, body.id);
    await setPicture(ctx, body.id, id);
    // A copy of the item may show the same picture.
    await ctx.sql.run(
      "DELETE FROM file WHERE id = $before AND NOT EXISTS (SELECT 1 FROM item_head WHERE thumbnail = $before)",
      { before },
    );
  } else await ctx.model(ATTACHMENT).create({ file_id: id, [`${body.to}_id`]: body.id });
  const row = await ctx.sql.one<AttachedFile>(
    `SELECT ${COLUMNS} FROM file f JOIN person_name n ON n.id = f.added_by WHERE f.id = $id`,
    { id },
  );
  if (!row) throw new Error("The file was written and is not there");
  return row;
}

async function insert(
  ctx: Writing,
  body: ParsedBody<typeof routes.attachFile>,
  content: Buffer,
  picture: string | null,
): Promise<number> {
  const thumbnail = body.thumbnail === null ? null : Buffer.from(body.thumbnail, "base64");
  const small = thumbnail && pictureType(thumbnail) !== null ? thumbnail : null;
  // What a browser shows by itself must be what it says it is; anything else is only handed out to be kept.
  const type = picture ?? (body.type === "application/pdf" ? body.type : "application/octet-stream");
  return store(ctx, { name: body.name, type, content, thumbnail: small });
}

/** Keeps a file that the server made itself. Gives its id. */
export const keepFile = (
  ctx: Writing,
  file: { name: string; type: string; content: Buffer },
): Promise<number> => store(ctx, { ...file, thumbnail: null });

async function store(
  ctx: Writing,
  file: Pick<NewRow<typeof FILE>, "name" | "type" | "content" | "thumbnail">,
): Promise<number> {
  const row = await ctx.model(FILE).create({ ...file, added_by: ctx.person.id, added_at: ctx.moment });
  return row.get({ plain: true }).id;
}

/** What kind of picture the bytes themselves say they are; null where they are none. */
function pictureType(content: Buffer): (typeof PICTURE_TYPES)[number] | null {
  const begins = (bytes: string, at = 0) =>
    content.subarray(at, at + bytes.length).toString("latin1") === bytes;
  if (begins("\x89PNG\r\n\x1a\n")) return "image/png";
  if (begins("\xff\xd8\xff")) return "image/jpeg";
  return begins("RIFF") && begins("WEBP", 8) ? "image/webp" : null;
}

/** The bytes of a file; of a picture the small one where it is asked for and there. */
export async function fileContent(
  ctx: Reading,
  id: number,
  small: boolean,
): Promise<{ name: string; type: string; content: Buffer }> {
  const row = await ctx.sql.one<{ name: string; type: string; content: Buffer }>(
    `SELECT name, type, ${small ? "COALESCE(thumbnail, content)" : "content"} AS content FROM file WHERE id = $id`,
    { id },
  );
  if (!row) throw new Refusal("not-found", { what: "file", id });
  return row;
}

/** Pictures as data addresses, by file, where they are of a kind that a PDF can show: PNG and JPEG. */
export async function imageAddresses(ctx: Reading, ids: readonly number[]): Promise<Map<number, string>> {
  const rows = await ctx.sql.all<{ id: number; type: string; content: Buffer }>(
    `SELECT id, type, content FROM file
      WHERE type IN ('image/png', 'image/jpeg') AND id IN (SELECT value FROM json_each($ids))`,
    { ids: asJson(ids) },
  );
  return new Map(
    rows.map(({ id, type, content }) => [id, `data:${type};base64,${content.toString("base64")}`]),
  );
}

/** Removes the files attached to something that is removed itself. */
export async function removeFilesOf(
  ctx: Writing,
  owner: "item" | "list" | "build",
  id: number,
): Promise<void> {
  await ctx.sql.run(`DELETE FROM file WHERE id IN (SELECT file_id FROM attachment WHERE ${owner}_id = $id)`, {
    id,
  });
}

export async function removeFile(ctx: Writing, id: number): Promise<void> {
  if (!(await ctx.sql.one("SELECT 1 FROM file WHERE id = $id", { id })))
    throw new Refusal("not-found", { what: "file", id });
  if (await ctx.sql.one("SELECT 1 FROM outbox_attachment WHERE file_id = $id", { id }))
    throw new Refusal("file-in-message");
  await clearPicture(ctx, id);
  await ctx.model(FILE).destroy({ where: { id } });
}

/** Hands the files attached to one build over to another. */
export async function moveBuildFiles(ctx: Writing, from: number, to: number): Promise<void> {
  await ctx.model(ATTACHMENT).update({ build_id: to }, { where: { build_id: from } });
}
