/** A dialog of one line shows its fields, and what is wrong with them, without the line's place. */
export const fieldOfLine = (path: string): string => path.replace(/^lines\.0\./, "");
