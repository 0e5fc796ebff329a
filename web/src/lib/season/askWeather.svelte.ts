import { asRecords, daysOf } from '@baumkin/core/bush';
import type { BushRecord } from '@baumkin/core/records';
import { dayAfter, type WeatherDay, type WeatherSourceKind } from '@baumkin/core/season';

import { api, asked } from '$lib/client/api.ts';
import type { BushState } from '$lib/client/bush.svelte.ts';
import { capital } from '$lib/words/capital.ts';

/** What is wrong with a source that says nothing. */
const TROUBLE = {
  silent: 'did not answer in time',
  unreachable: 'cannot be reached',
  failing: 'says that it is out of order',
  unreadable: 'sent something that is no weather',
  nonsense: 'told days that cannot be',
  stale: 'tells an old forecast only'
} as const;

/** So long after an answer nobody is asked again, ms. */
const OFTEN_MS = 30 * 60_000;
/** The thermometer is asked for no more days than this at a time. */
const MOST_DAYS = 366;

const askedAt = new Map<string, number>();

/** Asks services and thermometers for what is new, and writes it down as anybody would: it then is on every device. */
export class WeatherAsker {
  asking = $state(false);
  /** sentences about sources that said nothing, or of which days were left out */
  troubles = $state.raw<readonly string[]>([]);
  /** the sources that the server knows; null until it was asked */
  sources = $state.raw<readonly { readonly kind: string; readonly name: string }[] | null>(null);

  constructor(readonly bush: BushState) {}

  /** Asks, unless that was done a while ago. */
  async now(anyway = false): Promise<void> {
    const { bush } = this;
    const last = askedAt.get(bush.id) ?? 0;
    if (!bush.mayRecord || this.asking || bush.signedOut || (!anyway && Date.now() - last < OFTEN_MS)) return;
    this.asking = true;
    try {
      const from = this.#from();
      const { data } = await asked(
        api.GET('/bushes/{bush}/weather', { params: { path: { bush: bush.id }, query: { from } } })
      );
      // Without a network what is known stands; the page says how old it is.
      if (data === null) return;
      askedAt.set(bush.id, Date.now());
      this.sources = data.sources;
      this.troubles = data.sources.flatMap(({ name, answer }) => {
        if (!answer.ok) return `${capital(name)} ${TROUBLE[answer.why]}. What was known before stands.`;
        const [first] = answer.refused;
        return first
          ? `${capital(name)}: ${answer.refused.length === 1 ? 'a day was' : `${answer.refused.length} days were`} left out. ${first.on}: ${first.reason}`
          : [];
      });
      for (const { kind, answer } of data.sources)
        if (answer.ok) await this.#keep(kind, answer.place, { madeOn: answer.madeOn, days: answer.days });
    } finally {
      this.asking = false;
    }
  }

  /** The first day that no thermometer's record has. */
  #from(): string {
    const { bush } = this;
    const last = bush.bushRecords
      .filter((record) => record.kind === 'weather' && record.source === 'thermometer')
      .flatMap((record) => (record.kind === 'weather' ? dayAfter(record.from, record.minC.length) : []))
      .sort()
      .at(-1);
    const earliest = dayAfter(bush.today, -MOST_DAYS);
    return last && last > earliest ? (last < bush.today ? last : bush.today) : earliest;
  }

  async #keep(
    source: WeatherSourceKind,
    place: string,
    told: { madeOn: string; days: readonly WeatherDay[] }
  ): Promise<void> {
    const { bush } = this;
    const known = knownDays(bush.bushRecords, source, place, source === 'forecast' ? told.madeOn : null);
    const fresh = told.days.filter(({ on, minC, maxC }) => known.get(on) !== `${minC} ${maxC}`);
    if (fresh.length === 0) return;
    const on = source === 'forecast' ? told.madeOn : bush.today;
    for (const record of asRecords(source === 'forecast' ? told.days : fresh))
      await bush.recordOfBush({ kind: 'weather', on, source, place, ...record });
  }
}

/** What a source said of each day already. @param madeOn of a forecast; null: whenever */
function knownDays(records: readonly BushRecord[], source: WeatherSourceKind, place: string, madeOn: string | null) {
  return new Map(
    records.flatMap((record) =>
      record.kind === 'weather' &&
      record.source === source &&
      record.place === place &&
      (madeOn === null || record.on === madeOn)
        ? daysOf(record).map(({ on, minC, maxC }) => [on, `${minC} ${maxC}`] as const)
        : []
    )
  );
}
