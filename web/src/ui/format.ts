import { UNREADABLE } from "@yosegi/contract";
import {
  addDays,
  currencyDecimals,
  type Day,
  type DayWords,
  dayIn,
  daysBetween,
  MONEY_DECIMALS,
  type NumberMarks,
  numberMarks,
  parseDay,
} from "@yosegi/core";
import { createContext, useContext } from "react";
import { useLocale } from "react-aria-components";

/** What the company decides about how figures read. */
export interface Settings {
  currency: string;
  timeZone: string;
  today: Day;
}
export const SettingsContext = createContext<Settings>({
  currency: "EUR",
  timeZone: "UTC",
  today: "2000-01-01",
});

type Decimals = { minimumFractionDigits: number; maximumFractionDigits: number; signDisplay?: "exceptZero" };

const FIGURE = /^-?\d+(\.\d+)?$/;

/** Intl formats decimal text exactly, without a detour over binary floating point. Text that is no figure yet stays as typed. */
const exact = (format: Intl.NumberFormat, text: string) =>
  FIGURE.test(text) ? format.format(text as Intl.StringNumericLiteral) : text.replace(UNREADABLE, "");

/**
 * Making a formatter of Intl costs more than a hundred uses of one, and a page shows hundreds of figures: each is made once.
 * @param make what makes it, told apart by its locale and options
 */
function kept<Options extends object, Made>(make: (locale: string, options: Options) => Made) {
  const made = new Map<string, Made>();
  return (locale: string, options: Options): Made => {
    const key = `${locale} ${JSON.stringify(options)}`;
    const before = made.get(key);
    if (before !== undefined) return before;
    const now = make(locale, options);
    made.set(key, now);
    return now;
  };
}
const numberFormat = kept(
  (locale, options: Intl.NumberFormatOptions) => new Intl.NumberFormat(locale, options),
);
const dateFormat = kept(
  (locale, options: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(locale, options),
);
const relativeFormat = kept(
  (locale, options: Intl.RelativeTimeFormatOptions) => new Intl.RelativeTimeFormat(locale, options),
);

/** Words are English whatever the device speaks, and so are the names of days and months. */
const WORDS = "en-GB";

/**
 * Puts figures and dates as the person's device has them, among English words: a device that speaks another language gets
 * dates in figures. Everything comes in as exact decimal text.
 */
export class Format {
  readonly locale: string;
  /** The locale of words. */
  readonly wording: string;
  readonly settings: Settings;
  readonly marks: NumberMarks;
  readonly #words: readonly DayWords[];

  constructor(locale: string, settings: Settings) {
    this.locale = locale;
    this.wording = locale.startsWith("en") ? locale : WORDS;
    this.settings = settings;
    this.marks = numberMarks(locale);
    this.#words = [dayWords(locale), dayWords(WORDS)];
  }

  /** A quantity with all the decimals of its unit: "249.900". */
  quantity(text: string, decimals = 0): string {
    return this.#number(text, {
      minimumFractionDigits: decimals,
      maximumFractionDigits: Math.max(decimals, 6),
    });
  }

  /** A quantity in a sentence, without closing zeros: "249.9 L". */
  amount(text: string, unit = ""): string {
    const figure = this.#number(text, { minimumFractionDigits: 0, maximumFractionDigits: 6 });
    return unit === "" ? figure : `${figure} ${unit}`;
  }

  /** A difference with its sign: "+1.500". */
  difference(text: string, decimals: number): string {
    return exact(
      numberFormat(this.locale, {
        minimumFractionDigits: decimals,
        maximumFractionDigits: Math.max(decimals, 6),
        signDisplay: "exceptZero",
      }),
      text,
    );
  }

  /** How many decimals the company's currency has. */
  get moneyDecimals(): number {
    return currencyDecimals(this.settings.currency);
  }

  /** A difference in money with its sign, to four decimals: "+€2.025". */
  moneyDifference(text: string): string {
    return this.#money(text, { ...this.#fine, signDisplay: "exceptZero" });
  }

  /** Money in the currency's own decimals. */
  money(text: string): string {
    const decimals = this.moneyDecimals;
    return this.#money(text, { minimumFractionDigits: decimals, maximumFractionDigits: decimals });
  }

  /** A unit cost, with up to four decimals; said for more than one of the item's own unit, with what it is for. */
  unitCost(text: string, per = ""): string {
    const cost = this.#money(text, this.#fine);
    return per === "" ? cost : `${cost} per ${per}`;
  }

  percent(text: string): string {
    return `${this.#number(text, { minimumFractionDigits: 0, maximumFractionDigits: 4 })} %`;
  }

  /** "12 Dec", or "12.12." on a device that is not English; with the year where it is another one. */
  day(day: Day): string {
    return dateFormat(this.locale, { ...this.#dayParts(day), timeZone: "UTC" }).format(
      new Date(`${day}T00:00:00Z`),
    );
  }

  /** The day so many days from today: "12 Dec". */
  dayIn(days: number): string {
    return this.day(addDays(this.settings.today, days));
  }

  /** "today", "in 19 days", "3 days ago". */
  relativeDay(day: Day): string {
    const days = daysBetween(this.settings.today, day);
    return relativeFormat(this.wording, { numeric: "auto" }).format(days, "day");
  }

  /** The calendar day on which a moment fell, in the company's time zone. */
  dayOf(moment: string): Day {
    return dayIn(this.settings.timeZone, moment);
  }

  /** A day as it is typed, such as "fri" or "12 Dec"; null where it is none. */
  parseDay(text: string): Day | null {
    for (const words of this.#words) {
      const day = parseDay(text, this.settings.today, words);
      if (day !== null) return day;
    }
    return null;
  }

  /** The time of day of a moment, in the company's time zone. */
  time(moment: string): string {
    return dateFormat(this.locale, {
      hour: "2-digit",
      minute: "2-digit",
      timeZone: this.settings.timeZone,
    }).format(new Date(moment));
  }

  /** Day and time of a moment, in the company's time zone; with the year where it is another one. */
  moment(moment: string): string {
    return dateFormat(this.locale, {
      ...this.#dayParts(this.dayOf(moment)),
      hour: "2-digit",
      minute: "2-digit",
      hourCycle: "h23",
      timeZone: this.settings.timeZone,
    }).format(new Date(moment));
  }

  /** "1 item", "40 items". */
  count(n: number, one: string, many: string): string {
    return `${this.amount(String(n))} ${n === 1 ? one : many}`;
  }

  /** Words with their full stop; a day such as "27.11." ends with one already. */
  sentence(words: string): string {
    return words.endsWith(".") ? words : `${words}.`;
  }

  list(names: readonly string[]): string {
    return new Intl.ListFormat(this.wording, { type: "conjunction" }).format(names);
  }

  #dayParts(day: Day): Intl.DateTimeFormatOptions {
    const sameYear = day.slice(0, 4) === this.settings.today.slice(0, 4);
    return {
      day: "numeric",
      month: this.wording === this.locale ? "short" : "numeric",
      ...(!sameYear && { year: "numeric" }),
    };
  }

  get #fine(): Decimals {
    const decimals = this.moneyDecimals;
    return { minimumFractionDigits: decimals, maximumFractionDigits: Math.max(decimals, MONEY_DECIMALS) };
  }

  #number(text: string, decimals: Decimals): string {
    return exact(numberFormat(this.locale, decimals), text);
  }

  #money(text: string, decimals: Decimals): string {
    return exact(
      numberFormat(this.locale, {
        style: "currency",
        currency: this.settings.currency,
        ...decimals,
      }),
      text,
    );
  }
}

export function useFormat(): Format {
  const { locale } = useLocale();
  const settings = useContext(SettingsContext);
  return formatOf(locale, settings);
}

/** One format for all parts of a page: each part of a table asks for it. */
const formats = new WeakMap<Settings, Format>();
function formatOf(locale: string, settings: Settings): Format {
  const before = formats.get(settings);
  if (before?.locale === locale) return before;
  const now = new Format(locale, settings);
  formats.set(settings, now);
  return now;
}

/** Names of days and months, and their order in a date, as the locale writes them. */
function dayWords(locale: string): DayWords {
  const name = (options: Intl.DateTimeFormatOptions, date: Date) =>
    dateFormat(locale, { ...options, timeZone: "UTC" })
      .format(date)
      .toLowerCase();
  const parts = dateFormat(locale, { day: "numeric", month: "numeric" }).formatToParts(0);
  const order = parts.map((part) => part.type);
  return {
    // 1 January 2024 was a Monday
    weekdays: range(7).map((i) => name({ weekday: "long" }, new Date(Date.UTC(2024, 0, 1 + i)))),
    months: range(12).map((i) => name({ month: "long" }, new Date(Date.UTC(2024, i, 1)))),
    today: relativeFormat(locale, { numeric: "auto" }).format(0, "day").toLowerCase(),
    dayFirst: order.indexOf("day") < order.indexOf("month"),
  };
}

const range = (n: number) => Array.from({ length: n }, (_, i) => i);
