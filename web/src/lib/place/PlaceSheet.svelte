<script lang="ts">
  import type { BarkSpot } from '@baumkin/core/geometry';
  import { compassPoint } from '@baumkin/core/math';
  import { barkThickness } from '@baumkin/core/measure';
  import {
    drillForbidden,
    fewerSinceDecided,
    knownMaple,
    tapsToHang,
    type Shavings,
    type Taphole
  } from '@baumkin/core/records';
  import { CLEAR_ENOUGH, type SpotAnswer } from '@baumkin/core/rotation';
  import { instructionFor, placementOf } from '@baumkin/core/bush';
  import Volume2 from '@lucide/svelte/icons/volume-2';
  import { toast } from 'svelte-sonner';

  import { conditionWords } from '$lib/labels/taps.ts';
  import { forbiddenWords } from '$lib/labels/permission.ts';
  import { STRATEGY_LABELS, instructionWords, objectionWords } from '$lib/labels/placement.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { capital } from '$lib/words/capital.ts';
  import Term from '$lib/ui/Term.svelte';

  import BarkSheet from './BarkSheet.svelte';
  import { chanceInWords } from '$lib/labels/chance.ts';
  import CrossSection from './CrossSection.svelte';
  import HighHole from './HighHole.svelte';
  import Lengthwise from './Lengthwise.svelte';
  import { LivePlacement } from './placement.svelte.ts';
  import TrunkNotes from './TrunkNotes.svelte';
  import { placeWorker } from './worker.ts';

  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const row = $derived(bush.byId.get(treeId)!);
  const tree = $derived(bush.stateOf(treeId));
  const settings = $derived(bush.overview!.bush.settings);
  const placing = $derived(placementOf(tree, { treeId, settings, season: bush.season, wanted: 3 }));
  const live = new LivePlacement(() => placing?.task ?? null);

  let width = $state(1000);
  /** From this width on, pixels, the sheet stands beside the words; the words keep this much of it. */
  const SIDE_BY_SIDE = 780;
  const PANEL = 350;

  const forbidden = $derived(drillForbidden(row, bush.standOf(row), bush.today));
  const fewer = $derived(fewerSinceDecided(row, bush.today));
  /** Holes still to drill this season; null where no count is decided. */
  const left = $derived(
    tree.decision ? Math.max(0, tapsToHang(row, bush.standOf(row), bush.today) - tree.holesThisSeason.length) : null
  );
  /** Nothing is drilled here before somebody decides anew. */
  const waits = $derived(forbidden !== null || (fewer !== null && left === 0));
  let asked = $state.raw<BarkSpot | null>(null);
  let answer = $state.raw<(SpotAnswer & { readonly spot: BarkSpot }) | null>(null);
  let chosen = $state(0);
  let zoom = $state(1);
  let coming = $state(0);
  const zoomBy = (by: 1 | -1) => (zoom = Math.min(4, Math.max(1, zoom * (by > 0 ? 1.5 : 1 / 1.5))));

  // Where nothing is to be drilled no hole is named; a spot that somebody asks for is still answered and written down.
  const proposals = $derived(waits ? [] : (live.placement?.proposals ?? []));
  const spot = $derived<BarkSpot | null>(asked ?? proposals[chosen] ?? null);
  const outlook = $derived(asked ? (answer?.outlook ?? null) : (proposals[chosen]?.outlook ?? null));
  /** Does what is shown answer the spot that is shown, or one that was asked a moment ago? */
  const answered = $derived(asked === null || answer?.spot === asked);
  const plan = $derived(waits ? [] : (live.placement?.plan ?? []));
  const strategy = $derived({ id: settings.strategy, ...STRATEGY_LABELS[settings.strategy] });

  // Whatever spot stands on the sheet is asked for its sections; the answer to an older question is dropped.
  let question = 0;
  $effect(() => {
    if (!spot || !placing) return;
    const mine = ++question;
    const mineSpot = spot;
    void placeWorker()
      .ask(placing.task, { bearingDeg: spot.bearingDeg, heightMm: spot.heightMm })
      .then((found) => {
        if (mine === question) answer = { ...found, spot: mineSpot };
      });
  });
  function pick(index: number): void {
    asked = null;
    chosen = index;
  }
  function readAloud(): void {
    if (!words) return;
    window.speechSynthesis.cancel();
    window.speechSynthesis.speak(
      new SpeechSynthesisUtterance(`Tree ${row.tag}. ${words.sentence} ${words.bodyHeight}.`)
    );
  }

  /** What the shavings say of the grain, once they say anything. */
  const taught = $derived.by(() => {
    const learned = live.stage === 'full' ? live.placement?.learned : null;
    if (!learned || learned.looked === 0) return null;
    const { leanMeanDeg, leanFromDeg, leanToDeg, sizeFactor, looked } = learned;
    const holes_ = `${looked} ${looked === 1 ? 'hole' : 'holes'}`;
    const lean =
      leanFromDeg > 0 || leanToDeg < 0
        ? `This tree’s grain leans to the ${leanMeanDeg > 0 ? 'left' : 'right'} going up, about ${Math.abs(Math.round(leanMeanDeg))}° (8 in 10: ${Math.round(leanFromDeg)} to ${Math.round(leanToDeg)}°).`
        : `They do not tell yet which way the grain leans (8 in 10: ${Math.round(-leanFromDeg)}° right to ${Math.round(leanToDeg)}° left).`;
    const size =
      sizeFactor > 1.15
        ? ' Its stain reaches farther than most.'
        : sizeFactor < 0.87
          ? ' Its stain stays shorter than most.'
          : '';
    return `Shavings of ${holes_} were looked at. ${lean}${size}`;
  });

  const instruction = $derived(
    spot && placing ? instructionFor(placing, tree.trunkFeatures, spot, bush.asPlanned) : null
  );
  const words = $derived(instruction && instructionWords(instruction, preferences.units));

  const inTheWay = $derived.by(() => {
    if (!outlook || !placing) return [];
    return outlook.inTheWay
      .filter((w) => w.share >= 0.02)
      .slice(0, 3)
      .map((w) => ({
        name: placing.holes[w.hole] ? `the hole of ${placing.holes[w.hole]!.season}` : 'an old scar of unknown year',
        share: w.share
      }));
  });

  async function drilled(): Promise<void> {
    if (!spot || !outlook || !answered) return;
    const hole = await bush.record(treeId, {
      kind: 'taphole',
      season: bush.season,
      bearingDeg: (Math.round(spot.bearingDeg * 10) / 10) % 360,
      heightMm: Math.round(spot.heightMm),
      bitMm: settings.bitMm,
      depthMm: settings.depthMm,
      predictedClear: outlook.pClear,
      // Whoever asks for another spot places it by eye, whatever the bush goes by.
      strategy: asked === null ? settings.strategy : null
    });
    asked = null;
    chosen = 0;
    toast.success(`Tree ${row.tag}: hole written down. What did the shavings look like?`, {
      action: { label: 'Undo', onClick: () => void bush.withdraw(hole) }
    });
  }

  const SEEN: readonly [Shavings['seen'], string, string][] = [
    ['pale', 'Pale cream', 'clear wood'],
    ['partly', 'Partly brown', 'met old wood'],
    ['brown', 'All brown', 'in old wood'],
    ['dry', 'Dry on a flow day', 'no sap']
  ];
  async function logShavings(hole: Taphole, seen: Shavings['seen']): Promise<void> {
    const known = tree.shavings.get(hole.id);
    if (known?.seen === seen) return;
    await bush.record(treeId, {
      kind: 'shavings',
      tapholeId: hole.id,
      seen,
      brownShare: seen === 'partly' ? 0.5 : null,
      brownFromMm: null,
      ...(known ? { correctsId: known.id } : {})
    });
    toast.success('Shavings written down.');
  }
  async function refine(hole: Taphole, change: Pick<Partial<Shavings>, 'brownShare' | 'brownFromMm'>): Promise<void> {
    const known = tree.shavings.get(hole.id);
    if (!known) return;
    const { brownShare, brownFromMm } = { ...known, ...change };
    await bush.record(treeId, {
      kind: 'shavings',
      tapholeId: hole.id,
      seen: 'partly',
      brownShare,
      brownFromMm,
      correctsId: known.id
    });
  }
  /** Depths at which shavings may have turned, in steps that a hand can tell apart. */
  const depths = $derived(
    Array.from({ length: Math.floor(settings.depthMm / 6.35) }, (_, i) => Math.round((i + 1) * 6.35 * 10) / 10)
  );
</script>

{#if knownMaple(row) === false}
  <p class="max-w-prose">
    This is not a maple: nothing is placed here. <a class="link" href="/bush/{bush.id}/identify/{treeId}"
      >Look at it again</a
    > if you doubt that.
  </p>
{:else if !placing}
  <p class="max-w-prose">
    Where a hole finds clear wood depends on how thick the trunk is. <a
      class="link"
      href="/bush/{bush.id}/measure/{treeId}">Measure this tree first</a
    >.
  </p>
{:else}
  <div
    class="grid gap-x-8 gap-y-5 max-lg:flex max-lg:flex-col lg:grid-cols-[max-content_minmax(20rem,30rem)]"
    bind:clientWidth={width}
  >
    <section aria-label="Trunk" class="min-w-0 max-lg:order-2">
      <BarkSheet
        task={placing.task}
        holes={placing.holes}
        features={tree.trunkFeatures}
        map={live.placement?.map ?? null}
        {proposals}
        ghosts={plan.filter(({ season }) => season > 0 && season <= coming)}
        season={bush.season}
        snowMm={settings.snowMm}
        paintOf={(season) => bush.paintOf(season)}
        paintPlace={settings.paintPlace}
        {spot}
        room={width < SIDE_BY_SIDE ? width : width - PANEL}
        {zoom}
        onask={(next) => (asked = next)}
        onzoom={zoomBy}
      />
      <div class="aside mt-1.5 flex max-w-xl flex-wrap items-center gap-x-5 gap-y-1">
        <span class="flex items-center gap-1.5">
          <Term of="stained">stained</Term>
          <span
            class="inline-block h-3 w-24 border border-current/50"
            style="background: linear-gradient(to right, var(--wood-stained), var(--wood-clear))"
          ></span> clear
        </span>
        <span class="flex items-center gap-1" role="group" aria-label="Zoom">
          <button
            class="btn h-7 min-h-7 px-2 btn-sm"
            aria-label="Smaller"
            disabled={zoom <= 1}
            onclick={() => zoomBy(-1)}>−</button
          >
          <button class="btn h-7 min-h-7 px-2 btn-sm" aria-label="Larger" disabled={zoom >= 4} onclick={() => zoomBy(1)}
            >+</button
          >
        </span>
        {#if plan.length > 0}
          <label class="flex items-center gap-2"
            >Coming seasons
            <input
              type="range"
              class="range w-28 range-xs"
              min="0"
              max="24"
              bind:value={coming}
              aria-valuetext={coming === 0 ? 'none shown' : `to ${bush.season + coming}`}
            />
            <span class="w-14 tabular-nums">{coming === 0 ? 'none' : `to ${bush.season + coming}`}</span></label
          >
        {/if}
        <span role="status"
          >{#if live.stage === 'working' || live.stage === 'coarse'}Planning the seasons …{:else if live.stage === 'failed'}The
            computation failed; reload the page.{/if}</span
        >
        <span>The trunk unrolled, seen from outside. Dashed: band within reach, and old columns.</span>
      </div>
      {#if answer && spot}
        <div class="mt-4 flex flex-wrap items-start gap-x-8 gap-y-4" data-testid="sections">
          <CrossSection
            paintOf={(season) => bush.paintOf(season)}
            task={placing.task}
            holes={placing.holes}
            cut={answer.cut}
            {spot}
            season={bush.season}
          />
          <Lengthwise task={placing.task} cut={answer.lengthwise} along={answer.along} {spot} />
        </div>
      {/if}
      {#if plan.length > 0}
        <details class="mt-3">
          <summary class="cursor-pointer">The coming seasons as a list ({plan.length} holes)</summary>
          <p class="aside mt-1 max-w-xl">
            Planned together, so that the later ones keep clear wood; planned anew whenever growth, a rest or the
            shavings change what is known.
          </p>
          <table class="mt-1 text-left" data-testid="rotation">
            <thead
              ><tr
                ><th class="pr-6">Season</th><th class="pr-6">Side</th><th class="pr-6">Height</th><th>Expected loss</th
                ></tr
              ></thead
            >
            <tbody>
              {#each plan as hole, i (i)}
                <tr>
                  <td
                    >{[bush.season + hole.season, bush.paintOf(bush.season + hole.season)]
                      .filter(Boolean)
                      .join(', ')}</td
                  >
                  <td>{compassPoint(hole.bearingDeg)} {Math.round(hole.bearingDeg)}°</td>
                  <td>{preferences.length(hole.heightMm, 'hand')}</td>
                  <td>{hole.lost < 0.005 ? 'none' : `${Math.round(100 * hole.lost)} %`}</td>
                </tr>
              {/each}
            </tbody>
          </table>
        </details>
      {/if}
      <details class="mt-2">
        <summary class="cursor-pointer">On this trunk ({tree.trunkFeatures.length + tree.scars.length} noted)</summary>
        <div class="mt-2"><TrunkNotes {treeId} {tree} {spot} /></div>
      </details>
      <details class="mt-2">
        <summary class="cursor-pointer">Old holes as a table ({placing.holes.length})</summary>
        <table class="mt-1 text-left">
          <thead
            ><tr
              ><th class="pr-6">Season</th><th class="pr-6">Side</th><th class="pr-6">Height</th><th class="pr-6"
                >Wood grown over it</th
              ><th>Shavings</th></tr
            ></thead
          >
          <tbody>
            {#each [...placing.holes].reverse() as hole (hole.id)}
              <tr>
                <td>{[hole.season, bush.paintOf(hole.season)].filter(Boolean).join(', ')}</td>
                <td>{compassPoint(hole.bearingDeg)} {Math.round(hole.bearingDeg)}°</td>
                <td>{preferences.length(hole.heightMm, 'hand')}</td>
                <td>{preferences.length(placing.task.trunk.holes[placing.holes.indexOf(hole)]!.buriedMm, 'ring')}</td>
                <td>{tree.shavings.get(hole.id)?.seen ?? ''}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </details>
    </section>

    <section aria-label="Where to drill" class="flex flex-col gap-4">
      {#if forbidden !== null}<p class="caution" data-testid="forbidden">
          {forbiddenWords(forbidden)}
          {#if knownMaple(row) === null}<a class="link" href="/bush/{bush.id}/identify/{treeId}">Look at it again</a
            >{/if}
        </p>{/if}
      {#if fewer !== null && forbidden === null}<p class="caution" data-testid="fewer">
          {conditionWords(fewer.reason)} That was seen after the count was decided:
          <a class="link" href="/bush/{bush.id}/count/{treeId}">decide it anew</a> before you drill.
        </p>{/if}
      <p hidden={waits}>
        {#if left === null}<a class="link" href="/bush/{bush.id}/count/{treeId}">No count decided yet</a> for {bush.season};
          these are clear places.
        {:else if left > 0}<b>{left} of {tree.decision!.taps}</b>
          {tree.decision!.taps === 1 ? 'hole' : 'holes'} still to drill this season.
        {:else if tree.decision!.taps === 0}This tree rests in {bush.season}.
        {:else}All {tree.decision!.taps === 1 ? '' : tree.decision!.taps} drilled for {bush.season}.{/if}
      </p>
      <div class="flex gap-2" role="group" aria-label="Best holes">
        {#each proposals as proposal, i (i)}
          <button
            class="min-h-11 grow border-2 px-2 {asked === null && chosen === i
              ? 'border-primary bg-primary/15'
              : 'border-base-300'}"
            aria-pressed={asked === null && chosen === i}
            onclick={() => pick(i)}
          >
            <b class="text-lg">{i + 1}</b>{#if proposal.planned}<span class="ml-1.5 text-sm font-semibold">planned</span
              >{/if}<span class="aside block leading-tight"
              >{compassPoint(proposal.bearingDeg)}, {preferences.length(proposal.heightMm, 'hand')}</span
            >
          </button>
        {/each}
      </div>
      {#if live.stage === 'full' && proposals.length === 0 && !waits}
        <p>
          {strategy.id === 'rotation'
            ? `There is no room left on this trunk that keeps ${preferences.length(settings.spacingMm, 'hand')} from this season’s holes.`
            : `“${strategy.name}” leaves no place on this trunk. Any spot on the sheet can still be asked and drilled.`}
        </p>
      {/if}
      {#if spot && words}
        <div>
          <p class="font-slab text-[1.45rem] leading-snug font-semibold" data-testid="words">{words.sentence}</p>
          {#if 'speechSynthesis' in window}<button class="btn float-right btn-ghost btn-sm" onclick={readAloud}
              ><Volume2 size={16} /> Read aloud</button
            >{/if}
          <p class="mt-1">
            {capital(words.bodyHeight)}{instruction?.from ? `, ${words.compass}` : ''}.
          </p>
          {#if words.highBare && settings.dropMm === null}<HighHole heightMm={spot.heightMm} />{/if}
        </div>
        {#if outlook}
          {#if !asked && proposals[chosen]?.planned}<p class="aside -mt-3">
              Planned together with the coming seasons, so that they keep clear wood too.
            </p>{/if}
          <dl class="grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5" data-testid="outlook">
            <dt><Term of="likely">Clear wood</Term></dt>
            <dd><b>{chanceInWords(outlook.pClear)}</b>{outlook.pClear < CLEAR_ENOUGH ? ', not clear enough' : ''}</dd>
            <dt>Expected flow</dt>
            <dd>{Math.round(outlook.flow * 100)} % of a hole in clear wood</dd>
            <dt>Clear for</dt>
            <dd>
              {preferences.length(outlook.clearDepthMm, 'drill')} of {preferences.length(settings.depthMm, 'drill')}
            </dd>
            <dt>In the way</dt>
            <dd>
              {#each inTheWay as way, i (way.name + '-' + i)}{i > 0 ? '; ' : ''}{way.name}, {chanceInWords(
                  way.share
                )}{:else}nothing{/each}
            </dd>
            {#if answer && answer.objections.length > 0}
              <dt>Against it</dt>
              <dd class="font-semibold text-error" data-testid="against">
                {answer.objections.map(objectionWords).join('; ')}
              </dd>
            {/if}
            <dt>Tape on the bit</dt>
            <dd>
              at {preferences.length(settings.depthMm + barkThickness(tree.dbhMm!), 'drill')}: {preferences.length(
                settings.depthMm,
                'drill'
              )} of wood, {preferences.length(barkThickness(tree.dbhMm!), 'drill')} of bark; {preferences.length(
                settings.bitMm,
                'bit'
              )} bit
            </dd>
          </dl>
        {/if}
        {#if bush.mayRecord}
          <button class="btn btn-primary max-md:h-14 max-md:text-lg" onclick={drilled} disabled={!outlook || !answered}
            >Drilled here</button
          >
        {/if}
      {/if}

      {#each tree.holesThisSeason as hole, i (hole.id)}
        {@const seen = tree.shavings.get(hole.id)}
        <div class="border-t border-base-300 pt-3" data-testid="drilled">
          <h2>Hole {i + 1} of this season: the shavings?</h2>
          <div class="mt-1.5 grid grid-cols-2 gap-2">
            {#each SEEN as [kind, label, meaning] (kind)}
              <button
                class="min-h-12 border-2 px-2 text-left leading-tight {seen?.seen === kind
                  ? 'border-primary bg-primary/15'
                  : 'border-base-300'}"
                aria-pressed={seen?.seen === kind}
                disabled={!bush.mayRecord}
                onclick={() => logShavings(hole, kind)}
              >
                <b>{label}</b><span class="aside block">{meaning}</span>
              </button>
            {/each}
          </div>
          {#if seen?.seen === 'partly'}
            <label class="mt-2 flex items-center gap-3"
              >Brown share
              <select
                class="select w-auto select-sm"
                value={String(seen.brownShare)}
                onchange={(e) => refine(hole, { brownShare: Number(e.currentTarget.value) })}
              >
                {#each [0.1, 0.25, 0.5, 0.75, 0.9] as share (share)}<option value={String(share)}
                    >{Math.round(share * 100)} %</option
                  >{/each}
              </select>
            </label>
            <label class="mt-2 flex items-center gap-3"
              >Brown from
              <select
                class="select w-auto select-sm"
                value={seen.brownFromMm === null ? '' : String(seen.brownFromMm)}
                onchange={(e) =>
                  refine(hole, { brownFromMm: e.currentTarget.value === '' ? null : Number(e.currentTarget.value) })}
              >
                <option value="">not looked</option>
                {#each depths as mm (mm)}<option value={String(mm)}>{preferences.length(mm, 'drill')} in</option>{/each}
              </select>
            </label>
          {/if}
          <button class="aside mt-1.5 link" onclick={() => bush.withdraw(hole)} disabled={!bush.mayRecord}
            >Take this hole back</button
          >
        </div>
      {/each}
      {#if taught}
        <div class="border-t border-base-300 pt-3">
          <h2>What the shavings taught</h2>
          <p data-testid="taught">{taught}</p>
        </div>
      {/if}
      <p class="aside">
        Placed by “{strategy.name}”: {strategy.says}
        <a class="link" href="/bush/{bush.id}/place/habits?tree={treeId}">All ways, lived through on this tree</a>
      </p>
      <p class="caution">
        Both hands on the drill, firm footing, goggles. In and out in one go, slightly upward so that it drains. Clean
        the bit after brown wood.
      </p>
    </section>
  </div>
{/if}
