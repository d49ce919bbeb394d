/** What the person's own fields can hold. */
export const CUSTOM_FIELD_TYPES = ["text", "number", "date", "yes/no"] as const;

export type CustomFieldType = (typeof CUSTOM_FIELD_TYPES)[number];

/** What own fields can be filled in for. */
export const CUSTOM_FIELD_OWNERS = ["item", "list", "lot", "serial"] as const;

export type CustomFieldOwner = (typeof CUSTOM_FIELD_OWNERS)[number];
