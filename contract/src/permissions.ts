/** What a person may be allowed to do, each with what it covers. Every route names one. */
export const PERMISSIONS = {
  look: "Look at everything and save checks",
  items: "Create and change items, units, groups, suppliers' terms, custom fields and files",
  lists: "Write parts lists and lock their revisions; replace parts",
  kits: "Write the contents of kits",
  prices: "Set sales prices",
  firms: "Keep the address books of suppliers and customers",
  stock: "Book stock in by hand",
  buy: "Write and send purchase orders",
  send: "Say that messages in the outbox were sent",
  receive: "Receive what was ordered, and undo it",
  plan: "Plan and queue builds, recurring builds and stock targets",
  build: "Hand out parts, finish builds, print labels",
  sell: "Take customers' orders",
  pick: "Fetch goods for builds and orders, and put them back",
  ship: "Ship orders, and undo it",
  returns: "Take back what customers return, and decide what becomes of it",
  import: "Bring in spreadsheets",
  stores: "Keep the list of stores and bins",
  company: "Set up the company and its people",
} as const;
export type Permission = keyof typeof PERMISSIONS;
