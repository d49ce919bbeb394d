import { type Decimal, decimal } from "@yosegi/core";
import { z } from "./zod.ts";

declare const AMOUNT: unique symbol;
/** A schema of an amount: text on its way, an exact decimal once a request has arrived. */
export type Amount = z.ZodString & { readonly [AMOUNT]: true };

const amounts = z.registry<{ amount: true }>();

/** Marks a schema of text as one of an amount. */
export function asAmount(schema: z.ZodString): Amount {
  amounts.add(schema, { amount: true });
  return schema as Amount;
}

/** Whether a schema is one of an amount, or made from one by a further check. */
export const isAmount = (schema: z.ZodType): boolean => amounts.get(schema) !== undefined;

type Optional<Shape> = {
  [Name in keyof Shape]: Shape[Name] extends z.ZodOptional ? Name : never;
}[keyof Shape];

/** What a schema gives once its amounts are parsed. */
export type Parsed<S> = S extends Amount
  ? Decimal
  : S extends z.ZodObject<infer Shape>
    ? { [Name in Exclude<keyof Shape, Optional<Shape>>]: Parsed<Shape[Name]> } & {
        [Name in Optional<Shape>]?: Parsed<Shape[Name]>;
      }
    : S extends z.ZodArray<infer Entry>
      ? Parsed<Entry>[]
      : S extends z.ZodNullable<infer Inner>
        ? Parsed<Inner> | null
        : S extends z.ZodOptional<infer Inner>
          ? Parsed<Inner> | undefined
          : S extends z.ZodDefault<infer Inner>
            ? Parsed<Inner>
            : S extends z.ZodPipe<z.ZodType, infer Out>
              ? Parsed<Out>
              : S extends z.ZodType
                ? z.output<S>
                : never;

/** Parses the amounts of what a schema has found good, once, where a request comes in. */
export function parseAmounts<S extends z.ZodType>(schema: S, value: z.output<S>): Parsed<S> {
  return parsed(schema, value) as Parsed<S>;
}

function parsed(schema: z.ZodType, value: unknown): unknown {
  if (value === null || value === undefined) return value;
  if (isAmount(schema)) return decimal(value as string);
  if (schema instanceof z.ZodNullable || schema instanceof z.ZodOptional || schema instanceof z.ZodDefault)
    return parsed(schema.unwrap() as z.ZodType, value);
  if (schema instanceof z.ZodPipe) return parsed(schema.out as z.ZodType, value);
  if (schema instanceof z.ZodArray)
    return (value as unknown[]).map((entry) => parsed(schema.element as z.ZodType, entry));
  if (!(schema instanceof z.ZodObject)) return value;
  return Object.fromEntries(
    Object.entries(value as object).map(([name, inner]) => {
      const field = (schema.shape as Record<string, z.ZodType>)[name];
      return [name, field ? parsed(field, inner) : inner];
    }),
  );
}
