import type { ItemSheet, NewItem } from "@yosegi/contract";
import type { ItemKind } from "@yosegi/core";
import { wholeNumber } from "../forms/index.ts";

/** An item as it is typed: amounts and whole numbers as text, "" for none. */
export interface ItemDraft extends Pick<NewItem, "code" | "name" | "kind" | "unit" | "tracking" | "group"> {
  barcode: string;
  cost: string;
  costPer: string;
  price: string;
  pricePer: string;
  store: string;
  bin: string;
  reorderLevel: string;
  buildDays: string;
  shelfLife: string;
  warrantyMonths: string;
  maker: string;
  makerNumber: string;
  lotPattern: string;
  state: NewItem["state"];
  notStockTracked: boolean;
  notForSale: boolean;
  alwaysBuild: boolean;
  finishWhenShipped: boolean;
  lotFixed: boolean;
  taxRate: string;
  packs: { name: string; quantity: string }[];
  notes: string;
}

const BLANK: Omit<ItemDraft, "code" | "kind" | "unit"> = {
  name: "",
  tracking: "none",
  group: "",
  barcode: "",
  cost: "",
  costPer: "",
  price: "",
  pricePer: "",
  store: "",
  bin: "",
  reorderLevel: "",
  buildDays: "",
  shelfLife: "",
  warrantyMonths: "",
  maker: "",
  makerNumber: "",
  lotPattern: "",
  state: "active",
  notStockTracked: false,
  notForSale: false,
  alwaysBuild: false,
  finishWhenShipped: false,
  lotFixed: false,
  taxRate: "",
  packs: [],
  notes: "",
};

export const blankItem = (code: string, kind: ItemKind): ItemDraft => ({
  ...BLANK,
  code: code.toUpperCase(),
  kind,
  unit: kind === "service" ? "hour" : "pc",
});

export function draftOfItem(item: ItemSheet): ItemDraft {
  const text = (value: string | number | null) => (value === null ? "" : String(value));
  return {
    code: item.code,
    name: item.name,
    kind: item.kind,
    unit: item.unit,
    tracking: item.tracking,
    group: item.group,
    barcode: item.barcode,
    store: item.store,
    bin: item.bin,
    maker: item.maker,
    makerNumber: item.makerNumber,
    lotPattern: item.lotPattern,
    state: item.state,
    notStockTracked: item.notStockTracked,
    notForSale: item.notForSale,
    alwaysBuild: item.alwaysBuild,
    finishWhenShipped: item.finishWhenShipped,
    lotFixed: item.lotFixed,
    taxRate: text(item.taxRate),
    notes: item.notes,
    packs: item.packs,
    cost: text(item.cost),
    costPer: item.costPer,
    price: text(item.ownPrice),
    pricePer: item.ownPrice === null ? "" : item.pricePer,
    reorderLevel: text(item.reorderLevel),
    buildDays: text(item.buildDays),
    shelfLife: text(item.shelfLife),
    warrantyMonths: text(item.warrantyMonths),
  };
}

export function bodyOfItem(draft: ItemDraft): NewItem {
  const amount = (text: string) => (text === "" ? null : text);
  return {
    ...draft,
    cost: amount(draft.cost),
    price: amount(draft.price),
    taxRate: amount(draft.taxRate),
    reorderLevel: amount(draft.reorderLevel),
    buildDays: wholeNumber(draft.buildDays),
    shelfLife: wholeNumber(draft.shelfLife),
    warrantyMonths: wholeNumber(draft.warrantyMonths),
    packs: draft.packs.filter(isPack),
  };
}

/** A pack of which nothing is said is only room for one. */
export const isPack = (pack: ItemDraft["packs"][number]): boolean => pack.name !== "" || pack.quantity !== "";
