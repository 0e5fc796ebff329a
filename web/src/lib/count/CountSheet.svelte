<script lang="ts">
  import {
    conditionOf,
    isSugarbush,
    fewerSinceDecided,
    knownMaple,
    tapForbidden,
    otherSapOfTree
  } from '@baumkin/core/records';
  import { CLEAR_ENOUGH } from '@baumkin/core/rotation';
  import { conditionCap, lookIsOld, vigourClass } from '@baumkin/core/taps';
  import { guidelineAt, placementOf, suggestionFor } from '@baumkin/core/bush';
  import { untrack } from 'svelte';

  import EmptyState from '$lib/ui/EmptyState.svelte';
  import OtherSapIs from '$lib/season/OtherSapIs.svelte';
  import OtherSapNot from '$lib/season/OtherSapNot.svelte';
  import { FEW_TREES } from '$lib/begin/few.ts';
  import { saved } from '$lib/client/saved.ts';
  import {
    carriedWords,
    CHANGE_WORDS,
    conditionWords,
    DEFECT_WORDS,
    GUIDELINE_LABELS,
    guidelineRule,
    HAZARD_WORDS,
    suggestedWords,
    suggestionWords,
    tapWords,
    WILDLIFE_WORDS
  } from '$lib/labels/taps.ts';
  import { forbiddenWords } from '$lib/labels/permission.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { LivePlacement } from '$lib/place/placement.svelte.ts';

  import { PURPOSE_WORDS } from '$lib/labels/stand.ts';
  import Told from '$lib/ui/Told.svelte';

  import { capital } from '$lib/words/capital.ts';

  import BalancePanel from './BalancePanel.svelte';
  import BanForm from './BanForm.svelte';
  import ConditionForm from './ConditionForm.svelte';
  import GuidelinePicture from './GuidelinePicture.svelte';
  import PriceOfHole from './PriceOfHole.svelte';

  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const row = $derived(bush.byId.get(treeId)!);
  const tree = $derived(bush.stateOf(treeId));
  const stand = $derived(bush.standOf(row));
  const settings = $derived(bush.overview!.bush.settings);
  // Room for taps is computed only in stands that are tapped.
  const placing = $derived(
    isSugarbush(stand)
      ? placementOf(tree, { treeId, settings: bush.settingsAt(treeId), season: bush.season, wanted: 4 })
      : null
  );
  // Counting clear places needs no plan of the coming seasons.
  const live = new LivePlacement(
    () => placing && { ...placing, task: { ...placing.task, taps: 0 } },
    () => ({ bushId: bush.id, key: `count/${treeId}` })
  );

  /** clear places that keep their distance; null while they are being worked out */
  const room = $derived(
    live.stage === 'full' && live.placement
      ? tree.holesThisSeason.length + live.placement.proposals.filter((p) => p.outlook.pClear >= CLEAR_ENOUGH).length
      : null
  );
  const guideline = $derived(guidelineAt(row.species, settings));
  /** Who has a few trees is asked for a look first; the schools and the growth balance stay folded until she wants them. */
  const few = $derived(bush.rows.length <= FEW_TREES);
  /** a birch or walnut */
  const other = $derived(otherSapOfTree(row));
  const forbidden = $derived(tapForbidden(row, stand, bush.today));
  const suggestion = $derived(
    row.dbhMm === null ? null : suggestionFor(row, { settings, season: bush.season, today: bush.today, stand }, room)
  );
  /** The plan that one hole more is held against; null where none is suggested at all. */
  const pricing = $derived(
    placing &&
      other === null &&
      suggestion &&
      suggestion.taps > 0 &&
      forbidden === null &&
      settings.strategy === 'rotation'
      ? { ...placing.task, taps: tree.decision?.taps || suggestion.taps }
      : null
  );

  /** A ladder of the bush's own may go higher. */
  const choices = $derived(
    Math.max(suggestion?.taps ?? 0, tree.decision?.taps ?? 0, ...guideline.steps.map((step) => step.taps)) > 4
      ? [0, 1, 2, 3, 4, 5, 6, 7, 8]
      : [0, 1, 2, 3, 4]
  );
  /** A later look may have left the crown alone. */
  const crownSeenOn = $derived(tree.assessment?.earlier.diebackPct ?? tree.assessment?.on ?? '');
  let lookingUp = $state(untrack(() => tree.assessment === null));

  let reason = $state('');
  let choice = $state<number | null>(null);

  async function decide(taps: number): Promise<void> {
    if (!suggestion) return;
    if (taps > suggestion.taps && reason.trim() === '') {
      choice = taps;
      return;
    }
    const record = await bush.record(treeId, {
      kind: 'decision',
      season: bush.season,
      taps,
      suggested: suggestion.taps,
      binding: suggestion.binding,
      reason: taps > suggestion.taps ? reason.trim() : ''
    });
    choice = null;
    reason = '';
    saved(bush, `Tree ${row.tag}: ${tapWords(taps)} in ${bush.season}.`, record);
  }
</script>

{#snippet sizeAndGrowth()}
  {#if suggestion}
    <section aria-labelledby="ladders">
      {#if other === null}
        <h2 id="ladders" class="mb-1">By size: the schools disagree</h2>
        <GuidelinePicture chosen={guideline} dbhMm={tree.dbhMm} />
        <p class="aside mt-1">
          This bush goes by {GUIDELINE_LABELS[guideline.id].name.toLowerCase()}: {guidelineRule(
            guideline,
            preferences.units
          )}. A ladder knows the size of a tree, not whether it grows.
          <a class="link" href="/bush/{bush.id}/count/habits">Habits</a>
        </p>
      {:else}
        <h2 id="ladders" class="mb-1">By size</h2>
        <p>
          A {other}: {guidelineRule(guideline, preferences.units)}, and no more ({GUIDELINE_LABELS[guideline.id]
            .provenance}). The ladders of maples do not hold for it. What a hole stains is reckoned as in a maple, for
          nobody measured it here{other === 'birch' ? '; a birch is said to stain more, and to rot sooner' : ''}.
        </p>
      {/if}
    </section>

    <section aria-labelledby="balance">
      <h2 id="balance" class="mb-1">By growth: does new wood keep up?</h2>
      <BalancePanel
        species={row.species}
        dbhMm={tree.dbhMm!}
        ringMm={tree.growth.ringMm}
        ringSeMm={tree.growth.ringSeMm}
        measured={tree.growth.observed !== null}
      />
    </section>
  {/if}
{/snippet}
{#snippet price()}
  {#if pricing}<section aria-labelledby="price" class="max-w-2xl"><PriceOfHole task={pricing} /></section>{/if}
{/snippet}
{#snippet condition()}
  <section aria-labelledby="condition" class="max-w-2xl">
    <h2 id="condition" class="mb-1">By condition: look up</h2>
    {#if tree.line.hollow}<p class="mb-2" data-testid="hollow">
        A core or its stump met a hollow {preferences.length(tree.line.hollow.fromMm, 'hand')} under the bark, on {tree
          .line.hollow.on}: a sign of decline, whatever its crown looks like.
      </p>{/if}
    {#if tree.assessment && !lookingUp}
      <p>
        {#if tree.assessment.diebackPct === null}Nobody looked up at its crown{:else}{tree.assessment.diebackPct} % dieback,
          {vigourClass(tree.assessment.diebackPct) === 'healthy'
            ? 'a healthy crown'
            : `${vigourClass(tree.assessment.diebackPct)} decline`}{/if}{tree.assessment.crownClass
          ? `, ${tree.assessment.crownClass}`
          : ''}, seen on {crownSeenOn}.
        {conditionWords(conditionCap(conditionOf(row), bush.today).reason)}
        {lookIsOld(crownSeenOn, bush.today) ? 'That was long ago: look again.' : ''}
      </p>
      {#if tree.assessment.defects.length > 0}<p>
          On the trunk: {tree.assessment.defects.map((d) => DEFECT_WORDS[d.kind]).join(', ')}; new holes keep away where
          its place is known.
        </p>{/if}
      {#if tree.assessment.wildlife.length > 0}<p>
          Lived in: {tree.assessment.wildlife.map((w) => WILDLIFE_WORDS[w]).join(', ')}. Keep it where it threatens
          nobody.
        </p>{/if}
      {#if tree.assessment.hazards.length > 0}<p class="caution">
          <Told of={capital(tree.assessment.hazards.map((h) => HAZARD_WORDS[h]).join(', '))} />: nobody works under it
          before somebody trained has looked. Local rules come first.
        </p>{/if}
      {#if bush.mayRecord}<button class="btn mt-2 btn-outline btn-sm" onclick={() => (lookingUp = true)}
          >Look up again</button
        >{/if}
    {:else if bush.mayRecord}
      <ConditionForm {treeId} ondone={() => (lookingUp = false)} />
    {:else}
      <p>Nobody has looked up at this crown yet.</p>
    {/if}
  </section>
{/snippet}

{#if other !== null && !settings.alsoTaps.includes(other)}
  <OtherSapNot kind={other} />
{:else if knownMaple(row) === false && other === null}
  <EmptyState>
    This is not a maple: it is left untapped. <a class="link" href="/bush/{bush.id}/identify/{treeId}"
      >Look at it again</a
    > if you doubt that.
  </EmptyState>
{:else if stand && !isSugarbush(stand)}
  <p class="max-w-prose" data-testid="not-tapped">
    {stand.name} is {PURPOSE_WORDS[stand.purpose]}: its trees are not tapped{stand.note ? `. ${stand.note}` : '.'} If this
    one is an exception, <a class="link" href="/bush/{bush.id}/measure/{treeId}">put it into another stand</a>, or into
    none.
  </p>
{:else if !suggestion}
  <EmptyState>
    How many taps it bears depends on how thick it is and how fast it grows. <a
      class="link"
      href="/bush/{bush.id}/measure/{treeId}">Measure this tree first</a
    >.
  </EmptyState>
{:else}
  <div class="grid gap-x-9 gap-y-6 lg:grid-cols-[23rem_1fr]">
    <section class="flex flex-col gap-4" aria-label="Suggestion and decision">
      {#if other !== null}<OtherSapIs kind={other} />{/if}
      <div class="border-l-[6px] border-primary pl-4" data-testid="suggestion">
        <p class="aside">Suggested for {bush.season}</p>
        <p class="font-slab text-4xl font-bold">
          {capital(suggestedWords(suggestion))}
        </p>
        <p class="mt-1.5 text-lg leading-snug">
          {suggestionWords(suggestion.reason, forbidden && forbiddenWords(forbidden))}
        </p>
        {#if suggestion.change}
          <p class="aside mt-1">
            {#if suggestion.change.kind === 'grow'}The next step comes at {preferences.length(
                suggestion.change.toDbhMm,
                'trunk'
              )}, in about {Math.max(
                1,
                Math.round((suggestion.change.toDbhMm - tree.dbhMm!) / (2 * tree.growth.ringMm))
              )} years {suggestion.growthMeasured
                ? 'at this growth'
                : 'if it grows as trees like it do'}.{:else}{CHANGE_WORDS[suggestion.change.kind]}{/if}
          </p>
        {/if}
        {#if knownMaple(row) === null}<p class="mt-1 font-semibold">
            Its species is not settled: identify it before drilling.
          </p>{/if}
      </div>

      <BanForm {treeId} />
      <dl class="grid grid-cols-[1fr_auto] gap-y-1">
        {#each [['Size allows', suggestion.limits.size, 'size'], ['Condition allows', suggestion.limits.condition, 'condition'], [suggestion.growthMeasured ? 'Growth surely carries' : 'Trees that grow like it carry', suggestion.limits.growth, 'growth'], ['Clear places now', suggestion.limits.room, 'room']] as const as [label, limit, id] (id)}
          {@const binds = suggestion.binding === id}
          <dt class={binds ? 'font-bold' : ''}>{label}{binds ? ', the limit that binds' : ''}</dt>
          <dd class="text-right {binds ? 'font-bold' : ''}">
            {limit === null
              ? 'looking …'
              : id === 'condition' && suggestion.conditionUnknown
                ? 'not looked at'
                : id === 'growth'
                  ? carriedWords(suggestion.balance)
                  : limit === Infinity
                    ? 'no limit'
                    : id === 'room' && limit >= 4
                      ? '4 or more'
                      : limit}
          </dd>
        {/each}
      </dl>

      {#if bush.mayDecide}
        <div>
          <h2 class="mb-1.5">{tree.decision ? `Decided: ${tapWords(tree.decision.taps)}` : 'Your decision'}</h2>
          {#if tree.decision?.reason}<p class="aside mb-1.5">Because: {tree.decision.reason}</p>{/if}
          {#if fewerSinceDecided(row, bush.today)}<p class="mb-1.5 font-semibold" data-testid="count-anew">
              It was seen worse since then: decide it anew.
            </p>{/if}
          <div
            class="grid {choices.length > 5 ? 'grid-cols-9' : 'grid-cols-5'}"
            role="group"
            aria-label="Taps this season"
          >
            {#each choices as taps (taps)}
              {@const on = (choice ?? tree.decision?.taps) === taps}
              <button
                class="min-h-12 border border-l-0 border-base-content text-lg first:border-l {on
                  ? 'bg-neutral font-bold text-neutral-content'
                  : taps === suggestion.taps
                    ? 'bg-primary font-bold text-primary-content'
                    : ''}"
                aria-pressed={on}
                onclick={() => decide(taps)}>{taps === 0 ? 'rest' : taps}</button
              >
            {/each}
          </div>
          {#if choice !== null && choice > suggestion.taps}
            <form
              class="mt-2 flex flex-col gap-2"
              onsubmit={(event) => {
                event.preventDefault();
                void decide(choice!);
              }}
            >
              <label class="flex flex-col gap-1">
                Why {tapWords(choice)}, not {tapWords(suggestion.taps)}? The reason is kept.
                <input class="input w-full" maxlength="500" bind:value={reason} data-testid="reason" />
              </label>
              <div class="flex gap-2">
                <button class="btn btn-primary btn-sm" disabled={reason.trim() === ''}>Decide</button>
                <button type="button" class="btn btn-ghost btn-sm" onclick={() => (choice = null)}>Cancel</button>
              </div>
            </form>
          {/if}
        </div>
      {/if}
    </section>

    <div class="flex min-w-0 flex-col gap-6">
      {#if few}
        {@render condition()}
        <details data-testid="in-full">
          <summary class="cursor-pointer text-lg">By size and by growth: how the number comes about</summary>
          <div class="mt-4 flex flex-col gap-6">{@render sizeAndGrowth()}{@render price()}</div>
        </details>
      {:else}
        {@render sizeAndGrowth()}
        {@render price()}
        {@render condition()}
      {/if}
    </div>
  </div>
{/if}
