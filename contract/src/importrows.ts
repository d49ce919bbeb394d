import {
  codeKey,
  type Day,
  type Decimal,
  decimal,
  type ItemInput,
  type KitRow,
  LIST_MARK,
  type ListRow,
  type PriceListRow,
  parseDay,
  type StockRow,
  type SupplierRow,
  VALUE_MARK,
} from "@yosegi/core";
import { drawnAt, itemKind, itemState, tracking } from "./brief.ts";
import {
  bin,
  code,
  cost,
  email,
  listName,
  longText,
  lot,
  lotPattern,
  name,
  note,
  packName,
  per,
  percent,
  price,
  quantity,
  quantityOrZero,
  serial,
  share,
  short,
  taxRate,
  web,
  yieldPercent,
} from "./fields.ts";
import { customerGroup } from "./firms.ts";
import { priceRule, swap } from "./kits.ts";
import { z } from "./zod.ts";

const orNull = <T extends z.ZodType>(schema: T) => z.union([z.literal("").transform(() => null), schema]);

const orElse = <T extends z.ZodType, E>(schema: T, fallback: E) =>
  z.union([z.literal("").transform(() => fallback), schema]);

const yesNo = z
  .string()
  .transform((text) => codeKey(text))
  .pipe(z.enum(["YES", "NO"], { error: "Write yes or no." }))
  .transform((text) => text === "YES");

const needed = (what: string) => z.string().min(1, `${what} is missing.`);

const amount = <T extends z.ZodType<string, string>>(schema: T) => schema.transform((text) => decimal(text));

const amountOrNull = <T extends z.ZodType<string, string>>(schema: T) => orNull(amount(schema));

const days = (what: string) =>
  orNull(
    z
      .string()
      .regex(/^\d{1,4}$/, `${what} is a whole number up to 9999.`)
      .transform(Number),
  );

export const parts = (text: string) =>
  text
    .split(LIST_MARK)
    .map((part) => part.trim())
    .filter(Boolean);

/** A cell such as "box = 50; pallet = 1000"; what may stand for one need not say so. */
const valued = (what: string, orOne: boolean, called: z.ZodType<string> = z.string()) =>
  z.string().transform((text, ctx): { name: string; quantity: Decimal }[] =>
    parts(text).map((part) => {
      const [before = "", after = "", ...more] = part.split(VALUE_MARK).map((half) => half.trim());
      const read = quantity.safeParse(after === "" && orOne ? "1" : after);
      const named = called.safeParse(before);
      if (before !== "" && more.length === 0 && read.success && named.success)
        return { name: named.data, quantity: decimal(read.data) };
      const [fault] = before === "" ? [] : (named.error?.issues ?? []);
      const message =
        fault?.message ??
        `“${part.slice(0, 40)}” is no ${what}. Write it like ${what} = 2; several with ${LIST_MARK} between.`;
      ctx.addIssue({ code: "custom", message, input: text });
      return { name: before, quantity: decimal(1) };
    }),
  );

/** Rows without their number, which is the file's. */
type Row<T extends { row: number }> = Omit<T, "row">;

/** `unit`, `tracking` and `store` may be left to the defaults of the group: then they are null or empty here. */
export type ItemFileRow = Omit<Row<ItemInput>, "tracking"> & { tracking: ItemInput["tracking"] | null };

export const itemsRow: z.ZodType<ItemFileRow> = z
  .object({
    code,
    name,
    kind: itemKind,
    unit: z.string(),
    tracking: orNull(tracking),
    group: name.or(z.literal("")),
    cost: amountOrNull(cost),
    price: amountOrNull(price),
    cost_per: per,
    price_per: per,
    store: name.or(z.literal("")),
    bin,
    barcode: short("The barcode"),
    packs: valued("pack", false, packName),
    reorder_level: amountOrNull(quantityOrZero),
    build_days: days("The build days"),
    shelf_life: days("The shelf life"),
    warranty_months: days("The warranty"),
    maker: name.or(z.literal("")),
    maker_number: short("The maker's number"),
    lot_pattern: lotPattern,
    state: orElse(itemState, "active" as const),
    not_stock_tracked: orElse(yesNo, false),
    not_for_sale: orElse(yesNo, false),
    always_build: orElse(yesNo, false),
    finish_when_shipped: orElse(yesNo, false),
    lot_fixed: orElse(yesNo, false),
    tax_rate: amountOrNull(taxRate),
    notes: longText("The note", 2000),
  })
  .transform(
    ({
      reorder_level,
      build_days,
      shelf_life,
      warranty_months,
      maker_number,
      lot_pattern,
      not_stock_tracked,
      not_for_sale,
      always_build,
      finish_when_shipped,
      lot_fixed,
      tax_rate,
      cost_per,
      price_per,
      ...row
    }) => ({
      ...row,
      costPer: cost_per,
      pricePer: price_per,
      reorderLevel: reorder_level,
      buildDays: build_days,
      shelfLife: shelf_life,
      warrantyMonths: warranty_months,
      makerNumber: maker_number,
      lotPattern: lot_pattern,
      notStockTracked: not_stock_tracked,
      notForSale: not_for_sale,
      alwaysBuild: always_build,
      finishWhenShipped: finish_when_shipped,
      lotFixed: lot_fixed,
      taxRate: tax_rate,
    }),
  );

export const partsListsRow: z.ZodType<Row<ListRow>> = z
  .object({
    product: needed("The product"),
    list: listName.or(z.literal("")),
    makes: amountOrNull(quantity),
    usual: amountOrNull(quantity),
    overhead: amountOrNull(cost),
    extra: amountOrNull(cost),
    yield: amountOrNull(yieldPercent),
    part: needed("The part"),
    quantity: amount(quantity),
    unit: needed("The unit"),
    waste: orElse(amount(percent), decimal(0)),
    once_per_build: orElse(yesNo, false),
    optional: orElse(yesNo, false),
    drawn_at: orElse(drawnAt, "pick" as const),
    store: name.or(z.literal("")),
    share: amountOrNull(share),
    person: z.string(),
    substitutes: valued("CODE", true),
    note,
  })
  .transform(({ once_per_build, drawn_at, substitutes, ...row }) => ({
    ...row,
    oncePerBuild: once_per_build,
    drawnAt: drawn_at,
    substitutes: substitutes.map((s) => ({ item: s.name, quantity: s.quantity })),
  }));

export const kitsRow: z.ZodType<Row<KitRow>> = z
  .object({
    kit: needed("The kit"),
    contents_shown: orNull(yesNo),
    may_be_added_to: orNull(yesNo),
    price_rule: orNull(priceRule),
    discount: amountOrNull(share),
    content: needed("The content"),
    quantity: amount(quantity),
    swap: orElse(swap, "fixed" as const),
    swaps: z.string().transform(parts),
    quantity_may_change: orElse(yesNo, false),
    may_be_left_out: orElse(yesNo, false),
  })
  .transform((row) => ({
    kit: row.kit,
    contentsShown: row.contents_shown,
    mayBeAddedTo: row.may_be_added_to,
    priceRule: row.price_rule,
    discount: row.discount,
    item: row.content,
    quantity: row.quantity,
    swap: row.swap,
    swaps: row.swaps,
    quantityMayChange: row.quantity_may_change,
    mayBeLeftOut: row.may_be_left_out,
  }));

export const firmsRow = z.object({
  code,
  name,
  address: longText("The address", 500),
  contact: name.or(z.literal("")),
  email,
  phone: short("The phone number"),
  terms: longText("The terms", 500),
  group: customerGroup.default(""),
});

export type FirmFileRow = z.infer<typeof firmsRow>;

export const priceListsRow: z.ZodType<Row<PriceListRow>> = z
  .object({
    customer: z.string(),
    group: customerGroup,
    item: needed("The item"),
    from: orElse(amount(quantityOrZero), decimal(0)),
    price: amount(price),
    price_per: per,
  })
  .transform(({ price_per, ...row }) => ({ ...row, pricePer: price_per }));

export const pricesRow: z.ZodType<Row<SupplierRow>> = z
  .object({
    item: needed("The item"),
    supplier: needed("The supplier"),
    their_code: short("Their code"),
    price: amountOrNull(cost),
    price_per: per,
    lead_days: days("The lead days"),
    minimum: amountOrNull(quantityOrZero),
    multiple: amountOrNull(quantity),
    web,
    preferred: orElse(yesNo, false),
  })
  .transform(({ their_code, lead_days, price_per, ...row }) => ({
    ...row,
    theirCode: their_code,
    leadDays: lead_days,
    pricePer: price_per,
  }));

export const stockRow = (today: Day): z.ZodType<Row<StockRow>> =>
  z
    .object({
      item: needed("The item"),
      store: needed("The store").pipe(name),
      bin,
      quantity: amount(quantity),
      unit_cost: amountOrNull(cost),
      cost_per: per,
      lot,
      expiry: z.string().transform((text, ctx) => {
        if (text === "") return null;
        const day = parseDay(text, today);
        if (day === null)
          ctx.addIssue({
            code: "custom",
            message: `“${text.slice(0, 40)}” isn't a date. Write it like 2026-12-31, or +90 for days from today.`,
            input: text,
          });
        return day;
      }),
      serial,
    })
    .transform(({ unit_cost, cost_per, ...row }) => ({ ...row, unitCost: unit_cost, costPer: cost_per }));
