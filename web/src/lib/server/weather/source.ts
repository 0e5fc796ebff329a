import { dayProblem, type WeatherDay } from '@baumkin/core/season';

/** What is asked of a source. Days are ISO dates, both included. */
export interface WeatherAsk {
  readonly from: string;
  readonly until: string;
  /** ISO date */
  readonly today: string;
  /** where the bush lies; null where nobody said */
  readonly origin: { readonly lat: number; readonly lon: number } | null;
}

/** Why a source told nothing that can be used. */
export const WEATHER_TROUBLES = ['silent', 'unreachable', 'failing', 'unreadable', 'nonsense', 'stale'] as const;
export type WeatherTrouble = (typeof WEATHER_TROUBLES)[number];

/** What a source answered. Whoever asks gets an answer, never an exception. */
export type WeatherAnswer =
  | {
      readonly ok: true;
      /** whose days these are */
      readonly place: string;
      /** ISO date on which they were told */
      readonly madeOn: string;
      /** one after the other, each once, in °C */
      readonly days: readonly WeatherDay[];
      /** days that were left out, and why */
      readonly refused: readonly { readonly on: string; readonly reason: string }[];
    }
  | { readonly ok: false; readonly why: WeatherTrouble };

/**
 * Whatever tells of weather: a file, a thermometer, a service. What it says is what it measured, or foretells from today on; days
 * that cannot be are left out and named; it says so when it cannot answer, and within `WITHIN_MS`.
 */
export interface WeatherSource {
  readonly kind: 'station' | 'thermometer' | 'forecast';
  readonly name: string;
  days(ask: WeatherAsk): Promise<WeatherAnswer>;
}

/** More days than this are never asked for, nor taken. */
export const MOST_DAYS = 3700;
/** Days that were told so long before today are no forecast of it. */
const STALE_DAYS = 2;

/**
 * What a source's days amount to: in order, each once, only those that were asked for and can be. The same for every source.
 * @param told in any order
 */
export function soundDays(
  { kind }: Pick<WeatherSource, 'kind'>,
  told: { readonly place: string; readonly madeOn: string; readonly days: readonly WeatherDay[] },
  { from, until, today }: WeatherAsk
): WeatherAnswer {
  if (kind === 'forecast' && daysApart(told.madeOn, today) > STALE_DAYS) return { ok: false, why: 'stale' };
  const refused: { on: string; reason: string }[] = [];
  const sound = new Map<string, WeatherDay>();
  for (const day of told.days) {
    if (day.on < from || day.on > until) continue;
    const before = sound.get(day.on);
    const other = before && (before.minC !== day.minC || before.maxC !== day.maxC);
    const reason = other
      ? 'It is told twice, with other temperatures.'
      : kind !== 'forecast' && day.on >= today
        ? 'It is not over yet: nobody can have measured it.'
        : dayProblem(day);
    if (reason) refused.push({ on: day.on, reason });
    else sound.set(day.on, day);
  }
  if (sound.size === 0 && refused.length > 0) return { ok: false, why: 'nonsense' };
  const days = [...sound.values()].sort((a, b) => (a.on < b.on ? -1 : 1));
  return { ok: true, place: told.place, madeOn: told.madeOn, days, refused };
}

const daysApart = (a: string, b: string) => (Date.parse(b) - Date.parse(a)) / 86_400_000;
