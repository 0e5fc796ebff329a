import type { ChoiceHeld, SeasonReckoning } from '@baumkin/core/bush';

import { preferences } from '$lib/client/preferences.svelte.ts';
import { shortDay } from '$lib/labels/season.ts';

/** Under this share of what the sugar allows something is lost at the pan, or read wrong. Working assumption. */
const LOST_UNDER = 0.88;
/** More than this share poured away is too much. */
const POURED_OVER = 0.05;
/** A day that brought so much less than the best one was badly chosen, litres a tap. */
const MISSED_LITRES = 4;

/** What a season teaches, each in a sentence; none where nothing stands out. */
export function lessonsOf(of: SeasonReckoning, all: readonly SeasonReckoning[], expected: ChoiceHeld | null): string[] {
  const lessons: string[] = [];
  const others = all.filter(({ season, taps }) => season < of.season && taps !== null);
  const perTap = (year: SeasonReckoning) => year.sapLitres / (year.taps ?? NaN);
  const usual = others.length > 1 ? others.reduce((sum, year) => sum + perTap(year), 0) / others.length : null;
  const came = expected?.came;
  if (came && came.best - came.litres > MISSED_LITRES)
    lessons.push(
      `Begun on ${shortDay(expected.choice.beginOn)}, the season had ${preferences.fewLitres(came.litres)} a tap in it; on ${shortDay(came.bestOn)} it would have been ${preferences.fewLitres(came.best)}. ${expected.choice.beginOn < came.bestOn ? 'Too early' : 'Too late'} by hindsight: look at "When to drill" before the next.`
    );
  if (came && of.taps && perTap(of) < 0.75 * came.litres)
    lessons.push(
      `${preferences.fewLitres(perTap(of))} a tap were collected of the ${preferences.fewLitres(came.litres)} that the weather had in it. Something ran over, spoiled, leaked or stayed dry: go through the places one by one.`
    );
  if (usual !== null && perTap(of) < 0.8 * usual)
    lessons.push(
      `A tap gave ${preferences.fewLitres(perTap(of))}, in the seasons before ${preferences.fewLitres(usual)}.`
    );
  if (of.possibleLitres > 0 && of.syrupLitres < LOST_UNDER * of.possibleLitres)
    lessons.push(
      `${Math.round((100 * of.syrupLitres) / of.possibleLitres)} % of the syrup that the sugar allowed came off the pan: the rest stayed on pan and filter, or the sugar was read too high.`
    );
  if (of.pouredLitres > POURED_OVER * (of.sapLitres + of.pouredLitres))
    lessons.push(
      `${preferences.volume(of.pouredLitres)} were poured away: collect more often on warm days, and cool at once.`
    );
  if (of.hours === 0 && of.batches > 0)
    lessons.push('No hours were written down, so that nobody can say what a litre cost.');
  return lessons;
}
