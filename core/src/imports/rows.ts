import type { Decimal } from "../amounts/index.ts";
import type { ItemInput, SupplierRow } from "../items/index.ts";
import type { KitDraft } from "../kits/index.ts";
import type { ListDraft } from "../lists/index.ts";
import type { PriceListRow } from "../prices/index.ts";

/**
 * Records as the rows of a spreadsheet, in the words in which an import reads them: what is exported and imported again
 * is the same. Empty text stands for what is not given.
 */
export type Cells = Record<string, string>;

const amount = (value: Decimal | null) => value?.toFixed() ?? "";

const textOf = (value: number | null) => (value === null ? "" : String(value));

const yes = (value: boolean) => (value ? "yes" : "no");

/** Several things in one cell, such as "box = 50; pallet = 1000". */
export const LIST_MARK = ";";

export const VALUE_MARK = "=";

const listed = (parts: readonly string[]) => parts.join(`${LIST_MARK} `);

const valued = (name: string, value: Decimal) => `${name} ${VALUE_MARK} ${value.toFixed()}`;

export function itemCells(item: Omit<ItemInput, "row">): Cells {
  return {
    code: item.code,
    name: item.name,
    kind: item.kind,
    unit: item.unit,
    tracking: item.tracking,
    group: item.group,
    cost: amount(item.cost),
    cost_per: item.costPer,
    price: amount(item.price),
    price_per: item.pricePer,
    store: item.store,
    bin: item.bin,
    barcode: item.barcode,
    packs: listed(item.packs.map((pack) => valued(pack.name, pack.quantity))),
    reorder_level: amount(item.reorderLevel),
    build_days: textOf(item.buildDays),
    shelf_life: textOf(item.shelfLife),
    warranty_months: textOf(item.warrantyMonths),
    maker: item.maker,
    maker_number: item.makerNumber,
    lot_pattern: item.lotPattern,
    state: item.state,
    not_stock_tracked: yes(item.notStockTracked),
    not_for_sale: yes(item.notForSale),
    always_build: yes(item.alwaysBuild),
    finish_when_shipped: yes(item.finishWhenShipped),
    lot_fixed: yes(item.lotFixed),
    tax_rate: amount(item.taxRate),
    notes: item.notes,
  };
}

/** One row a line; what concerns the list stands on its first row. `list` is "" for the main one. */
export function listCells(draft: Omit<ListDraft, "row"> & { list: string }): Cells[] {
  return draft.lines.map((line, i) => {
    const head = (value: Decimal) => (i === 0 ? value.toFixed() : "");
    return {
      product: draft.product,
      list: draft.list,
      makes: head(draft.makes),
      usual: head(draft.usual),
      overhead: head(draft.overhead),
      extra: head(draft.extra),
      yield: head(draft.yield),
      part: line.part,
      quantity: line.quantity.toFixed(),
      unit: line.unit,
      waste: line.waste.toFixed(),
      once_per_build: yes(line.oncePerBuild),
      optional: yes(line.optional),
      drawn_at: line.drawnAt,
      store: line.store,
      share: amount(line.share),
      person: line.person,
      substitutes: listed(line.substitutes.map((s) => valued(s.item, s.quantity))),
      note: line.note,
    };
  });
}

/** One row a content; what concerns the kit stands on its first row. */
export function kitCells(kit: KitDraft): Cells[] {
  return kit.contents.map((content, i) => {
    const head = (value: string) => (i === 0 ? value : "");
    return {
      kit: kit.kit,
      contents_shown: head(yes(kit.contentsShown)),
      may_be_added_to: head(yes(kit.mayBeAddedTo)),
      price_rule: head(kit.priceRule),
      discount: head(kit.discount.toFixed()),
      content: content.item,
      quantity: content.quantity.toFixed(),
      swap: content.swap,
      swaps: listed(content.swaps),
      quantity_may_change: yes(content.quantityMayChange),
      may_be_left_out: yes(content.mayBeLeftOut),
    };
  });
}

export function supplierCells(row: Omit<SupplierRow, "row">): Cells {
  return {
    item: row.item,
    supplier: row.supplier,
    their_code: row.theirCode,
    price: amount(row.price),
    price_per: row.pricePer,
    lead_days: textOf(row.leadDays),
    minimum: amount(row.minimum),
    multiple: amount(row.multiple),
    web: row.web,
    preferred: yes(row.preferred),
  };
}

export function priceListCells({
  customer,
  group,
  item,
  from,
  price,
  pricePer,
}: Omit<PriceListRow, "row">): Cells {
  return { customer, group, item, from: from.toFixed(), price: price.toFixed(), price_per: pricePer };
}

/** What an address book's entry consists of; a supplier and a customer alike, but that only customers have a group. */
export interface FirmRow {
  row: number;
  code: string;
  name: string;
  address: string;
  contact: string;
  email: string;
  phone: string;
  terms: string;
  group: string;
}

export function firmCells(firm: Omit<FirmRow, "row">): Cells {
  const { code, name, address, contact, email, phone, terms, group } = firm;
  return { code, name, address, contact, email, phone, terms, group };
}
