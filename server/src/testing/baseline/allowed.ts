/** Answers that are meant to be other than they were at commit 2954120, each for what was wrong then. */
export interface Allowed {
  /** What was mended, in a few words. */
  why: string;
  url: RegExp;
  at: RegExp;
}

export const ALLOWED: readonly Allowed[] = [
  {
    why: "a build says how many of its units were taken apart",
    url: /\/api\/builds\/\d+/,
    at: /^body\.takenApart$/,
  },
  {
    why: "a line of a purchase order says what price was agreed",
    url: /\/api\/purchases\/\d+/,
    at: /^body\.orderLines\.\d+\.agreed$/,
  },
  {
    why: "a check says what whole batches would make",
    url: /\/api\/cover/,
    at: /demands\.\d+\.filled/,
  },
  {
    why: "what is short says where its supplier sells it on the web",
    url: /\/api\/(cover|reorder)/,
    at: /(orders|offers)\.\d+\.web$/,
  },
  {
    why: "prices and costs say what they are for, and are told unrounded",
    url: /./,
    at: /(^|\.)(pricePer|costPer|currentCost|priceRate)$/,
  },
  {
    why: "spreadsheets have a column for what a price is for",
    url: /\/api\/(exports\/(items|prices|stock)|purchases\/\d+\/paper)/,
    at: /^body$/,
  },
  {
    why: "E6: a cost is rounded once, at the end",
    url: /\/api\/(cover\/expected|items|prices|revisions)/,
    at: /(unitCost|margin|costBefore|costAfter|(expected|cost)\.(each|total|materials))$/,
  },
  {
    why: "A31: lists come in pages, and say how many there are",
    url: /\/api\/(builds|orders|outbox|purchases|firms|prices|reorder|items)(\?|$)/,
    at: /^body\.(total|next|dueToday)$/,
  },
  {
    why: "the ledger: a received line says its position, by which its price is put right",
    url: /\/api\/purchases\/\d+/,
    at: /^body\.receipts\.\d+\.lines\.\d+\.line$/,
  },
  {
    why: "words: what goes back from a bench is returned to stock",
    url: /\/api\/stock\/movements/,
    at: /^body\.movements\.\d+\.kind$/,
  },
  {
    why: "A31: the label tray gives what is next, and says how many wait in all",
    url: /\/api\/labels/,
    at: /^body\.(waiting|labels)/,
  },
  {
    why: "A10: the check of all open work keeps priorities and the builds on the bench",
    url: /\/api\/cover\/open/,
    at: /^body\.demands/,
  },
  // It is made of the answer above, and so is another question.
  { why: "A10: and so asks for other demands", url: /^POST \/api\/cover .*"stage":/, at: /^$/ },
  { why: "A25: where an item is used names orders too", url: /where-used/, at: /^body\.uses/ },
  {
    why: "A6, E5, E10: an order tells what can still come good, what comes for nobody, and what is only planned",
    url: /\/api\/orders/,
    at: /(linesMissing|coming|missing|planned)$/,
  },
  {
    why: "a line of an order has a discount",
    url: /\/api\/orders\/\d+/,
    at: /^body\.orderLines\.\d+\.discount$/,
  },
  {
    why: "an order has a promise day, a precedence, and copies of its kits",
    url: /\/api\/orders\/\d+/,
    at: /^body\.(orderLines\.\d+\.)?(promise|promised|late|precedence|set|toBuy|address|terms|costTag|takes\.\d+\.purchases)$/,
  },
  {
    why: "E2: what stands on drafts is deducted from suggestions, and named",
    url: /\/api\/(reorder|recurring|cover )/,
    at: /(onDrafts|planned|short|quantity|cost|spending|targets\.\d+\.coming)$/,
  },
  {
    why: "A4: a part finish charges what it used, by its share of the pool",
    url: /finish-preview/,
    at: /cost(\.|$)/,
  },
  {
    why: "A16: a part's row adds up what builds made first take of it",
    url: /^POST \/api\/cover /,
    at: /parts\.\d+\.(need|shortNow|shortOnDay|leftOver|day)$/,
  },
  {
    why: "B8: documents say how often they were changed",
    url: /\/api\/((items|revisions|orders|purchases|builds|firms)\/|recurring$)/,
    at: /(^|\.)version$/,
  },
  {
    why: "B15: people and stores can be renamed and archived",
    url: /\/api\/(people|stores)$/,
    at: /\.(id|archived)$/,
  },
  {
    why: "words: why an item can't be changed, as a shop person would say it",
    url: /\/api\/items\/\d+$/,
    at: /^body\.inUse$/,
  },
  {
    why: "a list of items says how many archived ones match too",
    url: /^GET \/api\/items\?/,
    at: /^body\.archived$/,
  },
  {
    why: "an item may be not for sale, or always built for orders",
    url: /\/api\/items/,
    at: /(^|\.)(notForSale|alwaysBuild|finishWhenShipped|lotFixed)$/,
  },
  {
    why: "a customer has a note, a hold and a credit limit",
    url: /\/api\/firms/,
    at: /(^|\.)(note|onHold|creditLimit)$/,
  },
  { why: "a build shows what is on order for its parts", url: /\/api\/builds/, at: /\.purchases$/ },
  { why: "one unit may have a price of its own", url: /\/api\/items\/\d+$/, at: /stockByBin\.\d+\.price$/ },
  { why: "a line may ask for one unit", url: /\/api\/orders\//, at: /orderLines\.\d+\.serial$/ },
  { why: "the company charges a tax", url: /\/api\/company$/, at: /\.taxRate$/ },
  { why: "an item may have a tax rate of its own", url: /\/api\/(items|orders)/, at: /(^|\.)taxRate$/ },
  {
    why: "a customer may be tax-exempt, and in a group with a price list",
    url: /\/api\/firms/,
    at: /(^|\.)(taxExempt|group|priceLists)$/,
  },
  { why: "customers come out with their group", url: /\/api\/exports\/customers/, at: /^body$/ },
  { why: "price lists come out", url: /\/api\/exports\/priceLists/, at: /^$/ },
  {
    why: "an order shows its tax, may have lines of text, and may be a quote",
    url: /\/api\/orders/,
    at: /(^|\.)(validUntil|lapsed|quote|texts|taxes|gross)$/,
  },
  {
    why: "a parts list has instructions, a build shows them",
    url: /\/api\/(items|revisions|builds)\//,
    at: /(^|\.)instructions$/,
  },
  { why: "a check offers optional parts", url: /^POST \/api\/cover /, at: /demands\.\d+\.options$/ },
  {
    why: "a build may have parts of its own, told against its list",
    url: /\/api\/builds\//,
    at: /(listed|ownParts|leftOut)$/,
  },
  {
    why: "a hit has one id, of what its kind says",
    url: /\/api\/find/,
    at: /hits\.\d+\.(id|item|build|order|purchase|document)$/,
  },
  { why: "what was booked by hand may be undone", url: /\/api\/stock\/movements/, at: /^body\.undoable$/ },
  { why: "an item shows what is incoming", url: /\/api\/items\/\d+$/, at: /^body\.incoming/ },
  {
    why: "stock says what kind of location it is in",
    url: /\/api\/items\/\d+$/,
    at: /stockByBin\.\d+\.kind$/,
  },
  {
    why: "an order says what left of each line, what was closed, and what is packed",
    url: /\/api\/orders/,
    at: /(linesReadyInPart|orderLines\.\d+\.(shipped|open|closed)|takes\.\d+\.(per|shipped|closed|packed))$/,
  },
  {
    why: "of an order that was cancelled nothing is ready",
    url: /\/api\/orders\/\d+$/,
    at: /orderLines\.\d+\.ready$/,
  },
  {
    why: "a line may be delivered by its supplier, or finished when it is shipped",
    url: /\/api\/orders/,
    at: /(^|\.)(bySupplier|finishWhenShipped)$/,
  },
  { why: "a purchase order may go straight to a customer", url: /\/api\/purchases/, at: /(^|\.)deliverTo$/ },
  {
    why: "a message may be about an order or a shipment",
    url: /\/api\/outbox/,
    at: /(^|\.)(order|shipment)$/,
  },
  { why: "what is to be fetched waits at the rail", url: /\/api\/waiting/, at: /^body\.(picks|rounds)$/ },
  {
    why: "a movement says its device and its cost tag",
    url: /\/api\/stock\/movements/,
    at: /(^|\.)(device|costTag)$/,
  },
];
