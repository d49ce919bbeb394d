import { DataTypes, type Model, type ModelAttributes, type ModelStatic, type Sequelize } from "sequelize";

/** A column: its SQL type, and in `T` the type of its values. */
export interface Column<T> {
  type: typeof DataTypes.INTEGER | typeof DataTypes.TEXT | typeof DataTypes.BLOB;
  primaryKey?: true;
  autoIncrement?: true;
  /** Only for the compiler: what a value is. */
  readonly valueType?: T;
}
/** A column that an insert may leave out, for the database fills it in. */
export interface FilledColumn<T> extends Column<T> {
  filled: true;
}

export const integer = <T extends number = number>(): Column<T> => ({ type: DataTypes.INTEGER });
export const text = <T extends string = string>(): Column<T> => ({ type: DataTypes.TEXT });
export const bytes = (): Column<Buffer> => ({ type: DataTypes.BLOB });

/** A column that may be empty. What must not be is the database's to say. */
export const orNull = <T>(column: Column<T>): Column<T | null> => column as Column<T | null>;
/** A column that has a default. */
export const filled = <T>(column: Column<T>): FilledColumn<T> => ({ ...column, filled: true });
/** A part of the primary key. */
export const key = <T>(column: Column<T>): Column<T> => ({ ...column, primaryKey: true });
/** The id of a row; the database gives it, and never twice. */
export const id = (): FilledColumn<number> => ({
  ...filled(integer()),
  primaryKey: true,
  autoIncrement: true,
});

export type Columns = Record<string, Column<unknown>>;
type ValueOf<C> = C extends Column<infer T> ? T : never;
/** The names of columns that a new row may lack. */
type MayLack<C extends Columns> = {
  [Name in keyof C]: C[Name] extends FilledColumn<unknown>
    ? Name
    : null extends ValueOf<C[Name]>
      ? Name
      : never;
}[keyof C];

/** A table as its area declares it, once: the schema itself is in the migrations. */
export interface Table<C extends Columns = Columns> {
  name: string;
  columns: C;
}
/** A row as it is read. */
export type Row<T extends Table> = { [Name in keyof T["columns"]]: ValueOf<T["columns"][Name]> };
/** A row as it is inserted. */
export type NewRow<T extends Table> = Omit<Row<T>, MayLack<T["columns"]>> & Partial<Row<T>>;
export type ModelOf<T extends Table> = ModelStatic<Model<Row<T>, NewRow<T>>>;

export const table = <C extends Columns>(name: string, columns: C): Table<C> => ({ name, columns });

/** The model of a table on a connection, defined when it is first asked for. */
export function modelOf<T extends Table>(db: Sequelize, { name, columns }: T): ModelOf<T> {
  if (db.isDefined(name)) return db.model(name) as ModelOf<T>;
  const attributes = Object.entries(columns).map(([column, { type, primaryKey, autoIncrement }]) => [
    column,
    { type, ...(primaryKey && { primaryKey }), ...(autoIncrement && { autoIncrement }) },
  ]);
  return db.define(name, Object.fromEntries(attributes) as ModelAttributes) as unknown as ModelOf<T>;
}
