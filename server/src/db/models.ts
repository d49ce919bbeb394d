import type {
  BuildStage,
  DrawnAt,
  ItemKind,
  ItemState,
  LocationKind,
  OwnFieldType,
  RevisionState,
  Start,
  Tracking,
} from "@yosegi/core";
import { DataTypes, type Model, type ModelStatic, type Sequelize } from "sequelize";

export interface CompanyRow {
  id: number;
  name: string;
  currency: string;
  time_zone: string;
  /** Percent in millionths. */
  margin_wish: number | null;
}
export interface PersonRow {
  id: number;
  name: string;
  name_key: string;
}
export interface LocationRow {
  id: number;
  name: string;
  name_key: string;
  kind: LocationKind;
  /** The firm that works there; null for places of our own. */
  firm_id: number | null;
}
/** Money columns are whole ten-thousandths. */
export interface ItemTableRow {
  id: number;
  code: string;
  code_key: string;
  name: string;
  search: string;
  kind: ItemKind;
  unit: string;
  tracking: Tracking;
  group_id: number | null;
  barcode: string;
  standard_cost: number | null;
  /** Millionths of the stock unit that the cost is for, and the unit or pack by which it was said; empty: the stock unit. */
  cost_per: number;
  cost_unit: string;
  price: number | null;
  price_per: number;
  price_unit: string;
  home_location_id: number | null;
  home_bin: string;
  /** Millionths of the stock unit. */
  reorder_level: number | null;
  build_days: number | null;
  shelf_life: number | null;
  warranty_months: number | null;
  /** By which its lots are numbered where it is built; empty: the usual one. */
  lot_pattern: string;
  maker: string;
  maker_number: string;
  state: ItemState;
  not_stock_tracked: number;
  notes: string;
  picture_id: number | null;
}
export interface GroupRow {
  id: number;
  name: string;
  name_key: string;
  unit: string | null;
  tracking: Tracking | null;
  drawn_at: DrawnAt | null;
  location_id: number | null;
}
export interface FirmTableRow {
  id: number;
  kind: "supplier" | "customer";
  code: string;
  code_key: string;
  name: string;
  search: string;
  address: string;
  contact: string;
  email: string;
  phone: string;
  terms: string;
  archived: number;
}
export interface OwnFieldRow {
  id: number;
  name: string;
  name_key: string;
  type: OwnFieldType;
}
export interface PartsListRow {
  id: number;
  product_id: number;
  name: string;
  name_key: string;
  main: number;
}
/** Quantity columns are whole millionths, `yield` of a percent. */
export interface RevisionRow {
  id: number;
  list_id: number;
  number: number;
  state: RevisionState;
  makes: number;
  usual: number;
  overhead: number;
  extra: number;
  yield: number;
  starts: Start;
  starts_on: string | null;
  starts_after: number | null;
  created_by: number | null;
  created_at: string | null;
  locked_by: number | null;
  locked_at: string | null;
  lock_note: string;
}
export interface BuildTableRow {
  id: number;
  number: string;
  product_id: number;
  quantity: number;
  good: number;
  rejected: number;
  stage: BuildStage;
  due: string | null;
  /** 1 is served first. */
  priority: number;
  note: string;
  cost_tag: string;
  assigned_to: number | null;
  /** For whom it is built, where no order says so. */
  customer_id: number | null;
  /** The workshop that does it; null: our own bench. */
  subcontractor_id: number | null;
  /** Where its product goes; null: the item's home. */
  location_id: number | null;
  bin: string;
  /** The build whose actual quantities it takes over instead of a parts list. */
  as_built: number | null;
  split_from: number | null;
  joined_into: number | null;
  recurring_id: number | null;
  recurring_day: string | null;
  makes: number | null;
  overhead: number | null;
  /** Which of the product's lists it is built by, and the revision it was queued with. */
  list_id: number | null;
  revision_id: number | null;
  /** Good units asked for; `quantity` is how many are started for them. */
  wanted: number;
  /** Ids of the optional parts that it takes, as JSON. */
  options: string;
  extra: number;
  created_by: number;
  created_at: string;
  queued_by: number | null;
  queued_at: string | null;
  bench_by: number | null;
  bench_at: string | null;
  finished_by: number | null;
  finished_at: string | null;
  cancelled_by: number | null;
  cancelled_at: string | null;
}
export interface FinishRow {
  id: number;
  build_id: number;
  posting_id: number;
  good: number;
  rejected: number;
  location_id: number;
  bin: string;
  lot: string;
  expiry: string | null;
  parts: number;
  work: number;
  overhead: number;
  extra: number;
  fee: number;
  total: number;
  /** The build's stage before it, for an undo to go back to. */
  stage_before: BuildStage;
  undone_by: number | null;
  undone_at: string | null;
}

type Table<Row extends { id: number }> = ModelStatic<Model<Row, Omit<Row, "id"> & { id?: number }>>;

/** The rows that are read and written one by one; the schema itself is in the migrations. */
export interface Models {
  company: Table<CompanyRow>;
  person: Table<PersonRow>;
  location: Table<LocationRow>;
  item: Table<ItemTableRow>;
  group: Table<GroupRow>;
  firm: Table<FirmTableRow>;
  ownField: Table<OwnFieldRow>;
  partsList: Table<PartsListRow>;
  revision: Table<RevisionRow>;
  build: Table<BuildTableRow>;
  finish: Table<FinishRow>;
}

const { INTEGER, TEXT } = DataTypes;
const key = { type: INTEGER, primaryKey: true, autoIncrement: true } as const;

export function defineModels(db: Sequelize): Models {
  const table = <Row extends { id: number }>(
    name: string,
    columns: Record<Exclude<keyof Row, "id">, typeof INTEGER | typeof TEXT>,
  ) => db.define(name, { id: key, ...columns } as never) as unknown as Table<Row>;
  return {
    company: table<CompanyRow>("company", {
      name: TEXT,
      currency: TEXT,
      time_zone: TEXT,
      margin_wish: INTEGER,
    }),
    person: table<PersonRow>("person", { name: TEXT, name_key: TEXT }),
    location: table<LocationRow>("location", { name: TEXT, name_key: TEXT, kind: TEXT, firm_id: INTEGER }),
    item: table<ItemTableRow>("item", {
      code: TEXT,
      code_key: TEXT,
      name: TEXT,
      search: TEXT,
      kind: TEXT,
      unit: TEXT,
      tracking: TEXT,
      group_id: INTEGER,
      barcode: TEXT,
      standard_cost: INTEGER,
      cost_per: INTEGER,
      cost_unit: TEXT,
      price: INTEGER,
      price_per: INTEGER,
      price_unit: TEXT,
      home_location_id: INTEGER,
      home_bin: TEXT,
      reorder_level: INTEGER,
      build_days: INTEGER,
      shelf_life: INTEGER,
      warranty_months: INTEGER,
      lot_pattern: TEXT,
      maker: TEXT,
      maker_number: TEXT,
      state: TEXT,
      not_stock_tracked: INTEGER,
      notes: TEXT,
      picture_id: INTEGER,
    }),
    group: table<GroupRow>("item_group", {
      name: TEXT,
      name_key: TEXT,
      unit: TEXT,
      tracking: TEXT,
      drawn_at: TEXT,
      location_id: INTEGER,
    }),
    firm: table<FirmTableRow>("firm", {
      kind: TEXT,
      code: TEXT,
      code_key: TEXT,
      name: TEXT,
      search: TEXT,
      address: TEXT,
      contact: TEXT,
      email: TEXT,
      phone: TEXT,
      terms: TEXT,
      archived: INTEGER,
    }),
    ownField: table<OwnFieldRow>("custom_field", { name: TEXT, name_key: TEXT, type: TEXT }),
    partsList: table<PartsListRow>("parts_list", {
      product_id: INTEGER,
      name: TEXT,
      name_key: TEXT,
      main: INTEGER,
    }),
    revision: table<RevisionRow>("revision", {
      list_id: INTEGER,
      number: INTEGER,
      state: TEXT,
      makes: INTEGER,
      usual: INTEGER,
      overhead: INTEGER,
      extra: INTEGER,
      yield: INTEGER,
      starts: TEXT,
      starts_on: TEXT,
      starts_after: INTEGER,
      created_by: INTEGER,
      created_at: TEXT,
      locked_by: INTEGER,
      locked_at: TEXT,
      lock_note: TEXT,
    }),
    build: table<BuildTableRow>("build", {
      number: TEXT,
      product_id: INTEGER,
      quantity: INTEGER,
      good: INTEGER,
      rejected: INTEGER,
      stage: TEXT,
      due: TEXT,
      priority: INTEGER,
      note: TEXT,
      cost_tag: TEXT,
      assigned_to: INTEGER,
      customer_id: INTEGER,
      subcontractor_id: INTEGER,
      location_id: INTEGER,
      bin: TEXT,
      as_built: INTEGER,
      split_from: INTEGER,
      joined_into: INTEGER,
      recurring_id: INTEGER,
      recurring_day: TEXT,
      makes: INTEGER,
      overhead: INTEGER,
      list_id: INTEGER,
      revision_id: INTEGER,
      wanted: INTEGER,
      options: TEXT,
      extra: INTEGER,
      created_by: INTEGER,
      created_at: TEXT,
      queued_by: INTEGER,
      queued_at: TEXT,
      bench_by: INTEGER,
      bench_at: TEXT,
      finished_by: INTEGER,
      finished_at: TEXT,
      cancelled_by: INTEGER,
      cancelled_at: TEXT,
    }),
    finish: table<FinishRow>("finish", {
      build_id: INTEGER,
      posting_id: INTEGER,
      good: INTEGER,
      rejected: INTEGER,
      location_id: INTEGER,
      bin: TEXT,
      lot: TEXT,
      expiry: TEXT,
      parts: INTEGER,
      work: INTEGER,
      overhead: INTEGER,
      extra: INTEGER,
      fee: INTEGER,
      total: INTEGER,
      stage_before: TEXT,
      undone_by: INTEGER,
      undone_at: TEXT,
    }),
  };
}
