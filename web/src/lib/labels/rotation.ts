import type { RestsOn, RotationRecord } from '@baumkin/core/records';
import { TRUST } from '@baumkin/core/rotation';

import { listed } from '../words/listed.ts';

const NEWS_WORDS: Readonly<Record<RestsOn, string>> = {
  holes: 'there are holes that were not planned',
  shavings: 'the shavings were not pale',
  growth: 'the trunk was measured again',
  trunk: 'something was noted on the trunk',
  count: 'another count was decided',
  band: 'the band within reach changed',
  snow: 'the snow changed',
  practice: 'bit, depth, spacing or line changed',
  wishes: 'the bush’s wishes changed',
  columns: 'species or columns are taken otherwise',
  planner: 'the planner was improved'
};

/** What was learned of a trunk since its plan was looked at, in words. */
export function newsWords(news: readonly RestsOn[]): string {
  return listed(news.map((each) => NEWS_WORDS[each]));
}

/** A share of a hole's path, as one says it. */
const saving = (share: number) => `${Number((100 * share).toFixed(1))} % of each hole’s path`;

/**
 * The day since which a trunk's holes are planned as they are, ISO.
 * @param since the day of the plan that is carried on; null where this record brought it
 */
export function plannedOn({ verdict, on }: Pick<RotationRecord, 'verdict' | 'on'>, since: string | null): string {
  return verdict === 'carried' || verdict === 'holds' ? (since ?? on) : on;
}

/**
 * Since when a trunk's holes are planned as they are, and why they were changed or left.
 * @param since the day of the plan that is carried on; null where this record brought it
 */
export function rotationWords(record: RotationRecord, since: string | null): string {
  const { verdict, on, news, saves } = record;
  const planned = plannedOn(record, since);
  const because = news.length > 0 ? ` because ${newsWords(news)}` : '';
  switch (verdict) {
    case 'first':
      return `Planned on ${on}.`;
    case 'carried':
      return `As planned on ${planned}.`;
    case 'holds':
      return `Planned on ${planned}; looked at again on ${on}${because}: it stands${saves === null || saves < TRUST ? '' : `, for another would save no more than ${saving(saves)}`}.`;
    case 'changed':
      return `Changed on ${on}${because}${saves === null ? ': what was planned there had to move' : `; that saves ${saving(saves)}`}.`;
  }
}
