<script lang="ts">
  import type { BarkSpot } from '@baumkin/core/geometry';
  import { compassPoint } from '@baumkin/core/math';
  import { drillForbidden, fewerSinceDecided, knownMaple, tapsToHang, otherSapOfTree } from '@baumkin/core/records';
  import type { SpotAnswer } from '@baumkin/core/rotation';
  import {
    guidelineAt,
    holeAt,
    instructionFor,
    isDrillingTime,
    placementOf,
    tooThinToTap,
    type TreePlacement
  } from '@baumkin/core/bush';
  import Volume2 from '@lucide/svelte/icons/volume-2';

  import EmptyState from '$lib/ui/EmptyState.svelte';
  import OtherSapNot from '$lib/season/OtherSapNot.svelte';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { conditionWords, suggestionWords } from '$lib/labels/taps.ts';
  import { forbiddenWords } from '$lib/labels/permission.ts';
  import { STRATEGY_LABELS, instructionWords, shallowWords, taughtWords } from '$lib/labels/placement.ts';
  import { rotationWords } from '$lib/labels/rotation.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { capital } from '$lib/words/capital.ts';
  import Term from '$lib/ui/Term.svelte';

  import BarkSheet from './BarkSheet.svelte';
  import CrossSection from './CrossSection.svelte';
  import HangsOn from './HangsOn.svelte';
  import HighHole from './HighHole.svelte';
  import HoleDoubt from './HoleDoubt.svelte';
  import HoleOutlook from './HoleOutlook.svelte';
  import Lengthwise from './Lengthwise.svelte';
  import { lastAsked } from '$lib/workers/lastAsked.ts';

  import { drilledHole } from './drilling.ts';
  import { keepRotation } from './keepRotation.ts';
  import { LivePlacement } from './placement.svelte.ts';
  import OldHoles from './OldHoles.svelte';
  import PlannedHoles from './PlannedHoles.svelte';
  import TappedBefore from './TappedBefore.svelte';
  import SawnFaces from './SawnFaces.svelte';
  import ShavingsForm from './ShavingsForm.svelte';
  import TrunkNotes from './TrunkNotes.svelte';
  import { placeWorker } from './worker.ts';

  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const row = $derived(bush.byId.get(treeId)!);
  const tree = $derived(bush.stateOf(treeId));
  const settings = $derived(bush.overview!.bush.settings);
  /** a birch or walnut */
  const other = $derived(otherSapOfTree(row));
  const placing = $derived(
    placementOf(tree, { treeId, settings: bush.settingsAt(treeId), season: bush.season, wanted: 3 })
  );
  const live = new LivePlacement(
    () => placing,
    () => ({ bushId: bush.id, key: `place/${treeId}` }),
    // What is named to somebody who came to drill is what everybody is named from now on.
    (of, full) => !waits && (tree.decision?.taps ?? 0) > 0 && keepRotation(bush, treeId, of, full)
  );

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
  const tooThin = $derived(tooThinToTap(tree, settings));
  /** Nothing is drilled here before somebody decides anew. */
  const waits = $derived(forbidden !== null || tooThin || (fewer !== null && left === 0));
  let asked = $state.raw<BarkSpot | null>(null);
  /** what is said of a spot, and of which holes: the tree may have others by now */
  let answer = $state.raw<(SpotAnswer & { readonly spot: BarkSpot; readonly placing: TreePlacement }) | null>(null);
  let chosen = $state(0);
  /** Scars are being pointed at on the sheet. */
  let pointing = $state(false);
  let zoom = $state(1);
  let coming = $state(0);
  const zoomBy = (by: 1 | -1) => (zoom = Math.min(4, Math.max(1, zoom * (by > 0 ? 1.5 : 1 / 1.5))));

  // Where nothing is to be drilled no hole is named; a spot that somebody asks for is still answered and written down.
  const proposals = $derived(waits || left === 0 ? [] : (live.placement?.proposals ?? []));
  const spot = $derived<BarkSpot | null>(asked ?? proposals[chosen] ?? null);
  const outlook = $derived(asked ? (answer?.outlook ?? null) : (proposals[chosen]?.outlook ?? null));
  const outlookOf = $derived(asked ? (answer?.placing ?? null) : live.answers);
  /** Does what is shown answer the spot that is shown, or one that was asked a moment ago? */
  const answered = $derived(asked === null || (answer?.spot === asked && answer.placing === placing));
  /** Seasons of the plan that are shown: those behind them are there so that these have something to come after them. */
  const SEASONS_SHOWN = 25;
  /** The list of the plan stays open while a new plan is made. */
  let listOpen = $state(false);
  const plan = $derived(
    waits ? [] : (live.placement?.rotation?.plan ?? []).filter(({ season }) => season < SEASONS_SHOWN)
  );
  const strategy = $derived({ id: settings.strategy, ...STRATEGY_LABELS[settings.strategy] });

  // Whatever spot stands on the sheet is asked for its sections.
  const askOf = lastAsked(
    ({ placing: { task }, spot: { bearingDeg, heightMm } }: { placing: TreePlacement; spot: BarkSpot }) =>
      placeWorker().ask(task, { bearingDeg, heightMm }),
    (question, found) => (answer = { ...found, ...question })
  );
  $effect(() => {
    if (spot && placing) askOf({ placing, spot });
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

  /** How deep it is drilled: as the bush does until the wood of this tree is known. */
  const depthMm = $derived(live.placement?.depthMm ?? settings.depthMm);
  const asDrilled = (of: TreePlacement) => ({ ...of.task, practice: { ...of.task.practice, depthMm } });
  const taught = $derived(live.stage === 'full' ? taughtWords(live.placement?.learned) : null);

  const instruction = $derived(
    spot && placing ? instructionFor(placing, tree.trunkFeatures, spot, bush.asPlanned) : null
  );
  const words = $derived(instruction && instructionWords(instruction, preferences.units, preferences.body));

  /** Is a hole that is about to be written down doubted: there already, or beyond the count? */
  let doubting = $state(false);
  const same = $derived(spot && placing ? holeAt(spot, tree.holesThisSeason, placing.task.trunk.barkRadiusMm) : null);
  /** Why none is left to be drilled: whoever drilled one all the same writes it down. */
  const noneLeft = $derived.by(() => {
    const taps = tree.decision?.taps ?? 0;
    if (forbidden !== null) return forbiddenWords(forbidden);
    if (taps === 0) return `It was decided that this tree rests in ${bush.season}.`;
    if (tree.holesThisSeason.length >= taps)
      return `This tree was decided for ${counted(taps, 'hole')}, and as many are written down.`;
    return `${fewer ? conditionWords(fewer.reason) : ''} It bears no further hole now.`.trim();
  });
  const press = () => (same || left === 0 || forbidden !== null ? (doubting = true) : void drilled());

  async function drilled(): Promise<void> {
    if (!spot || !outlook || !answered) return;
    const asNamed = asked === null;
    const draft = drilledHole(bush, spot, { depthMm, predictedClear: outlook.pClear, asNamed });
    const hole = await bush.record(treeId, draft);
    asked = null;
    chosen = 0;
    saved(bush, `Tree ${row.tag}: hole written down. What did the shavings look like?`, hole);
  }
</script>

{#if other !== null && !settings.alsoTaps.includes(other)}
  <OtherSapNot kind={other} />
{:else if knownMaple(row) === false && other === null}
  <EmptyState>
    This is not a maple: nothing is placed here. <a class="link" href="/bush/{bush.id}/identify/{treeId}"
      >Look at it again</a
    > if you doubt that.
  </EmptyState>
{:else if row.cut}
  <SawnFaces {treeId} />
{:else if !placing}
  <EmptyState>
    Where a hole finds clear wood depends on how thick the trunk is. <a
      class="link"
      href="/bush/{bush.id}/measure/{treeId}">Measure this tree first</a
    >.
  </EmptyState>
{:else}
  <div
    class="grid gap-x-8 gap-y-5 max-lg:flex max-lg:flex-col lg:grid-cols-[max-content_minmax(20rem,30rem)]"
    bind:clientWidth={width}
  >
    <section aria-label="Trunk" class="min-w-0 {pointing ? '' : 'max-lg:order-2'}">
      <BarkSheet
        task={asDrilled(placing)}
        holes={placing.holes}
        features={tree.trunkFeatures}
        scars={placing.scars}
        map={live.placement?.map ?? null}
        proposals={pointing ? [] : proposals}
        ghosts={plan.filter(({ season }) => season > 0 && season <= coming)}
        season={bush.season}
        snowMm={settings.snowMm}
        paintOf={(season) => bush.paintOf(season)}
        paintPlace={settings.paintPlace}
        spot={pointing ? asked : spot}
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
            task={asDrilled(answer.placing)}
            holes={answer.placing.holes}
            cut={answer.cut}
            {spot}
            season={bush.season}
          />
          <Lengthwise task={asDrilled(answer.placing)} cut={answer.lengthwise} along={answer.along} {spot} />
        </div>
      {/if}
      <HangsOn {treeId} {tree} />
      {#if plan.length > 0}<PlannedHoles {plan} bind:open={listOpen} />{/if}
      <details class="mt-2">
        <summary class="cursor-pointer">On this trunk ({tree.trunkFeatures.length + tree.scars.length} noted)</summary>
        <div class="mt-2"><TrunkNotes {treeId} {tree} {spot} /></div>
      </details>
      <OldHoles {placing} shavings={tree.shavings} />
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
      {#if tooThin && forbidden === null}<p class="caution" data-testid="too-thin">
          {suggestionWords({ why: 'tooThin', guideline: guidelineAt(row.species, settings) }, null)} No hole is named; any
          spot on the sheet can still be asked.
          <a class="link" href="/bush/{bush.id}/count/{treeId}">What it can bear</a>
        </p>{/if}
      {#if !waits && other === null}
        <TappedBefore {treeId} {tree} spot={asked} bind:pointing onnoted={() => (asked = null)} />
      {/if}
      {#if left === null && !waits}<p class="caution" data-testid="uncounted">
          Nobody has decided how many holes it bears in {bush.season}:
          <a class="link" href="/bush/{bush.id}/count/{treeId}">count first</a>. These are clear places.
        </p>{/if}
      <p hidden={waits || pointing || left === null}>
        {#if left !== null && left > 0}<b>{left} of {tree.decision!.taps}</b>
          {tree.decision!.taps === 1 ? 'hole' : 'holes'} still to drill this season.
        {:else if tree.decision?.taps === 0}This tree rests in {bush.season}.
        {:else}<b>All {tree.decision?.taps === 1 ? '' : tree.decision?.taps} drilled for {bush.season}.</b> A spot on the
          sheet can still be asked.{/if}
      </p>
      {#if left !== null && left > 0 && !waits && other === null && isDrillingTime(bush.today)}
        {#await import('$lib/season/StillBrings.svelte') then { default: StillBrings }}<StillBrings {treeId} />{/await}
      {/if}
      {#if !pointing}<div class="flex gap-2" role="group" aria-label="Best holes">
          {#each proposals as proposal, i (i)}
            <button
              class="min-h-11 grow border-2 px-2 {asked === null && chosen === i
                ? 'border-primary bg-primary/15'
                : 'border-base-300'}"
              aria-pressed={asked === null && chosen === i}
              onclick={() => pick(i)}
            >
              <b class="text-lg">{i + 1}</b>{#if proposal.planned}<span class="ml-1.5 text-sm font-semibold"
                  >planned</span
                >{/if}<span class="aside block leading-tight"
                >{compassPoint(proposal.bearingDeg)}, {preferences.length(proposal.heightMm, 'hand')}</span
              >
            </button>
          {/each}
        </div>{/if}
      {#if live.stage === 'full' && proposals.length === 0 && !waits && left !== 0}
        <p>
          {strategy.id === 'rotation'
            ? `There is no room left on this trunk that keeps ${preferences.length(settings.spacingMm, 'hand')} from this season’s holes.`
            : `“${strategy.name}” leaves no place on this trunk. Any spot on the sheet can still be asked and drilled.`}
        </p>
      {/if}
      {#if spot && words && !pointing}
        <div>
          <p class="font-slab text-[1.45rem] leading-snug font-semibold" data-testid="words">{words.sentence}</p>
          {#if 'speechSynthesis' in window}<button class="btn float-right btn-ghost btn-sm" onclick={readAloud}
              ><Volume2 size={16} /> Read aloud</button
            >{/if}
          <p class="mt-1">
            {capital(words.bodyHeight)}{instruction?.from ? `, ${words.compass}` : ''}.
          </p>
          {#if words.highBare && bush.hangsBuckets(treeId)}<HighHole heightMm={spot.heightMm} />{/if}
        </div>
        {#if outlook && outlookOf}
          {#if !asked && proposals[chosen]?.planned}
            <p class="-mt-3 {tree.rotation?.verdict === 'changed' ? '' : 'aside'}">
              Planned together with the coming seasons, so that they keep clear wood too.
              {#if tree.rotation?.season === bush.season}<span data-testid="plan-said"
                  >{rotationWords(tree.rotation, tree.rotation.earlier.coming ?? null)}</span
                >{/if}
            </p>
          {/if}
          <HoleOutlook
            {outlook}
            placing={outlookOf}
            objections={answer?.objections ?? []}
            dbhMm={tree.dbhMm!}
            {depthMm}
          />
          {#if depthMm < settings.depthMm}<p class="caution" data-testid="shallow">
              {preferences.length(depthMm, 'drill')} of wood and no deeper. {shallowWords(tree)}
            </p>{/if}
        {/if}
        {#if bush.mayRecord}
          <button class="btn btn-primary max-md:h-14 max-md:text-lg" onclick={press} disabled={!outlook || !answered}
            >Drilled here</button
          >
        {/if}
      {/if}

      {#each tree.holesThisSeason as hole, i (hole.id)}
        <ShavingsForm {hole} number={i + 1} seen={tree.shavings.get(hole.id) ?? null} />
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
  <HoleDoubt bind:open={doubting} {same} left={noneLeft} onwrite={drilled} />
{/if}
