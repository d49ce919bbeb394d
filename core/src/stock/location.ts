/**
 * What locations are (docs/glossary.md): stores, which alone are usable; the bench; a subcontractor's place; returns, held
 * until they are inspected; what is packed for an order. A new kind is one more word.
 */
export const LOCATION_KINDS = ["store", "bench", "subcontractor", "returns", "packed"] as const;
export type LocationKind = (typeof LOCATION_KINDS)[number];
