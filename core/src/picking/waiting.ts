import { type Decimal, decimal, min, ZERO } from "../amounts/index.ts";

interface Spot {
  location: number;
  bin: string;
  lot: string;
  serial: string;
}

/** A fetch that is kept on the device until it is sent. */
export interface WaitingFetch extends Spot {
  item: number;
  quantity: string;
}

/**
 * What is left of stops once the fetches are recorded that wait on the device: each takes from the stop it was scanned at, then from others
 * of its item in that bin, then from others elsewhere, as the server will deal it out.
 */
export function stopsLeft<Stop extends Spot & { item: { id: number }; quantity: string }>(
  stops: readonly Stop[],
  fetches: readonly WaitingFetch[],
): Stop[] {
  const left = stops.map((stop) => ({ stop, quantity: decimal(stop.quantity) }));
  for (const fetch of fetches) {
    let open: Decimal = decimal(fetch.quantity);
    const nearest = left
      .filter(({ stop }) => stop.item.id === fetch.item)
      .sort((a, b) => distance(a.stop, fetch) - distance(b.stop, fetch));
    for (const one of nearest) {
      const now = min(open, one.quantity);
      one.quantity = one.quantity.minus(now);
      open = open.minus(now);
    }
  }
  return left.flatMap(({ stop, quantity }) =>
    quantity.gt(ZERO) ? [{ ...stop, quantity: quantity.toFixed() }] : [],
  );
}

/** How near a stop is to where something was fetched: the very lot, the bin, elsewhere. */
function distance(stop: Spot, fetch: Spot): number {
  if (stop.location !== fetch.location || stop.bin !== fetch.bin) return 2;
  return stop.lot === fetch.lot && stop.serial === fetch.serial ? 0 : 1;
}
