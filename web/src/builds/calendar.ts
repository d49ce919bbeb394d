import type { BuildRow } from "@yosegi/contract";
import { addDays, type Day, isOpen, weekday } from "@yosegi/core";

export interface CalendarDay {
  day: Day;
  due: BuildRow[];
}

/** Weeks of days, Monday first, beginning with the week of `today`; open builds on the day they are due. */
export function weeksFrom(today: Day, count: number, builds: readonly BuildRow[]): CalendarDay[][] {
  const monday = addDays(today, 1 - weekday(today));
  const open = builds.filter((build) => isOpen(build.stage));
  return Array.from({ length: count }, (_, week) =>
    Array.from({ length: 7 }, (_, i) => {
      const day = addDays(monday, week * 7 + i);
      return { day, due: open.filter((build) => build.due === day) };
    }),
  );
}

/** Open builds that were due before the first week, and those without a day. */
export function besideCalendar(
  today: Day,
  builds: readonly BuildRow[],
): { before: BuildRow[]; undated: BuildRow[] } {
  const monday = addDays(today, 1 - weekday(today));
  const open = builds.filter((build) => isOpen(build.stage));
  return {
    before: open.filter((build) => build.due !== null && build.due < monday),
    undated: open.filter((build) => build.due === null),
  };
}
