import { filled, id, integer, key, orNull, type Row, table, text } from "../db/index.ts";

export const IMPORT_RUN = table("import_run", {
  id: id(),
  number: text(),
  person_id: integer(),
  moment: text(),
  /** How many things of each kind came in, as JSON. */
  summary: text(),
  /** What the records that it wrote were before and are after it, as JSON. */
  changes: text(),
  undone_by: filled(orNull(integer())),
  undone_at: filled(orNull(text())),
});
export type ImportRunRow = Row<typeof IMPORT_RUN>;

/** Which of our columns somebody said that one of theirs is; ours is empty for one that is left out. */
export const IMPORT_MATCH = table("import_match", {
  kind: key(text()),
  theirs: key(text()),
  ours: text(),
});
