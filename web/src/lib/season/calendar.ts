import ical, { ICalCalendarMethod } from 'ical-generator';

/** Work that has a day. */
export interface DatedWork {
  /** the same work has the same one, so that a calendar takes a change for what it is */
  readonly id: string;
  readonly what: string;
  readonly why: string;
  /** ISO date */
  readonly on: string;
  /** local hour at which it begins; null where it takes the day */
  readonly hour: number | null;
  /** hours, or days where it has no hour */
  readonly lasts: number;
}

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;

/** Work as a calendar file (iCalendar, RFC 5545). Hours are those of wherever it is read: a bush lies where its people are. */
export function calendarOf(name: string, work: readonly DatedWork[]): string {
  const calendar = ical({
    name,
    method: ICalCalendarMethod.PUBLISH,
    prodId: { company: 'Baumkin', product: 'season' }
  });
  for (const { id, what, why, on, hour, lasts } of work) {
    const begins = Date.parse(`${on}T00:00:00Z`) + (hour ?? 0) * HOUR_MS;
    calendar.createEvent({
      id: `${id}@baumkin`,
      summary: what,
      description: why,
      start: new Date(begins),
      end: new Date(begins + lasts * (hour === null ? DAY_MS : HOUR_MS)),
      allDay: hour === null,
      floating: hour !== null
    });
  }
  return calendar.toString();
}
