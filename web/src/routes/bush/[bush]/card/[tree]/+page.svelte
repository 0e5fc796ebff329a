<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import { compassPoint } from '@baumkin/core/math';
  import { barkThickness } from '@baumkin/core/measure';
  import { drillForbidden, fewerSinceDecided, tapsToHang } from '@baumkin/core/records';
  import { instructionFor, placementOf } from '@baumkin/core/bush';
  import Printer from '@lucide/svelte/icons/printer';
  import { untrack } from 'svelte';

  import { page } from '$app/state';
  import { forbiddenWords } from '$lib/labels/permission.ts';
  import { instructionWords, SHAVINGS_SEEN, shallowWords } from '$lib/labels/placement.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import HighHole from '$lib/place/HighHole.svelte';
  import { chanceInWords } from '$lib/labels/chance.ts';
  import NotHereYet from '$lib/ui/NotHereYet.svelte';
  import { keepRotation } from '$lib/place/keepRotation.ts';
  import { LivePlacement } from '$lib/place/placement.svelte.ts';

  const bush = useBush();
  const treeId = $derived(page.params.tree!);
  const row = $derived(bush.byId.get(treeId) ?? null);
  $effect(() => {
    const [opened, id] = [bush, treeId];
    untrack(() => void opened.loadTree(id));
  });
  const tree = $derived(bush.stateOf(treeId));
  const settings = $derived(bush.overview?.bush.settings ?? null);
  const forbidden = $derived(row && drillForbidden(row, bush.standOf(row), bush.today));
  const drilled = $derived(tree.holesThisSeason.length);
  const fewer = $derived(row && fewerSinceDecided(row, bush.today));
  /** Holes still to drill: none where something forbids them, or nobody decided how many. */
  const wanted = $derived(row ? Math.max(0, tapsToHang(row, bush.standOf(row), bush.today) - drilled) : 0);
  const placing = $derived(
    settings && row && wanted > 0
      ? placementOf(tree, { treeId, settings: bush.settingsAt(treeId), season: bush.season, wanted })
      : null
  );
  const live = new LivePlacement(
    () => placing,
    () => ({ bushId: bush.id, key: `place/${treeId}` }),
    (of, full) => keepRotation(bush, treeId, of, full)
  );
  const depthMm = $derived(live.placement?.depthMm ?? settings?.depthMm ?? 0);
</script>

{#if row && !bush.hasLife(row.id)}
  <h1>Tree {row.tag}</h1>
  <NotHereYet />
{:else if row && settings}
  <div class="mb-4 flex gap-2 print:hidden">
    <button class="btn btn-primary btn-sm" onclick={() => window.print()}><Printer size={16} /> Print</button>
    <a class="btn btn-ghost btn-sm" href="/bush/{bush.id}/life/{treeId}">Back to its life</a>
  </div>
  <article class="max-w-xl border-2 border-current bg-white p-6 text-black" data-testid="card">
    <header class="flex items-baseline justify-between border-b-2 border-black pb-2">
      <h1 class="text-4xl">Tree {row.tag}</h1>
      <p class="text-right">
        {bush.overview!.bush.name}<br />{bush.standOf(row) ? `${bush.standOf(row)!.name}, ` : ''}season {bush.season}{bush.paintOf(
          bush.season
        )
          ? `, ${bush.paintOf(bush.season)} paint`
          : ''}
      </p>
    </header>
    <dl class="my-3 grid grid-cols-[auto_1fr] gap-x-5 gap-y-1 text-lg">
      <dt>Species</dt>
      <dd>
        {row.verdict === 'mapleOpen'
          ? 'a maple, species open'
          : row.species && row.verdict !== 'lookAgain'
            ? speciesById(row.species).name
            : 'not settled: look at it first'}
      </dd>
      <dt>Thick</dt>
      <dd>
        {row.dbhMm
          ? `${preferences.length(row.dbhMm, 'trunk')}, girth ${preferences.length(row.dbhMm * Math.PI, 'trunk')}`
          : 'not measured'}
      </dd>
      <dt>Taps</dt>
      <dd>
        {#if forbidden !== null}none{:else if !tree.decision}not decided: count first{:else if tree.decision.taps === 0}rest
          this season{:else}{tree.decision.taps}{drilled > 0 ? `, ${drilled} drilled already` : ''}{/if}{#if fewer};
          seen worse since, count anew{/if}
      </dd>
    </dl>
    {#if forbidden}<p class="text-lg font-semibold" data-testid="forbidden">{forbiddenWords(forbidden)}</p>{/if}
    {#if drilled > 0}
      <h2 class="mt-3">Drilled in {bush.season}</h2>
      <ul class="mt-1 text-lg" data-testid="made">
        {#each tree.holesThisSeason as hole (hole.id)}
          {@const seen = tree.shavings.get(hole.id)?.seen}
          <li>
            {compassPoint(hole.bearingDeg)} side, {preferences.length(hole.heightMm, 'hand')} above the ground{seen
              ? `; shavings ${SHAVINGS_SEEN[seen]}`
              : '; shavings not seen'}
          </li>
        {/each}
      </ul>
    {/if}
    {#if placing}
      <h2 class="mt-3">Drill</h2>
      <ol class="mt-1 flex flex-col gap-2">
        {#each live.placement?.proposals ?? [] as proposal, i (i)}
          {@const words = instructionWords(
            instructionFor(placing, tree.trunkFeatures, proposal, bush.asPlanned),
            preferences.units
          )}
          <li class="border-l-4 border-black pl-3">
            <p class="font-slab text-xl font-semibold">{words.sentence}</p>
            <p>
              {words.bodyHeight}, {words.compass}; clear wood {chanceInWords(proposal.outlook.pClear)}
            </p>
            {#if words.highBare && bush.hangsBuckets(treeId)}<HighHole heightMm={proposal.heightMm} plain />{/if}
            <p class="mt-1 flex flex-wrap gap-x-5 gap-y-1">
              Shavings:
              {#each ['pale', 'partly brown', 'all brown', 'dry'] as seen (seen)}
                <span class="flex items-center gap-2"
                  ><span class="inline-block h-4 w-4 border-2 border-black"></span>{seen}</span
                >
              {/each}
            </p>
          </li>
        {/each}
      </ol>
      <p class="mt-2">
        Bit {preferences.length(settings.bitMm, 'bit')}, tape at {preferences.length(
          depthMm + barkThickness(row.dbhMm!),
          'drill'
        )} ({preferences.length(depthMm, 'drill')} of wood under {preferences.length(
          barkThickness(row.dbhMm!),
          'drill'
        )} of bark).{#if depthMm < settings.depthMm}&nbsp;<b>{shallowWords(tree)}</b>{/if}
      </p>
    {/if}
    <p class="mt-3 border-t border-black pt-2 text-sm">
      Both hands on the drill, firm footing, goggles. Local rules and trained people come first.
    </p>
  </article>
{:else if bush.overview}
  <h1>No such tree</h1>
{/if}
