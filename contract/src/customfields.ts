import { CUSTOM_FIELD_OWNERS, CUSTOM_FIELD_TYPES } from "@yosegi/core";
import { id, once, ref, short } from "./fields.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

/** A field of the person's own, as it is filled in for one thing. */
export const customValue = z.object({
  field: ref,
  name: z.string(),
  type: z.enum(CUSTOM_FIELD_TYPES),
  value: z.string().meta({ description: "Text, a plain decimal, a day, or yes or no; empty: not filled in" }),
});

export type CustomValue = z.infer<typeof customValue>;

const fieldName = short("The name").min(1, "The name is missing.");

export const customField = z.object({
  id: ref,
  name: z.string(),
  type: z.enum(CUSTOM_FIELD_TYPES),
  used: z.int().meta({ description: "How many things have it filled in" }),
});

export type CustomField = z.infer<typeof customField>;

export const customFieldRoutes = {
  customFields: ask("/api/custom-fields", {
    permission: "look",
    summary: "Fields of one's own, for items, parts lists, lots and serials alike",
    answer: z.object({ fields: z.array(customField) }),
  }),
  newCustomField: command("/api/custom-fields", {
    permission: "items",
    summary: "Make a field",
    body: z.object({ name: fieldName, type: z.enum(CUSTOM_FIELD_TYPES) }),
    answer: customField,
  }),
  changeCustomField: replace("/api/custom-fields/:id", {
    permission: "items",
    summary: "Name a field anew",
    params: z.object({ id }),
    body: z.object({ name: fieldName }),
    answer: customField,
  }),
  removeCustomField: command("/api/custom-fields/:id/remove", {
    permission: "items",
    summary: "Remove a field, with what is filled in",
    params: z.object({ id }),
    answer: z.object({}),
  }),
  fillIn: replace("/api/custom-values", {
    permission: "items",
    summary: "Fill in own fields of an item, a parts list, a lot or a serial",
    body: z.object({
      owner: z.enum(CUSTOM_FIELD_OWNERS),
      id: ref.meta({ description: "Of the item or the list; for a lot or serial, of its item" }),
      code: z.string().max(60).meta({ description: "The lot or serial; empty otherwise" }),
      values: z
        .array(
          z.object({
            field: ref,
            value: z.string().trim().max(500, "A value may have up to 500 characters."),
          }),
        )
        .check(once((value) => value.field, "This field is named")),
    }),
    answer: z.object({}),
  }),
};
