import { VERSIONED } from "./ledgerschema.ts";

/** A change of a document counts its version up and says who works: so no statement that changes one can forget it. */
export const versionTrigger = (table: string): string => `
CREATE TRIGGER ${table}_version AFTER UPDATE ON ${table} WHEN NEW.version = OLD.version BEGIN
  UPDATE ${table} SET version = version + 1, changed_by = (SELECT person_id FROM working), changed_at = (SELECT moment FROM working)
   WHERE rowid = NEW.rowid;
END;`;

/**
 * Documents know who changed them last. A command says who works in one row, which triggers read: so no statement that changes
 * a document can forget it. People and stores can be archived.
 */
export const WHO_CHANGED = `
ALTER TABLE person ADD COLUMN archived INTEGER NOT NULL DEFAULT 0 CHECK (archived IN (0, 1));
ALTER TABLE location ADD COLUMN archived INTEGER NOT NULL DEFAULT 0 CHECK (archived IN (0, 1));
CREATE TABLE working (id INTEGER PRIMARY KEY CHECK (id = 1), person_id INTEGER REFERENCES person (id), moment TEXT NOT NULL) STRICT;
INSERT INTO working VALUES (1, NULL, '');
${VERSIONED.map(
  (table) => `
ALTER TABLE ${table} ADD COLUMN changed_by INTEGER REFERENCES person (id);
ALTER TABLE ${table} ADD COLUMN changed_at TEXT;
DROP TRIGGER IF EXISTS ${table}_version;
${versionTrigger(table)}`,
).join("")}`;
