<script lang="ts">
  import { chosenBy, type Rule } from '@baumkin/core/records';
  import { collectingPoints } from '@baumkin/core/stand';
  import { tappedTrees } from '@baumkin/core/bush';

  import { goto } from '$app/navigation';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import TreeForm from '$lib/tree/TreeForm.svelte';

  import ChosenTrees from './ChosenTrees.svelte';
  import CollectPanel from './CollectPanel.svelte';
  import Legend from './Legend.svelte';
  import { mapTrees } from './mapTrees.ts';
  import { questionsFor } from './questions.ts';
  import RuleRows from './RuleRows.svelte';
  import ShapesPanel from './ShapesPanel.svelte';
  import StandMap, { type MapMode } from './StandMap.svelte';
  import WalkPanel from './WalkPanel.svelte';

  const bush = useBush();
  type Tool = 'choose' | 'add' | 'shapes' | 'walk' | 'collect';
  const TOOLS: readonly (readonly [Tool, string])[] = [
    ['choose', 'Choose'],
    ['add', 'New tree'],
    ['shapes', 'Stands'],
    ['walk', 'Walk'],
    ['collect', 'Collect']
  ];
  let tool = $state<Tool>('choose');
  let asked = $state('kind');
  let hand = $state<'click' | 'lasso'>('click');
  let rules = $state<Rule[]>([]);
  let byHand = $state.raw<ReadonlySet<string>>(new Set());
  let tapped = $state.raw<{ eastM: number; northM: number } | null>(null);
  let picked = $state<string[]>([]);
  let shapeMode = $state<MapMode>('look');
  let outline = $state<[number, number][] | null>(null);
  let hidden = $state<string | null>(null);
  let reachM = $state(20);
  let leastTaps = $state(5);
  let stand = $state<StandMap | null>(null);

  const questions = $derived(questionsFor(bush));
  const question = $derived(questions.find((q) => q.id === asked)!);
  const trees = $derived(mapTrees(bush.rows, question));
  const unplaced = $derived(bush.rows.length - trees.length);
  const baseMap = $derived(
    bush.overview?.baseMap ? { url: `/api/v1/bushes/${bush.id}/base-map`, fit: bush.overview.baseMap } : null
  );
  const byRule = $derived(
    rules.length === 0
      ? null
      : new Set(bush.rows.filter((row) => chosenBy(rules, row, bush.today)).map((row) => row.id))
  );
  const chosenIds = $derived(byRule ?? byHand);
  const chosen = $derived(bush.rows.filter((row) => chosenIds.has(row.id)));
  const scene = $derived({
    trees,
    tones: question.answers,
    chosen: tool === 'walk' ? new Set(picked) : tool === 'choose' ? chosenIds : new Set<string>(),
    current: null
  });
  const mode = $derived<MapMode>(
    tool === 'add' ? 'point' : tool === 'shapes' ? shapeMode : tool === 'choose' && hand === 'lasso' ? 'lasso' : 'look'
  );
  const way = $derived.by((): (readonly [number, number])[] => {
    if (tool !== 'walk') return [];
    return bush.rows.flatMap((row) =>
      row.tagged === false || row.eastM === null || row.northM === null ? [] : [[row.eastM, row.northM] as const]
    );
  });
  const tappedHere = $derived(
    tool === 'collect'
      ? tappedTrees(bush.rows, bush.overview!.bush.settings, { today: bush.today, standOf: (row) => bush.standOf(row) })
      : []
  );
  const points = $derived(collectingPoints(tappedHere, reachM, leastTaps));
  const rings = $derived(
    tool === 'collect'
      ? points.map(({ at, taps }) => ({ eastM: at.eastM, northM: at.northM, radiusM: reachM, says: String(taps) }))
      : tool === 'add' && tapped
        ? [{ ...tapped, radiusM: 0.6, says: '' }]
        : tool === 'shapes' && shapeMode === 'point' && outline
          ? outline.map(([eastM, northM]) => ({ eastM, northM, radiusM: 4, says: '' }))
          : []
  );

  function choose(ids: readonly string[], how: 'only' | 'add' | 'remove' = 'only'): void {
    rules = [];
    const given = new Set(ids);
    const kept = [...byHand].filter((id) => !given.has(id));
    byHand = new Set(how === 'only' ? ids : how === 'add' ? [...kept, ...ids] : kept);
  }

  function pick(id: string | null): void {
    if (id === null) return;
    if (tool === 'walk') {
      if (bush.mayDecide && !picked.includes(id)) picked = [...picked, id];
    } else if (tool === 'choose') choose([id], byHand.has(id) ? 'remove' : 'add');
    else void goto(`/bush/${bush.id}/life/${id}`);
  }

  function take(next: Tool): void {
    tool = next;
    shapeMode = 'look';
    outline = null;
    hidden = null;
    tapped = null;
    picked = [];
  }
</script>

<div class="flex h-full flex-col">
  <div class="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1 print:hidden">
    <h1>The map</h1>
    <ToggleGroup
      label="What to do on the map"
      options={TOOLS.filter(([id]) => id !== 'add' || bush.mayRecord).map(([id, label]) => ({ id, label }))}
      bind:value={() => tool, take}
    />
    {#if unplaced > 0}<p class="aside">
        {counted(unplaced, 'tree has', 'trees have')} no place and cannot be shown.
      </p>{/if}
    <button class="ml-auto link text-sm" onclick={() => stand?.frame()}>Show all</button>
  </div>
  <div
    class="grid min-h-0 grow gap-x-6 gap-y-4 max-lg:grid-rows-[60dvh_auto] lg:grid-cols-[minmax(0,1fr)_21rem] print:block"
  >
    <div class="relative min-h-72 overflow-hidden border border-base-300 print:hidden">
      <StandMap
        bind:this={stand}
        {scene}
        stands={(bush.overview?.stands ?? []).filter((s) => s.id !== hidden)}
        features={bush.features.filter((f) => f.id !== hidden)}
        {baseMap}
        {mode}
        {way}
        {rings}
        {outline}
        editable
        onpick={pick}
        onlasso={choose}
        onpoint={(eastM, northM) => {
          if (tool === 'shapes') outline = [[Number(eastM.toFixed(2)), Number(northM.toFixed(2))]];
          else tapped = { eastM, northM };
        }}
        onoutline={(line) => (outline = line)}
        hint={(tree) =>
          `${tree.tag}${tree.says === '' ? '' : `: ${tree.says}`}${tree.roughM > 2 ? `; its place is known to ${preferences.length(tree.roughM * 1000, 'ground')} or so` : ''}`}
      />
      {#if trees.length === 0 && tool !== 'add' && tool !== 'shapes'}
        <div class="pointer-events-none absolute inset-0 grid place-content-center p-6 text-center">
          <p class="max-w-80 text-lg">
            {bush.rows.length === 0
              ? 'No tree is on the map yet.'
              : 'No tree has a place on the map yet. A tree gets one from its life, or by a file.'}
          </p>
          {#if bush.mayRecord}<button
              class="btn pointer-events-auto mt-3 justify-self-center btn-primary"
              onclick={() => take('add')}>Bring a tree in</button
            >{/if}
        </div>
      {/if}
    </div>
    <div class="flex min-w-0 flex-col gap-4 lg:overflow-y-auto lg:pr-1">
      {#if tool === 'choose'}
        <div class="flex flex-col gap-4 print:hidden">
          <Legend {questions} bind:asked rows={bush.rows} onchoose={choose} />
          <div class="flex flex-col gap-1.5">
            <ToggleGroup
              look="boxes"
              label="Choose by hand"
              options={[
                { id: 'click', label: 'Tree by tree' },
                { id: 'lasso', label: 'Line round them' }
              ]}
              bind:value={hand}
            />
            <p class="aside">
              {hand === 'lasso'
                ? 'Draw a line round trees. With Shift they are added, with Alt taken out.'
                : 'Click trees to choose them, and again to let them go.'}
            </p>
            <div class="flex flex-wrap gap-x-3 text-sm">
              {#each bush.overview?.stands ?? [] as s (s.id)}
                <button
                  class="link"
                  onclick={() => choose(bush.rows.filter((row) => row.standId === s.id).map((row) => row.id))}
                  >{s.name}</button
                >
              {/each}
            </div>
            <RuleRows bind:rules />
          </div>
        </div>
        <ChosenTrees
          {chosen}
          {question}
          onclear={() => choose([])}
          onshow={(row) =>
            row.eastM === null ? void goto(`/bush/${bush.id}/life/${row.id}`) : stand?.goTo(row.eastM, row.northM!)}
        />
      {:else if tool === 'add'}
        <div>
          <h2 class="mb-2">A new tree</h2>
          {#if !tapped}<p class="aside mb-2">Click where it stands, or give its place below.</p>{/if}
          <TreeForm kind="tree" {tapped} ondone={() => (tapped = null)} />
        </div>
      {:else if tool === 'shapes'}
        <ShapesPanel bind:mode={shapeMode} bind:outline bind:hidden />
      {:else if tool === 'walk'}
        <WalkPanel bind:picked />
      {:else}
        <CollectPanel
          tapped={tappedHere}
          {points}
          bind:reachM
          bind:leastTaps
          onchoose={(ids) => {
            take('choose');
            choose(ids);
          }}
        />
      {/if}
    </div>
  </div>
</div>
