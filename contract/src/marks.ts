import { z } from "./zod.ts";

/** What a figure gives away that not everybody may know. */
export type Mark = "cost" | "price";

const marks = z.registry<{ shows: Mark }>();

/** A copy of a schema that says what its figures give away. */
export function marked<T extends z.ZodType>(schema: T, shows: Mark): T {
  const copy = schema.clone();
  marks.add(copy, { shows });
  return copy;
}

/** What a schema gives away; null where everybody may know. Looks through nullable and optional. */
export function markOf(schema: z.ZodType): Mark | null {
  const mark = marks.get(schema)?.shows;
  if (mark) return mark;
  return schema instanceof z.ZodNullable || schema instanceof z.ZodOptional
    ? markOf(schema.unwrap() as z.ZodType)
    : null;
}
