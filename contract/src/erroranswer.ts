import { z } from "./zod.ts";

export const fieldError = z.object({
  field: z.string().meta({ description: "Path of the field in the body, such as lines.0.quantity" }),
  code: z.string(),
  message: z.string(),
});
export type FieldError = z.infer<typeof fieldError>;

/** A part that a build cannot get enough of, as told with `not-enough`. */
export const partShort = z.object({
  item: z.int(),
  code: z.string(),
  name: z.string(),
  unit: z.string(),
  needed: z.string(),
  there: z.string(),
  short: z.string(),
});

export const errorAnswer = z
  .object({
    code: z.string(),
    message: z.string(),
    fields: z.array(fieldError),
    shorts: z.array(partShort).optional(),
    largest: z
      .string()
      .optional()
      .meta({ description: "With not-enough: the largest quantity that could be finished" }),
  })
  .meta({ id: "Error" });
export type ErrorAnswer = z.infer<typeof errorAnswer>;
