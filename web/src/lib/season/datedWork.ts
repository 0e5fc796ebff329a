import { closingDue, closingSample, dayAt, endOf, pullingDue } from '@baumkin/core/bush';
import { dayAfter } from '@baumkin/core/season';

import { counted } from '$lib/labels/counted.ts';
import { groupWords } from '$lib/labels/season.ts';

import type { DatedWork } from './calendar.ts';
import type { SeasonDesk } from './desk.svelte.ts';

/** Spouts are pulled within so many days of the end. Common practice. */
const PULLED_WITHIN_DAYS = 5;
/** Old holes are looked at from the middle of August on. */
const CLOSING_FROM = '-08-18';
/** Buds are looked at so many days before the likely end. Working assumption. */
const LOOK_BEFORE_DAYS = 6;

/** The season's work that has a day, as far as it is known today, in its order. */
export function datedWork(desk: SeasonDesk): DatedWork[] {
  const { bush } = desk;
  const { season, today } = bush;
  const work: DatedWork[] = [];
  for (const record of bush.bushRecords) {
    if (record.kind !== 'drillingChoice' || record.season !== season) continue;
    const id = `drill-${season}-${record.group}`;
    const known = work.findIndex((each) => each.id === id);
    const drill: DatedWork = {
      id,
      what: `Drill: ${record.group === 'early' ? 'red and silver maples' : 'late maples'}`,
      why: `${counted(record.days, 'day')} of drilling, ${record.expectedLitres} l a tap expected.`,
      on: record.beginOn,
      hour: null,
      lasts: Math.ceil(record.days)
    };
    if (known < 0) work.push(drill);
    else work[known] = drill;
    const { hangAfterDays } = desk.settings;
    if (hangAfterDays > 0)
      work.push({
        id: `hang-${season}-${record.group}`,
        what: 'Hang the vessels',
        why: 'The spouts have had time to sit.',
        on: dayAfter(record.beginOn, hangAfterDays),
        hour: null,
        lasts: Math.ceil(record.days)
      });
  }
  for (const group of desk.groups) {
    if (group.drilled === 0) continue;
    const end = endOf(bush.bushRecords, season, group.swell);
    const last = desk.outlook(group).fresh?.lastRun;
    if (!end && last)
      work.push({
        id: `buds-${season}-${group.id}`,
        what: `Look at the buds: ${groupWords(group)}`,
        why: `The last run is expected about ${dayAt(season, last[1])}.`,
        on: later(today, dayAfter(dayAt(season, last[1]), -LOOK_BEFORE_DAYS)),
        hour: null,
        lasts: 1
      });
    const inTrees = bush.rows.filter((row) => group.treeIds.includes(row.id) && pullingDue(row, season)).length;
    if (end && inTrees > 0)
      work.push({
        id: `pull-${season}-${group.id}`,
        what: `Pull spouts: ${groupWords(group)}`,
        why: `${counted(inTrees, 'tree')}; paint the marks first.`,
        on: later(today, dayAfter(end.on)),
        hour: null,
        lasts: PULLED_WITHIN_DAYS
      });
  }
  const summer = `${today.slice(0, 4)}${CLOSING_FROM}`;
  const sample = closingSample(bush.rows, later(today, summer));
  const due = bush.rows.filter((row) => sample.has(row.id) && closingDue(row, later(today, summer))).length;
  if (due > 0 || desk.drilled > 0)
    work.push({
      id: `closing-${summer.slice(0, 4)}`,
      what: 'Closing round',
      why: `${counted(due > 0 ? due : desk.drilled, due > 0 ? 'tree' : 'hole')}: how far have the holes closed?`,
      on: later(today, summer),
      hour: null,
      lasts: 14
    });
  return work.filter(({ on, lasts }) => dayAfter(on, lasts) > today).sort((a, b) => (a.on < b.on ? -1 : 1));
}

const later = (a: string, b: string) => (a > b ? a : b);
