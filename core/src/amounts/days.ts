/** A calendar date in the company's time zone, as text: "2026-11-23". Text order is time order. */
export type Day = string;

const ISO_DAY = /^(\d{4})-(\d{2})-(\d{2})$/;
const MS_PER_DAY = 86_400_000;

/** Whether the text is a day that exists: 2026-02-30 does not. */
export function isDay(text: string): boolean {
  const match = ISO_DAY.exec(text);
  return match !== null && makeDay(Number(match[1]), Number(match[2]), Number(match[3])) === text;
}

/** The last day there is: a day has four digits for its year. What would come later comes then. */
const LAST_DAY: Day = "9999-12-31";
const LAST_MOMENT = Date.parse(`${LAST_DAY}T00:00:00Z`);

export function addDays(day: Day, days: number): Day {
  // Within the days that every month has, no calendar is needed; a check asks for hundreds of days at once.
  const inMonth = Number(day.slice(8)) + days;
  if (inMonth >= 1 && inMonth <= 28) return day.slice(0, 8) + String(inMonth).padStart(2, "0");
  const moved = Date.parse(`${day}T00:00:00Z`) + days * MS_PER_DAY;
  return moved > LAST_MOMENT ? LAST_DAY : new Date(moved).toISOString().slice(0, 10);
}

/** So many months later, on the same date; on the month's last day where it has no such date. */
export function addMonths(day: Day, months: number): Day {
  const [year = 0, month = 0, date = 0] = day.split("-").map(Number);
  const first = year * 12 + (month - 1) + months;
  const [newYear, newMonth] = [Math.floor(first / 12), (first % 12) + 1];
  if (newYear > 9999) return LAST_DAY;
  const last = new Date(Date.UTC(newYear, newMonth, 0)).getUTCDate();
  return makeDay(newYear, newMonth, Math.min(date, last)) ?? LAST_DAY;
}

/** Orders days, the earlier first; what has no day comes last, for it can be counted on last of all. */
export function compareDays(a: Day | null, b: Day | null): number {
  if (a === b) return 0;
  if (a === null) return 1;
  return b === null || a < b ? -1 : 1;
}

/** The earlier of two days. */
export const earlier = (a: Day, b: Day): Day => (compareDays(a, b) <= 0 ? a : b);

/** Calendar days from `from` until `to`; negative where `to` is earlier. */
export function daysBetween(from: Day, to: Day): number {
  return Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / MS_PER_DAY);
}

/** Day of the week: 1 Monday to 7 Sunday. */
export function weekday(day: Day): number {
  return new Date(Date.parse(`${day}T00:00:00Z`)).getUTCDay() || 7;
}

/** The calendar date that a moment (ISO 8601, UTC) falls on in a time zone. */
export function dayIn(timeZone: string, moment: string): Day {
  const parts = calendar(timeZone).formatToParts(new Date(moment));
  const part = (type: string) => parts.find((p) => p.type === type)?.value ?? "";
  return `${part("year")}-${part("month")}-${part("day")}`;
}

/** A company has one time zone and asks for the day with every request; making a format takes longer than using it. */
const calendars = new Map<string, Intl.DateTimeFormat>();
function calendar(timeZone: string): Intl.DateTimeFormat {
  const known = calendars.get(timeZone);
  if (known) return known;
  const made = new Intl.DateTimeFormat("en-CA", {
    timeZone,
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
  });
  calendars.set(timeZone, made);
  return made;
}

/** Relative days as they are written in files and fields: "+14", "-3". */
const RELATIVE = /^([+-])(\d{1,4})$/;

export interface DayWords {
  /** Names of the weekdays, Monday first, in the person's language, lower case. */
  weekdays: readonly string[];
  /** Names of the months, January first, in the person's language, lower case. */
  months: readonly string[];
  /** The word for today. */
  today: string;
  /** Whether the person writes 3/12 for the third of December. */
  dayFirst: boolean;
}

export const ENGLISH_DAY_WORDS: DayWords = {
  weekdays: ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"],
  months: [
    "january",
    "february",
    "march",
    "april",
    "may",
    "june",
    "july",
    "august",
    "september",
    "october",
    "november",
    "december",
  ],
  today: "today",
  dayFirst: true,
};

/**
 * Reads a day the way people type it: "t" or "today", "fri" (the next one after today), "+10" and "-3" (from
 * today), "2026-12-12", "12 Dec", "12 December 2026", "12.12.", "12/12/2026". A date without a year is the next such
 * day from today on. Null where it is no day.
 */
export function parseDay(text: string, today: Day, words: DayWords = ENGLISH_DAY_WORDS): Day | null {
  const typed = text.trim().toLowerCase();
  if (typed === "") return null;
  if (isDay(typed)) return typed;
  const relative = RELATIVE.exec(typed);
  if (relative) return addDays(today, Number(`${relative[1]}${relative[2]}`));
  if (typed === "t" || typed === words.today || typed === ENGLISH_DAY_WORDS.today) return today;
  return parseWeekday(typed, today, words) ?? parseDate(typed, today, words);
}

function parseWeekday(typed: string, today: Day, words: DayWords): Day | null {
  if (typed.length < 2 || /\d/.test(typed)) return null;
  const index = indexByPrefix(words.weekdays, typed);
  if (index < 0) return null;
  const mondayFirst = (new Date(`${today}T00:00:00Z`).getUTCDay() + 6) % 7;
  return addDays(today, ((index - mondayFirst + 6) % 7) + 1);
}

function parseDate(typed: string, today: Day, words: DayWords): Day | null {
  const tokens = typed.split(/[\s./,-]+/).filter(Boolean);
  if (tokens.length < 2 || tokens.length > 3) return null;
  const named = tokens.findIndex((token) => /^\p{L}/u.test(token));
  let day: string | undefined;
  let month: number;
  if (named === 0 || named === 1) {
    month = indexByPrefix(words.months, tokens[named] ?? "") + 1;
    day = tokens[named === 0 ? 1 : 0];
  } else {
    const [first, second] = words.dayFirst ? [tokens[0], tokens[1]] : [tokens[1], tokens[0]];
    day = first;
    month = Number(second);
  }
  if (day === undefined || !/^\d{1,2}$/.test(day) || !Number.isInteger(month)) return null;
  const typedYear = tokens[2];
  if (typedYear !== undefined) {
    if (!/^(\d{2}|\d{4})$/.test(typedYear)) return null;
    return makeDay(Number(typedYear.length === 2 ? `20${typedYear}` : typedYear), month, Number(day));
  }
  const thisYear = Number(today.slice(0, 4));
  const soonest = makeDay(thisYear, month, Number(day));
  return soonest !== null && soonest >= today ? soonest : makeDay(thisYear + 1, month, Number(day));
}

/** The one name that begins with what was typed; -1 where none or several do ("t" is no weekday). */
function indexByPrefix(names: readonly string[], typed: string): number {
  const found = names.flatMap((name, i) => (name.startsWith(typed) ? [i] : []));
  return found.length === 1 ? (found[0] ?? -1) : -1;
}

function makeDay(year: number, month: number, day: number): Day | null {
  const date = new Date(Date.UTC(year, month - 1, day));
  const same = date.getUTCMonth() === month - 1 && date.getUTCDate() === day && year >= 1900;
  return same ? date.toISOString().slice(0, 10) : null;
}
