import {
  groupOutlook,
  learnedFrom,
  lifeOf,
  placesNow,
  roundDays,
  runsAhead,
  seasonGroups,
  weatherOf,
  yearsKnown,
  type GroupOutlook,
  type SeasonGroup
} from '@baumkin/core/bush';
import { otherSapOfTree, tapsToHang, type SeasonSign } from '@baumkin/core/records';
import { daysBetween } from '@baumkin/core/season';

import { onMount } from 'svelte';

import type { BushState } from '$lib/client/bush.svelte.ts';

import { WeatherAsker } from './askWeather.svelte.ts';

/** What the pages of the season share: weather, tapped trees by how they run, places, and what the bush's log has shown. */
export class SeasonDesk {
  /** what services and thermometers say, asked for by whatever page of the season is opened */
  readonly asker: WeatherAsker;

  /** Made as a component is made. */
  constructor(readonly bush: BushState) {
    this.asker = new WeatherAsker(bush);
    onMount(() => void this.asker.now());
  }

  readonly settings = $derived.by(() => this.bush.overview!.bush.settings);
  readonly stands = $derived.by(() => this.bush.overview!.stands);
  readonly weather = $derived.by(() => weatherOf(this.bush.bushRecords, this.bush.today));
  readonly groups = $derived.by(() => seasonGroups(this.bush.rows, this.stands, this.bush.today));
  readonly known = $derived.by(() => learnedFrom(this.bush.bushRecords, this.weather, this.settings));
  readonly places = $derived.by(() => placesNow(this.bush.bushRecords, this.bush.rows, this.bush.season));
  readonly years = $derived.by(() => yearsKnown(this.weather.past, this.bush.season));
  readonly signs = $derived.by((): readonly SeasonSign[] =>
    this.bush.bushRecords.filter((record) => record.kind === 'seasonSign')
  );
  /** taps of all groups, and those that are drilled */
  readonly taps = $derived.by(() => this.groups.reduce((sum, group) => sum + group.taps, 0));
  readonly drilled = $derived.by(() => this.groups.reduce((sum, group) => sum + group.drilled, 0));

  /** taps on trees that are no maples, which have a season of their own */
  readonly otherTaps = $derived.by(() =>
    this.bush.rows.reduce((sum, row) => {
      const isOther = !row.cut && otherSapOfTree(row) !== null;
      return isOther ? sum + Math.max(row.drilled, tapsToHang(row, this.bush.standOf(row), this.bush.today)) : sum;
    }, 0)
  );

  /** What a hole gives and for how long, as this bush collects and its log has shown. */
  readonly hole = $derived.by(() => {
    const season = this.known.seasons.get(this.bush.season)?.factor ?? 1;
    return {
      lifeDays: lifeOf(this.settings) * Math.sqrt(1 / this.known.closing.factor),
      litresAtFull: this.known.litresAtFull * season
    };
  });

  /** Days that a round over so many taps takes. */
  roundDays(taps: number): number {
    return roundDays(taps, this.settings);
  }

  outlook(group: SeasonGroup, days = this.roundDays(group.taps)): GroupOutlook {
    const { weather, signs, hole, bush } = this;
    return groupOutlook({
      weather,
      group,
      season: bush.season,
      today: bush.today,
      habit: { days, ...hole },
      signs
    });
  }

  /** How today and the coming days run, for the group with most taps. */
  readonly runs = $derived.by(() => {
    const [group = { sunny: false }] = this.groups;
    return runsAhead(this.weather, { group, holeDays: this.holeDays, ...this.hole });
  });

  /** Days since half of the season's holes were made; nought where none were. */
  readonly holeDays = $derived.by(() => {
    const maples = this.bush.rows.filter((row) => otherSapOfTree(row) === null);
    const days = maples.flatMap(({ drilledOn }) => drilledOn ?? []).sort();
    const middle = days[Math.floor(days.length / 2)];
    return middle ? Math.max(0, daysBetween(middle, this.bush.today)) : 0;
  });
}
