import type { Route } from "@yosegi/contract";
import { addDays, type Day } from "@yosegi/core";
import type { z } from "zod";
import type { Chance } from "../testing/chance.ts";

/** Codes and names that are there, so that random requests reach more than the first check. */
interface Known {
  today: Day;
  codes: readonly string[];
  units: readonly string[];
  stores: readonly string[];
  /** Ids are drawn from 1 to this. */
  largestId: number;
}

/** Text that breaks what trusts its input. */
const ODD = [
  "",
  " ",
  "Süß",
  "'",
  '"',
  "=1+1",
  "<b>x</b>",
  "x".repeat(121),
  "constructor",
  "__proto__",
  "\u0000",
  "\ud800",
  "\u202eabc",
  "%00",
  "../../etc",
  "👩‍🔧",
  "0x1",
  "+1",
  "NULL",
];
const AMOUNTS = [
  "0",
  "1",
  "2",
  "5",
  "10",
  "0.5",
  "0.000001",
  "999999999",
  "-1",
  "1e9",
  "1,5",
  "12.34567",
  "",
];
const NUMBERS = [0, 1, 2, 3, 7, 10, -1, 1.5, 9999, 2 ** 31, 2 ** 53, 1e300];
const BINS = ["01-A", "02-B", "03-C", "", "nowhere"];
const LOTS = ["", "LW-1", "LW-2", "H-0001"];
/** Instead of what a schema asks for. */
const WRONG: readonly unknown[] = [null, "", "x", 0, -1, true, [], {}, [[]], { constructor: 1 }];

/** Makes random requests from the schemas of the contract: mostly plausible ones, some odd, some of the wrong shape. */
export class RandomRequests {
  private readonly chance: Chance;
  private readonly known: Known;

  constructor(chance: Chance, known: Known) {
    this.chance = chance;
    this.known = known;
  }

  /** Parameters, query and body for a route. */
  of(route: Route): { params: Record<string, string>; query: Record<string, string>; body: unknown } {
    return {
      params: this.texts(route.params),
      query: this.texts(route.query),
      body: this.value(route.body, ""),
    };
  }

  /** Parameters and queries are text in an address; what is left out there is not sent. */
  private texts(schema: z.ZodType): Record<string, string> {
    const value = this.object(schema, 0);
    return Object.fromEntries(
      Object.entries(value)
        .filter(([, v]) => v !== undefined && v !== null)
        .map(([k, v]) => [k, encodeable(typeof v === "object" ? JSON.stringify(v) : String(v))]),
    );
  }

  private object(schema: z.ZodType, depth: number): Record<string, unknown> {
    const shape = (schema as z.ZodObject).shape as Record<string, z.ZodType>;
    return Object.fromEntries(
      Object.entries(shape).map(([key, inner]) => [key, this.value(inner, key, depth + 1)]),
    );
  }

  private value(schema: z.ZodType, key: string, depth = 0): unknown {
    const { chance } = this;
    if (depth > 0 && chance.percent(1)) return chance.pick(WRONG);
    const { def } = schema as z.ZodType & { def: { type: string } };
    const inner = () => (schema as z.ZodOptional<z.ZodType>).unwrap();
    switch (def.type) {
      case "object":
        return this.object(schema, depth);
      case "array":
        return this.array(schema as z.ZodArray<z.ZodType>, key, depth);
      case "optional":
      case "default":
        return chance.percent(60) ? undefined : this.value(inner(), key, depth);
      case "nullable":
        return chance.percent(50) ? null : this.value(inner(), key, depth);
      case "pipe":
        return this.value((schema as z.ZodPipe<z.ZodType>).in, key, depth);
      case "union":
        return this.value(chance.pick((schema as z.ZodUnion<z.ZodType[]>).options), key, depth);
      case "record":
        return chance.percent(70) ? {} : { [chance.pick(ODD)]: chance.pick(ODD), code: "0" };
      case "enum":
        return chance.pick((schema as z.ZodEnum).options);
      case "literal":
        return [...(schema as z.ZodLiteral).values][0];
      case "boolean":
        return chance.percent(50);
      case "number":
        return this.number(key);
      default:
        return this.text(key);
    }
  }

  /** Of a few entries, and now and then the same one twice, or far too many. */
  private array(schema: z.ZodArray<z.ZodType>, key: string, depth: number): unknown[] {
    const { chance } = this;
    if (chance.percent(1)) return Array.from({ length: 5001 }, () => this.value(schema.element, key, depth));
    const entries = Array.from({ length: chance.pick([0, 1, 1, 2, 3]) }, () =>
      this.value(schema.element, key, depth + 1),
    );
    return chance.percent(10) ? [...entries, ...entries] : entries;
  }

  private number(key: string): number {
    const { chance } = this;
    if (chance.percent(4)) return chance.pick(NUMBERS);
    if (["priority", "leadDays", "buildDays", "limit", "copies", "weekdays", "decimals"].includes(key))
      return chance.int(0, 9);
    // Of most kinds of documents there are only a few.
    return chance.int(1, chance.percent(50) ? 5 : this.known.largestId);
  }

  private text(key: string): string {
    const { chance, known } = this;
    if (chance.percent(4)) return chance.pick(ODD);
    switch (key) {
      case "day":
      case "due":
      case "expected":
      case "expiry":
      case "until":
      case "from":
      case "startsOn":
      case "starts":
        return chance.percent(4)
          ? chance.pick(["0001-01-01", "9999-12-31", "2026-02-30", "tomorrow"])
          : addDays(known.today, chance.int(-30, 40));
      case "code":
      case "part":
      case "item":
      case "product":
        return chance.pick(known.codes);
      case "unit":
      case "pack":
      case "per":
      case "pricePer":
      case "costPer":
        return chance.pick(known.units);
      case "store":
        return chance.pick(known.stores);
      case "bin":
        return chance.pick(BINS);
      case "lot":
      case "serials":
        return chance.pick(LOTS);
      case "name":
      case "note":
      case "reason":
      case "search":
      case "wish":
      case "reference":
        return chance.pick([`Text ${chance.int(1, 99)}`, "Front", "frame", "first come"]);
      default:
        return chance.pick(AMOUNTS);
    }
  }
}

/** Half a character pair cannot stand in an address. */
const encodeable = (text: string): string => text.replace(/[\ud800-\udfff]/g, "�");
