import { dayAfter } from '@baumkin/core/season';
import { error, json } from '@sveltejs/kit';
import { z } from 'zod';

import { requireBush } from '$lib/server/api.ts';
import { today } from '$lib/server/clock.ts';
import { askWeather, weatherSources } from '$lib/server/weather/index.ts';
import { MOST_DAYS } from '$lib/server/weather/source.ts';

/** The longest forecast that is asked for, days. */
const AHEAD_DAYS = 15;

/** What the services and thermometers that this server knows say of a bush's weather, from a day on. */
export async function GET({ params, locals, url }) {
  const bush = await requireBush(locals, params.bush, 'crew');
  const day = today();
  const from = z.iso.date().safeParse(url.searchParams.get('from') ?? day);
  if (!from.success || from.data < dayAfter(day, -MOST_DAYS))
    error(400, 'Say from which day on: from=2027-02-01, not more than ten years ago.');
  const until = dayAfter(day, AHEAD_DAYS);
  const ask = { from: from.data, until, today: day, origin: bush.origin };
  const sources = await askWeather(ask, weatherSources(bush));
  return json({ sources }, { headers: { 'cache-control': 'no-store' } });
}
