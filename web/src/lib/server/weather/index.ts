import { env } from 'node:process';
import { z } from 'zod';

import type { BushAccess } from '../bushes.ts';
import { httpSource } from './httpSource.ts';
import { WEATHER_TROUBLES, type WeatherAnswer, type WeatherAsk, type WeatherSource } from './source.ts';

/** What the operator says of a service or thermometer that answers over HTTP. */
const configured = z.array(
  z.object({
    kind: z.enum(['thermometer', 'forecast']),
    name: z.string().min(1).max(80),
    url: z.url({ protocol: /^https?$/ }),
    /** the bush that it tells of, by its id; every bush of this server where none is named */
    bush: z.uuid().optional()
  })
);

/**
 * The sources that whoever started the server named for a bush; none where nobody did. A thermometer at one sugarhouse says nothing
 * of another's frost: what is named for one bush is heard in it alone, and in copies of it to play in.
 */
export function weatherSources(bush: Pick<BushAccess, 'id' | 'playUntil'>): WeatherSource[] {
  const parsed = configured.safeParse(JSON.parse(env.BAUMKIN_WEATHER || '[]'));
  if (!parsed.success) return [];
  const stands = bush.playUntil === null ? bush.id : env.BAUMKIN_EXAMPLE;
  return parsed.data.filter((each) => each.bush === undefined || each.bush === stands).map(httpSource);
}

const temperature = z.number();
/** What each source said. */
export const weatherSchema = z.object({
  sources: z.array(
    z.object({
      kind: z.enum(['station', 'thermometer', 'forecast']),
      name: z.string(),
      answer: z.discriminatedUnion('ok', [
        z.object({
          ok: z.literal(true),
          place: z.string(),
          madeOn: z.iso.date(),
          days: z.array(z.object({ on: z.iso.date(), minC: temperature, maxC: temperature })),
          refused: z.array(z.object({ on: z.iso.date(), reason: z.string() }))
        }),
        z.object({ ok: z.literal(false), why: z.enum(WEATHER_TROUBLES) })
      ])
    })
  )
});

/** Asks all sources at once: one that is silent holds no other up. */
export async function askWeather(
  ask: WeatherAsk,
  sources: readonly WeatherSource[]
): Promise<{ kind: WeatherSource['kind']; name: string; answer: WeatherAnswer }[]> {
  return Promise.all(
    sources.map(async (source) => ({ kind: source.kind, name: source.name, answer: await source.days(ask) }))
  );
}
