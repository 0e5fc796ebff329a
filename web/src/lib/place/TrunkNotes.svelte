<script lang="ts">
  import { compassPoint } from '@baumkin/core/math';
  import type { Scars, TreeState, TrunkFeature } from '@baumkin/core/records';
  import { TRUNK_FEATURES, usualHole, WOUND_KINDS, type TrunkFeatureKind } from '@baumkin/core/trunk';

  import { saved } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import { FEATURE_WORDS, featureWords } from '$lib/labels/placement.ts';

  /** What stands on the trunk, put where the sheet was asked, and old holes of which nobody knows the year. */
  const {
    treeId,
    tree,
    spot
  }: {
    treeId: string;
    tree: TreeState;
    spot: { readonly bearingDeg: number; readonly heightMm: number } | null;
  } = $props();
  const bush = useBush();

  const SIDES = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'];
  let what = $state<TrunkFeatureKind>('limb');
  /** the year in which a wound, a seam or a broken limb laid the wood open; null where nobody knows */
  let since = $state<number | null>(null);
  const opens = $derived((WOUND_KINDS as readonly string[]).includes(what));
  const badYear = $derived(opens && since !== null && !(since >= 1900 && since <= bush.season));
  let many = $state(8);
  let side = $state('S');
  let from = $state(1990);
  let to = $state(2009);

  async function note(): Promise<void> {
    if (!spot) return;
    const record = await bush.record(treeId, {
      kind: 'trunkFeature',
      what,
      bearingDeg: Math.round(spot.bearingDeg) % 360,
      heightMm: Math.round(spot.heightMm),
      since: opens ? since : null,
      note: ''
    });
    since = null;
    saved(bush, `Noted: ${featureWords(record as TrunkFeature)}.`, record);
  }
  async function noteScars(here: boolean): Promise<void> {
    const [fromSeason, toSeason] = [Math.min(from, to), Math.max(from, to)];
    const record = await bush.record(treeId, {
      kind: 'scars',
      many: here ? 1 : many,
      bearingDeg: here ? Math.round(spot!.bearingDeg) % 360 : side === 'any' ? null : SIDES.indexOf(side) * 45,
      spreadDeg: here ? 3 : 30,
      heightMm: here ? Math.round(spot!.heightMm) : null,
      fromSeason,
      toSeason,
      ...usualHole(fromSeason, toSeason, bush.overview!.bush.settings),
      note: ''
    });
    saved(bush, 'Noted. The sheet doubts that wood from now on.', record);
  }
  const say = (record: TrunkFeature | Scars) =>
    record.kind === 'trunkFeature'
      ? `${featureWords(record)}, ${compassPoint(record.bearingDeg)} side, ${preferences.length(record.heightMm, 'hand')}`
      : `${record.many === 1 ? 'one old scar' : `about ${record.many} old holes`}${record.bearingDeg === null ? '' : `, ${compassPoint(record.bearingDeg)} side`}, ${record.fromSeason} to ${record.toSeason}`;
</script>

<div class="flex max-w-lg flex-col gap-3">
  {#if tree.trunkFeatures.length + tree.scars.length === 0}
    <p class="aside">
      Nothing is noted yet. Limbs, roots, seams and wounds keep holes away; a line tells what a drop line reaches; a
      nail or root is something to measure from.
    </p>
  {:else}
    <ul class="flex flex-col gap-1">
      {#each [...tree.trunkFeatures, ...tree.scars] as record (record.id)}
        <li class="flex items-baseline gap-3">
          {say(record)}
          {#if bush.mayTakeBack(record)}<button class="link text-sm" onclick={() => bush.withdraw(record)}
              >Take away</button
            >{/if}
        </li>
      {/each}
    </ul>
  {/if}
  {#if bush.mayRecord}
    <div class="flex flex-wrap items-center gap-2">
      At the asked spot there is
      <select class="select w-auto select-sm" aria-label="What is there" bind:value={what}>
        {#each TRUNK_FEATURES as kind (kind)}<option value={kind}>{FEATURE_WORDS[kind]}</option>{/each}
      </select>
      {#if opens}
        <label class="flex items-center gap-2"
          >{what === 'limb' ? 'broken off in' : 'since'}
          <input
            class="input w-24 input-sm"
            type="number"
            min="1900"
            max={bush.season}
            placeholder="unknown"
            bind:value={since}
          /></label
        >
      {/if}
      <button class="btn btn-sm" disabled={!spot || badYear} onclick={note}>Note it</button>
    </div>
    {#if badYear}<p role="alert" class="font-semibold text-error">A year from 1900 to {bush.season}.</p>{/if}
    {#if opens}<p class="aside">
        {what === 'limb' ? 'A living limb needs no year; one that broke off' : 'With its year it'} is a column of its own:
        wood laid since is clear.
      </p>{/if}
    <div class="flex flex-wrap items-center gap-2">
      About <input class="input w-16 input-sm" type="number" min="1" max="40" aria-label="How many" bind:value={many} />
      old holes nobody wrote down,
      <select class="select w-auto select-sm" aria-label="On which side" bind:value={side}>
        <option value="any">on any side</option>
        {#each SIDES as name (name)}<option value={name}>{name} side</option>{/each}
      </select>
      between
      <input
        class="input w-20 input-sm"
        type="number"
        min="1900"
        max="2200"
        aria-label="From season"
        bind:value={from}
      />
      and
      <input class="input w-20 input-sm" type="number" min="1900" max="2200" aria-label="To season" bind:value={to} />
      <button class="btn btn-sm" disabled={!(many >= 1 && many <= 40)} onclick={() => noteScars(false)}
        >Note them</button
      >
      <button class="btn btn-sm" disabled={!spot} onclick={() => noteScars(true)}>One scar at the asked spot</button>
    </div>
  {/if}
</div>
