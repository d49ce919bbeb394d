import type { BuildRow } from "@yosegi/contract";
import { addDays, type Day, weekday } from "@yosegi/core";

export interface CalendarDay {
  day: Day;
  due: BuildRow[];
}

/** Weeks of days, Monday first, beginning with the week of `today`; builds on the day they are due. */
export function weeksFrom(today: Day, count: number, builds: readonly BuildRow[]): CalendarDay[][] {
  const monday = mondayOf(today);
  return Array.from({ length: count }, (_, week) =>
    Array.from({ length: 7 }, (_, i) => {
      const day = addDays(monday, week * 7 + i);
      return { day, due: builds.filter((build) => build.due === day) };
    }),
  );
}

/** Builds that were due before the first week. */
export function overdueBefore(today: Day, builds: readonly BuildRow[]): BuildRow[] {
  const monday = mondayOf(today);
  return builds.filter((build) => build.due !== null && build.due < monday);
}

const mondayOf = (day: Day): Day => addDays(day, 1 - weekday(day));

/** The last day that so many weeks show. */
export const lastDayOf = (today: Day, weeks: number): Day => addDays(mondayOf(today), weeks * 7 - 1);
