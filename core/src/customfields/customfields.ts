/** What the person's own fields can hold. */
export const OWN_FIELD_TYPES = ["text", "number", "date", "yes/no"] as const;

export type OwnFieldType = (typeof OWN_FIELD_TYPES)[number];

/** What own fields can be filled in for. */
export const OWN_FIELD_OWNERS = ["item", "list", "lot", "serial"] as const;

export type OwnFieldOwner = (typeof OWN_FIELD_OWNERS)[number];
