import { seededRng } from '../math/index.ts';
import type { BushRecord, BushSettings, DrillingChoice, SeasonSign } from '../records/index.ts';
import {
  BUDS_FROM,
  COURSE_DAYS,
  courseOf,
  dayAfter,
  daysBetween,
  drillingDay,
  drillNow,
  FIRST_START,
  HOLE_LIVES,
  LAST_START,
  litresByStart,
  runIndex,
  runReason,
  scenariosOf,
  seasonLeft,
  SIGN_ODDS,
  SUN_WARMS_C,
  wayOf,
  yearOf,
  type DayLook,
  type DrillingDay,
  type DrillNow,
  type KnownWeather,
  type RunReason,
  type Scenario,
  type SeasonLeft,
  type SeriesDay
} from '../season/index.ts';
import { swells, type SeasonGroup } from './seasonGroups.ts';
import { yearsKnown, type BushWeather } from './weather.ts';

/** A day of the strip. */
export interface StripDay {
  /** ISO date */
  readonly on: string;
  readonly minC: number;
  readonly maxC: number;
  readonly from: SeriesDay['from'];
  /** what is unknown of a day that is foretold, °C, 1 sd; nought where it was measured */
  readonly sdC: number;
  /** run index, 0..1 */
  readonly index: number;
  readonly reason: RunReason;
}

/** What is known of the days between two, those ahead included. @param of ISO dates, both included, and whether the sun warms the trunks */
export function stripOf(
  { past, ahead }: Pick<BushWeather, 'past' | 'ahead'>,
  of: { readonly from: string; readonly until: string; readonly sunny: boolean }
): StripDay[] {
  const { from, until } = of;
  const warmer = of.sunny ? SUN_WARMS_C : 0;
  const told = [
    ...past.map((day) => ({ ...day, sdC: 0 })),
    ...ahead.map((day) => ({ ...day, from: 'forecast' as const }))
  ];
  return told
    .filter(({ on }) => on >= from && on <= until)
    .map((day) => {
      const onTrunks = { minC: day.minC, maxC: day.maxC + warmer };
      return { ...day, index: runIndex(onTrunks), reason: runReason(onTrunks) };
    });
}

/** The day of the year, the first of January being 0. @param on ISO date */
export const dayOfSeason = (on: string, season: number): number => daysBetween(`${season}-01-01`, on);

/** Is it the time of the year in which a hole may still be worth its wood? @param today ISO date */
export function isDrillingTime(today: string): boolean {
  const at = dayOfSeason(today, Number(today.slice(0, 4)));
  return at >= FIRST_START && at <= LAST_START;
}

/** The day with such a number. @param at from 0 */
export const dayAt = (season: number, at: number): string => dayAfter(`${season}-01-01`, at);

/** How a bush goes about its round of drilling, from its settings. */
export interface RoundHabit {
  readonly days: number;
  readonly lifeDays: number;
  readonly litresAtFull?: number;
}

/** Days that a round of so many taps takes, as the crew works. */
export function roundDays(taps: number, of: Pick<BushSettings, 'minutesAHole' | 'people' | 'hoursADay'>): number {
  return Math.max(1, Math.ceil((taps * of.minutesAHole) / 60 / (of.people * of.hoursADay)));
}

/** Days for which a hole gives, as the bush collects. */
export const lifeOf = ({ vessel, vacuum }: Pick<BushSettings, 'vessel' | 'vacuum'>): number =>
  HOLE_LIVES[wayOf(vessel, vacuum)];

/** What a group's season looks like from a day on. */
export interface GroupOutlook {
  readonly group: SeasonGroup;
  /** seasons whose weather is known, that all is told from */
  readonly years: number;
  /** over these years, whatever this one brings; null where none is known */
  readonly usual: DrillingDay | null;
  /** this year: begin today, or wait? null where no year is known or the year is too far gone */
  readonly now: DrillNow | null;
  /** what a hole that is made today still brings */
  readonly fresh: SeasonLeft | null;
  /** the ways in which the rest of the year may go */
  readonly scenarios: readonly Scenario[];
  /** days of this year's season up to today that nobody measured: taken as in other years */
  readonly unknownDays: number;
}

/** What is looked at to tell a group's season. */
export interface OutlookQuestion {
  readonly weather: BushWeather;
  readonly group: SeasonGroup;
  readonly season: number;
  /** ISO date */
  readonly today: string;
  readonly habit: RoundHabit;
  readonly signs: readonly SeasonSign[];
}

/** What was seen of a group in the season that tells of its end. */
export function looksAt({ group, season, signs }: Pick<OutlookQuestion, 'group' | 'season' | 'signs'>): DayLook[] {
  return signs.flatMap(({ on, sign, species, standId }): DayLook[] => {
    const ofThese = species === null || swells(species) === group.swell;
    const here = standId === null || group.standIds.includes(standId);
    const day = dayOfSeason(on, season);
    if (!ofThese || !here || day < 0 || day >= COURSE_DAYS) return [];
    return SIGN_ODDS[sign] === undefined ? [] : [{ day, sign }];
  });
}

/** What is known of a season on a day, as the ways in which it may go on are drawn from. @param today ISO date */
export function knownWeather(
  weather: Pick<BushWeather, 'past' | 'ahead'>,
  { season, today }: { readonly season: number; readonly today: string }
): KnownWeather {
  const at = dayOfSeason(today, season);
  const sds = weather.ahead.map(({ sdC }) => sdC);
  return {
    thisYear: yearOf(season, weather.past),
    today: Math.max(0, Math.min(COURSE_DAYS, at)),
    forecast: at < 0 ? [] : weather.ahead,
    forecastSd: (ahead) => sds[ahead] ?? 0,
    years: yearsKnown(weather.past, season)
  };
}

/** The season of a group: over the years that are known, and this year with its forecast. */
export function groupOutlook(of: OutlookQuestion): GroupOutlook {
  const { weather, group, season, today, habit } = of;
  const known = knownWeather(weather, { season, today });
  const { years } = known;
  const courses = years.flatMap((year) => courseOf(year, group) ?? []);
  const at = dayOfSeason(today, season);
  const scenarios = at >= COURSE_DAYS ? [] : scenariosOf({ ...known, looks: looksAt(of) }, group, seededRng(season));
  const open = scenarios.length > 0;
  const { minC } = known.thisYear;
  const unknownDays = minC.subarray(BUDS_FROM, Math.max(BUDS_FROM, at)).filter((each) => Number.isNaN(each)).length;
  return {
    group,
    years: courses.length,
    usual: courses.length > 0 ? drillingDay(courses, habit) : null,
    now: open && at >= 0 ? drillNow(scenarios, at, habit) : null,
    fresh: open && at >= 0 ? seasonLeft(scenarios, { drilled: at, today: at }, habit) : null,
    scenarios,
    unknownDays
  };
}

/** A day that was chosen to begin drilling, held against what came. */
export interface ChoiceHeld {
  readonly choice: DrillingChoice;
  /** litres a tap by the weather that came: on the chosen day, and on the best one, which nobody could know; null where too little of the year came yet */
  readonly came: { readonly litres: number; readonly best: number; readonly bestOn: string } | null;
}

/** The days that were chosen, the latest season first, each by what its season's weather then brought. @param records of the bush that hold */
export function choicesHeld(
  records: readonly BushRecord[],
  { past }: Pick<BushWeather, 'past'>,
  habit: Omit<RoundHabit, 'days'>
): ChoiceHeld[] {
  const last = new Map<string, DrillingChoice>();
  for (const record of records)
    if (record.kind === 'drillingChoice') last.set(`${record.season} ${record.group}`, record);
  return [...last.values()]
    .sort((a, b) => b.season - a.season || a.group.localeCompare(b.group))
    .map((choice) => {
      const { season, group, days, beginOn } = choice;
      const course = courseOf(yearOf(season, past), {
        species: group === 'early' ? 'redMaple' : 'sugarMaple',
        sunny: false
      });
      if (!course) return { choice, came: null };
      const litres = litresByStart(course, { ...habit, days });
      const best = litres.indexOf(Math.max(...litres));
      const at = Math.min(Math.max(0, dayOfSeason(beginOn, season)), COURSE_DAYS - 1);
      return { choice, came: { litres: litres[at]!, best: litres[best]!, bestOn: dayAt(season, best) } };
    });
}
