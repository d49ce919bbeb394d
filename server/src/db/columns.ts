// Quantities are whole millionths, money whole ten-thousandths; the bounds keep both exact when read as a number.
export const scaled = (column: string, least = 0) =>
  `INTEGER NOT NULL CHECK (${column} BETWEEN ${least} AND 9000000000000000)`;
/** The same below zero too. */
export const signed = (column: string) =>
  `INTEGER NOT NULL CHECK (${column} BETWEEN -9000000000000000 AND 9000000000000000)`;
export const scaledOrNull = (column: string) => `INTEGER CHECK (${column} BETWEEN 0 AND 9000000000000000)`;
export const text = (column: string, most: number, least = 0) =>
  `TEXT NOT NULL CHECK (length(${column}) BETWEEN ${least} AND ${most})`;
export const day = (column: string) =>
  `TEXT CHECK (${column} GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]')`;
