<script lang="ts">
  import { holeAt, landmarkNear } from '@baumkin/core/bush';
  import type { BarkSpot } from '@baumkin/core/geometry';
  import type { Shavings, Taphole } from '@baumkin/core/records';
  import type { SpotAnswer } from '@baumkin/core/rotation';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { chanceInWords } from '$lib/labels/chance.ts';
  import { SHAVINGS_LABELS } from '$lib/labels/placement.ts';
  import { drilledHole, shavingsSeen } from '$lib/place/drilling.ts';
  import HighHole from '$lib/place/HighHole.svelte';
  import HoleDoubt from '$lib/place/HoleDoubt.svelte';
  import type { TappingRound } from '$lib/place/tappingRound.svelte.ts';
  import { placeWorker } from '$lib/place/worker.ts';
  import { capital } from '$lib/words/capital.ts';
  import { lastAsked } from '$lib/workers/lastAsked.ts';

  import { felt } from './aloud.ts';
  import type { TapStop } from './tapStops.ts';
  import TrunkView from './TrunkView.svelte';
  import type { Walk } from './walk.svelte.ts';

  /** One tree of the tapping round: where its next hole goes, and once it is drilled, what came out. */
  const {
    stop,
    round,
    walk,
    failed
  }: {
    stop: TapStop;
    round: TappingRound;
    walk: Walk<TapStop>;
    /** no holes could be planned on this device */
    failed: boolean;
  } = $props();
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  const line = $derived(stop.line);
  const placing = $derived(line.placing);
  const tree = $derived(line.state);

  /** the spot that a finger moved it to; null where it is drilled as planned */
  let moved = $state.raw<BarkSpot | null>(null);
  let answer = $state.raw<(SpotAnswer & { readonly spot: BarkSpot }) | null>(null);
  const planned = $derived(line.open[0] ?? null);
  const spot = $derived<BarkSpot | null>(moved ?? planned);
  const words = $derived(spot && round.said(line, spot, preferences.body));
  const from = $derived(spot && landmarkNear(placing, tree.trunkFeatures, spot, bush.asPlanned));
  const clear = $derived(moved ? (answer?.spot === moved ? answer.outlook.pClear : null) : (planned?.pClear ?? null));
  const against = $derived(moved && answer?.spot === moved ? answer.objections.length > 0 : false);
  const spots = $derived(spot ? [spot, ...line.open.slice(1)] : []);

  const ask = lastAsked(
    (question: BarkSpot) => placeWorker().ask(placing.task, question),
    (question, found) => (answer = { ...found, spot: question })
  );
  function move(next: BarkSpot): void {
    moved = next;
    ask(next);
  }

  /** A hole of this season at the spot: it may be the one that is being written down. */
  let doubting = $state(false);
  const same = $derived(spot && holeAt(spot, tree.holesThisSeason, placing.task.trunk.barkRadiusMm));
  const press = () => (same ? (doubting = true) : void walk.write(drilled));

  async function drilled(): Promise<void> {
    if (!spot || clear === null) return;
    felt(true);
    // Once it is written down, the walk may stand at another tree already.
    const here = stop;
    const how = { depthMm: round.depthOf(line), predictedClear: clear, asNamed: moved === null };
    const hole = await bush.record(here.treeId, drilledHole(bush, spot, how));
    moved = null;
    walk.did(here, `Tree ${here.line.row.tag}: hole drilled`, [hole]);
  }

  async function looked(hole: Taphole, seen: Shavings['seen'], label: string): Promise<void> {
    felt(false);
    const here = stop;
    const shavings = await bush.record(here.treeId, shavingsSeen(hole, seen));
    walk.did(here, `Tree ${here.line.row.tag}: ${label.toLowerCase()}`, [shavings]);
  }
</script>

{#if stop.asks}
  {@const hole = stop.asks}
  <div class="flex min-h-0 grow flex-col justify-center gap-3" data-testid="asks">
    <p class="font-slab text-2xl leading-snug font-semibold">What came out?</p>
    <p class="text-lg">The first brown crumbs are bark: look at what comes after them.</p>
    {#if bush.paintOf(bush.season)}<p class="flex items-center gap-2 text-lg">
        <span
          class="inline-block h-5 w-8 border border-current"
          style="background: var(--paint-{bush.paintOf(bush.season)})"
        ></span>
        {capital(bush.paintOf(bush.season)!)} paint {settings.paintPlace === 'round'
          ? 'round it'
          : settings.paintPlace === 'left' || settings.paintPlace === 'right'
            ? `${settings.paintPlace} of it`
            : `${settings.paintPlace} it`}.
      </p>{/if}
  </div>
  <div class="grid shrink-0 grid-cols-2 gap-2">
    {#each SHAVINGS_LABELS as [kind, label, meaning] (kind)}
      <button
        class="min-h-20 border-2 border-current px-3 text-left text-xl leading-tight font-bold"
        disabled={walk.busy}
        onclick={() => walk.write(() => looked(hole, kind, label))}
        >{label}<span class="block text-base font-normal">{meaning}</span></button
      >
    {/each}
    <button class="btn col-span-2 h-14 btn-ghost text-lg" disabled={walk.busy} onclick={() => walk.pass(stop, hole.id)}
      >Did not look</button
    >
  </div>
{:else if spot && words}
  <div class="shrink-0">
    <p class="font-slab text-[1.6rem] leading-tight font-semibold" data-testid="walk-words">{words.sentence}</p>
    <p class="mt-1 text-lg leading-snug">
      {capital(words.bodyHeight)}, {words.compass}. Tape at {round.tapeAt(line)}{round.isShallow(line)
        ? ': shallower than usual'
        : ''}.
    </p>
    {#if words.highBare && bush.hangsBuckets(stop.treeId)}<HighHole heightMm={spot.heightMm} />{/if}
  </div>
  <div class="min-h-40 grow">
    <TrunkView
      task={placing.task}
      holes={placing.holes}
      features={tree.trunkFeatures}
      {spots}
      chosen={0}
      season={bush.season}
      snowMm={settings.snowMm}
      paintOf={(season) => bush.paintOf(season)}
      {from}
      onmove={bush.mayRecord ? move : null}
    />
  </div>
  <p class="flex min-h-12 shrink-0 items-center justify-between gap-2 text-lg leading-tight" aria-live="polite">
    {#if moved}
      <span
        >Moved by hand: clear wood {clear === null ? '…' : chanceInWords(clear)}{against
          ? ', against the bush’s rules'
          : ''}.</span
      >
      <button class="btn h-12 text-base" onclick={() => (moved = null)}>As planned</button>
    {:else}
      <span>Clear wood {chanceInWords(clear ?? 0)}. Slide the spot if the bark says no.</span>
    {/if}
  </p>
  <div class="grid shrink-0 grid-cols-[1fr_2fr] gap-2">
    <button class="btn h-18 text-base leading-tight" onclick={() => walk.putOff(stop)}>Come back later</button>
    <button
      class="btn h-18 text-2xl btn-primary"
      disabled={clear === null || walk.busy || !bush.mayRecord}
      onclick={press}>Drilled</button
    >
  </div>
  <HoleDoubt bind:open={doubting} {same} left="" onwrite={() => walk.write(drilled)} />
{:else}
  <div class="flex min-h-0 grow flex-col justify-center gap-3 text-lg" data-testid="no-hole">
    {#if !line.settled && failed}<p class="font-slab text-2xl font-semibold">This trunk could not be planned.</p>
      <p>Open the page again; what you wrote down is kept.</p>
    {:else if !line.settled}<p class="font-slab text-2xl font-semibold">Planning this trunk …</p>
    {:else}<p class="font-slab text-2xl font-semibold">No room is left on this trunk.</p>
      <p>No place keeps its distance from this season’s holes and from what stands on the bark.</p>{/if}
  </div>
  <button class="btn h-18 shrink-0 text-lg" onclick={() => walk.putOff(stop)}>Come back later</button>
{/if}
