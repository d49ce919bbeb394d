import { COMPANY, type Owner, type OwnerKind, type Spot, sameOwner } from "@yosegi/core";

/** An owner as the tables have it. */
export interface OwnerColumns {
  owner: OwnerKind;
  owner_id: number;
}

/** The owner of a row; nothing where it is the company, as the core has it. */
export function ownerOf({ owner, owner_id }: OwnerColumns): { owner?: Owner } {
  const whose: Owner = { kind: owner, id: owner_id };
  return sameOwner(whose, COMPANY) ? {} : { owner: whose };
}

export function ownerColumns(owner: Owner = COMPANY): OwnerColumns {
  return { owner: owner.kind, owner_id: owner.id };
}

/** Where stock is and whose it is, as columns; all empty where it comes from outside or leaves. */
export function spotColumns(spot: Spot | null) {
  if (spot === null) return { location: null, bin: "", owner: "" as const, owner_id: 0 };
  return { location: spot.location, bin: spot.bin, ...ownerColumns(spot.owner) };
}
