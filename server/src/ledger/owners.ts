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

/** The columns of one end of a movement: location, bin, and whose stock it is there. */
export function endColumns(spot: Spot | null): [number | null, string, OwnerKind | "", number] {
  if (spot === null) return [null, "", "", 0];
  const { kind, id } = spot.owner ?? COMPANY;
  return [spot.place, spot.bin, kind, id];
}
