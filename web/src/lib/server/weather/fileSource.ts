import { readWeather } from '@baumkin/core/exchange';

import { soundDays, type WeatherAnswer, type WeatherAsk, type WeatherSource } from './source.ts';

/** A table of a climate archive as a source: what a station measured. @param name of the file */
export function fileSource(name: string, text: string): WeatherSource {
  const source = { kind: 'station' as const, name };
  return {
    ...source,
    days(ask: WeatherAsk): Promise<WeatherAnswer> {
      try {
        const { days, stations } = readWeather(text, { today: ask.today });
        return Promise.resolve(soundDays(source, { place: stations[0] ?? name, madeOn: ask.today, days }, ask));
      } catch {
        return Promise.resolve({ ok: false, why: 'unreadable' });
      }
    }
  };
}
