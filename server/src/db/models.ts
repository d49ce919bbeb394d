import { DataTypes, type Model, type ModelStatic, type Sequelize } from "sequelize";

export interface CompanyRow {
  id: number;
  name: string;
  currency: string;
  time_zone: string;
}
export interface PersonRow {
  id: number;
  name: string;
  name_key: string;
}
export interface PlaceRow {
  id: number;
  name: string;
  name_key: string;
  kind: "store" | "bench" | "outside" | "returns";
}
/** Money columns are whole ten-thousandths. */
export interface ItemTableRow {
  id: number;
  code: string;
  code_key: string;
  name: string;
  search: string;
  kind: "bought" | "built" | "service";
  unit: string;
  tracking: "none" | "lot" | "serial";
  standard_cost: number | null;
  price: number | null;
  home_place_id: number | null;
  home_bin: string;
}
/** Quantity columns are whole millionths. */
export interface PartsListRow {
  id: number;
  product_id: number;
  makes: number;
  usual: number;
  overhead: number;
}
export interface BuildTableRow {
  id: number;
  number: string;
  product_id: number;
  quantity: number;
  good: number;
  rejected: number;
  stage: "draft" | "queued" | "finished" | "cancelled";
  due: string | null;
  note: string;
  makes: number | null;
  overhead: number | null;
  made_by: number;
  made_at: string;
  queued_by: number | null;
  queued_at: string | null;
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
  place_id: number;
  bin: string;
  lot: string;
  expiry: string | null;
  parts: number;
  work: number;
  overhead: number;
  total: number;
}

type Table<Row extends { id: number }> = ModelStatic<Model<Row, Omit<Row, "id"> & { id?: number }>>;

/** The rows that are read and written one by one; the schema itself is in the migrations. */
export interface Models {
  company: Table<CompanyRow>;
  person: Table<PersonRow>;
  place: Table<PlaceRow>;
  item: Table<ItemTableRow>;
  partsList: Table<PartsListRow>;
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
    company: table<CompanyRow>("company", { name: TEXT, currency: TEXT, time_zone: TEXT }),
    person: table<PersonRow>("person", { name: TEXT, name_key: TEXT }),
    place: table<PlaceRow>("place", { name: TEXT, name_key: TEXT, kind: TEXT }),
    item: table<ItemTableRow>("item", {
      code: TEXT,
      code_key: TEXT,
      name: TEXT,
      search: TEXT,
      kind: TEXT,
      unit: TEXT,
      tracking: TEXT,
      standard_cost: INTEGER,
      price: INTEGER,
      home_place_id: INTEGER,
      home_bin: TEXT,
    }),
    partsList: table<PartsListRow>("parts_list", {
      product_id: INTEGER,
      makes: INTEGER,
      usual: INTEGER,
      overhead: INTEGER,
    }),
    build: table<BuildTableRow>("build", {
      number: TEXT,
      product_id: INTEGER,
      quantity: INTEGER,
      good: INTEGER,
      rejected: INTEGER,
      stage: TEXT,
      due: TEXT,
      note: TEXT,
      makes: INTEGER,
      overhead: INTEGER,
      made_by: INTEGER,
      made_at: TEXT,
      queued_by: INTEGER,
      queued_at: TEXT,
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
      place_id: INTEGER,
      bin: TEXT,
      lot: TEXT,
      expiry: TEXT,
      parts: INTEGER,
      work: INTEGER,
      overhead: INTEGER,
      total: INTEGER,
    }),
  };
}
