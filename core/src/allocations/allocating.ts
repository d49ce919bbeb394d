// Quantities are whole millionths of the stock unit, as the database keeps them: thousands of order lines are served at
// once, and whole numbers of that size are exact.

/** What a build gives: units that came good, and what can still come good. A draft gives nothing yet. */
export interface BuildOutput {
  good: number;
  toCome: number;
}

/** What one order line has of one build. */
export interface Allocated {
  made: number;
  coming: number;
}

/**
 * Shares a build out among the lines it is linked to, in the order of linking, each up to what it was linked for: good
 * units first come first, then what can still come good (docs/rules.md § 11).
 */
export function allocateBuildOutput({ good, toCome }: BuildOutput, linked: readonly number[]): Allocated[] {
  let [made, coming] = [good, toCome];
  return linked.map((quantity) => {
    const own = { made: Math.min(made, quantity), coming: 0 };
    made -= own.made;
    own.coming = Math.min(coming, quantity - own.made);
    coming -= own.coming;
    return own;
  });
}

/** What of a build no line has. */
export function unallocated(output: BuildOutput, linked: readonly number[]): Allocated {
  const shares = allocateBuildOutput(output, linked);
  return {
    made: shares.reduce((rest, share) => rest - share.made, output.good),
    coming: shares.reduce((rest, share) => rest - share.coming, output.toCome),
  };
}

/** What a component of an order line asks for, and what its own builds give it. */
export interface Ask {
  /** Ordered − shipped − closed. */
  open: number;
  shipped: number;
  /** Made for it by builds that are linked to its line; what was shipped went off this first. */
  made: number;
  /** What these can still give. */
  coming: number;
  /** Good units that draft builds for it are to give. */
  planned: number;
}

/** What there is of an item for orders. */
export interface OrderSupply {
  /** On hand in usable places, without expired lots. */
  usable: number;
  /** What builds still have to take of it: theirs before any order's. */
  reservedByBuilds: number;
  /** On its way for nobody in particular: open purchase lines, builds without a line, the unlinked rest of others. */
  incoming: number;
  /** What draft builds without a line are to give. */
  planned: number;
}

/** How an ask stands; ready + coming + missing = open. */
export interface Standing {
  /** In stock for it. */
  ready: number;
  /** Being built for it, or dealt out to it of what is on its way for nobody. */
  coming: number;
  /** Of the coming, what was dealt out. */
  dealtOut: number;
  /** Of the missing, what draft builds are to give. */
  planned: number;
  /** Of the planned, what was dealt out of drafts without a line. */
  plannedDealtOut: number;
  missing: number;
}

/** Of what nobody has and nothing is missing. */
export const NO_STANDING: Standing = {
  ready: 0,
  coming: 0,
  dealtOut: 0,
  planned: 0,
  plannedDealtOut: 0,
  missing: 0,
};

/** Hands out a quantity bit by bit. */
function pool(quantity: number): (most: number) => number {
  let left = Math.max(0, quantity);
  return (most) => {
    const taken = Math.min(left, Math.max(0, most));
    left -= taken;
    return taken;
  };
}

/**
 * Deals an item out to all open asks for it, in their turn (docs/rules.md § 11): each has what was made for it, then the
 * rest of the stock goes in turn; then what its own builds will give, then what is on its way for nobody, after what
 * builds lack themselves.
 */
export function allocateStock(supply: OrderSupply, asks: readonly Ask[]): Standing[] {
  const { usable, reservedByBuilds } = supply;
  const stock = pool(usable - reservedByBuilds);
  const incoming = pool(supply.incoming - Math.max(0, reservedByBuilds - usable));
  const planned = pool(supply.planned);
  const own = asks.map(({ open, shipped, made }) => stock(Math.min(open, Math.max(0, made - shipped))));
  return asks.map((ask, i) => {
    const had = own[i] ?? 0;
    const ready = had + stock(ask.open - had);
    const allocated = Math.min(ask.coming, ask.open - ready);
    const dealtOut = incoming(ask.open - ready - allocated);
    const missing = ask.open - ready - allocated - dealtOut;
    const ownPlanned = Math.min(ask.planned, missing);
    const plannedDealtOut = planned(missing - ownPlanned);
    return {
      ready,
      coming: allocated + dealtOut,
      dealtOut,
      planned: ownPlanned + plannedDealtOut,
      plannedDealtOut,
      missing,
    };
  });
}
