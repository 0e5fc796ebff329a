import { z } from 'zod';

import { MOST_DAYS, soundDays, type WeatherAnswer, type WeatherAsk, type WeatherSource } from './source.ts';

/** One answer is waited for so long, ms. */
const WITHIN_MS = 4000;
/** Between two tries, ms. */
const PAUSE_MS = 400;
/** What failed is tried so often. */
const TRIES = 2;
/** No answer is longer, bytes. */
const MOST_BYTES = 1_000_000;

/** What a source sends: JSON, degrees Celsius or Fahrenheit. */
const answerSchema = z.object({
  place: z.string().trim().min(1).max(80),
  madeAt: z.iso.datetime({ offset: true }),
  unit: z.enum(['c', 'f']),
  days: z.array(z.object({ date: z.iso.date(), tmin: z.number(), tmax: z.number() })).max(MOST_DAYS)
});

/** How a source that answers over HTTP is named by whoever starts the server. */
export interface HttpSourceOptions {
  readonly kind: 'thermometer' | 'forecast';
  readonly name: string;
  /** without a slash at its end: `/days?from=…&until=…&lat=…&lon=…` is asked for */
  readonly url: string;
  /** one answer is waited for so long, ms */
  readonly withinMs?: number;
}

/** A service or a thermometer that answers over HTTP. */
export function httpSource({ kind, name, url, withinMs = WITHIN_MS }: HttpSourceOptions): WeatherSource {
  const source = { kind, name };
  const ask = async (of: WeatherAsk): Promise<WeatherAnswer> => {
    const address = new URL(`${url}/days`);
    const { lat, lon } = of.origin ?? {};
    const asks = { from: of.from, until: of.until, ...(of.origin ? { lat: String(lat), lon: String(lon) } : {}) };
    for (const [key, value] of Object.entries(asks)) address.searchParams.set(key, value);
    const response = await fetch(address, {
      signal: AbortSignal.timeout(withinMs),
      redirect: 'error',
      headers: { accept: 'application/json' }
    });
    if (!response.ok) {
      await response.body?.cancel();
      return { ok: false, why: 'failing' };
    }
    const parsed = answerSchema.safeParse(readJson(await bodyOf(response)));
    if (!parsed.success) return { ok: false, why: 'unreadable' };
    const { place, madeAt, unit, days } = parsed.data;
    const c = (value: number) => (unit === 'f' ? Number(((value - 32) / 1.8).toFixed(2)) : value);
    const told = days.map(({ date, tmin, tmax }) => ({ on: date, minC: c(tmin), maxC: c(tmax) }));
    return soundDays(source, { place, madeOn: madeAt.slice(0, 10), days: told }, of);
  };
  return {
    ...source,
    async days(of) {
      let answer: WeatherAnswer = { ok: false, why: 'unreachable' };
      for (let tried = 0; tried < TRIES; tried++) {
        if (tried > 0) await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
        answer = await ask(of).catch((error: unknown) => ({ ok: false, why: whyOf(error) }));
        // What it says will not be other the next moment; that it says nothing may.
        if (answer.ok || !['unreachable', 'failing'].includes(answer.why)) return answer;
      }
      return answer;
    }
  };
}

const whyOf = (error: unknown) =>
  error instanceof TooLong
    ? 'unreadable'
    : error instanceof Error && error.name === 'TimeoutError'
      ? 'silent'
      : 'unreachable';

class TooLong extends Error {}

async function bodyOf(response: Response): Promise<string> {
  const parts: Uint8Array[] = [];
  let bytes = 0;
  for await (const part of response.body ?? []) {
    bytes += part.byteLength;
    if (bytes > MOST_BYTES) throw new TooLong();
    parts.push(part);
  }
  return Buffer.concat(parts).toString('utf8');
}

function readJson(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return null;
  }
}
