/** Who stock belongs to (docs/rules.md § 9): the company, a build or a rework it was handed out to, or a customer. */
export const OWNER_KINDS = ["company", "build", "rework", "customer"] as const;
export type OwnerKind = (typeof OWNER_KINDS)[number];

export interface Owner {
  kind: OwnerKind;
  /** Id of the build, the rework or the customer; 0 for the company. */
  id: number;
}

/** Whose stock is that says no owner. */
export const COMPANY: Owner = { kind: "company", id: 0 };

export const buildOwner = (id: number): Owner => ({ kind: "build", id });

export const reworkOwner = (id: number): Owner => ({ kind: "rework", id });

export const customerOwner = (id: number): Owner => ({ kind: "customer", id });

export const sameOwner = (a: Owner = COMPANY, b: Owner = COMPANY): boolean =>
  a.kind === b.kind && a.id === b.id;

/** The owner as the keys of balances and pools have it. */
export const ownerKey = ({ kind, id }: Owner = COMPANY): [OwnerKind, number] => [kind, id];
