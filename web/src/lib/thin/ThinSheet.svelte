<script lang="ts">
  import { isSugarbush, knownMaple, type Mark } from '@baumkin/core/records';
  import { crownSides, SIDES_WANTED, TOUCHING_M } from '@baumkin/core/stand';
  import { heldBack, standTrees } from '@baumkin/core/bush';
  import { cropScore, freeSides, releases, girdlingCaution, sideStates } from '@baumkin/core/thinning';
  import { toast } from 'svelte-sonner';

  import { saved } from '$lib/client/saved.ts';
  import { barredWords, cropPartWords, CUT_WORDS, heldBackWords, lookAgain, MARK_SAID } from '$lib/labels/thinning.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import Clash from './Clash.svelte';
  import CrownCardForm from './CrownCardForm.svelte';
  import CrowdingNote from './CrowdingNote.svelte';
  import CrownPlan from './CrownPlan.svelte';
  import CrownSidesList from './CrownSidesList.svelte';
  import CutForm from './CutForm.svelte';
  import MarkForm from './MarkForm.svelte';
  import RemovalPanel from './RemovalPanel.svelte';
  import TreeCautions from './TreeCautions.svelte';

  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const row = $derived(bush.byId.get(treeId)!);
  const mapped = $derived(standTrees(bush.rows));
  const subject = $derived(mapped.find((t) => t.id === treeId) ?? null);
  const taken = $derived(new Set(bush.rows.filter((r) => releases(r.mark)).map((r) => r.id)));
  const sides = $derived(subject ? crownSides(subject, mapped, taken) : null);
  const states = $derived(sideStates(subject, mapped, row.crownCard));
  const free = $derived(freeSides(states, taken));
  const unknown = $derived(states.filter(({ known }) => !known).length);
  const stand = $derived(bush.standOf(row));
  const maple = $derived(knownMaple(row));
  const score = $derived(
    maple === true && row.dbhMm !== null
      ? cropScore({ ...row, maple: true, dbhMm: row.dbhMm, eastM: row.eastM ?? 0, northM: row.northM ?? 0 })
      : null
  );
  let card = $state(false);
  let cutting = $state(false);
  /** Maples in whose light this tree stands, with the side that it blocks. */
  const crowds = $derived.by(() => {
    if (!subject) return [];
    const maples = new Set(bush.rows.filter((r) => knownMaple(r) === true).map((r) => r.id));
    return mapped.flatMap((crop) => {
      if (crop.id === subject.id || !maples.has(crop.id)) return [];
      const own = crownSides(crop, [subject], new Set());
      return own.known && own.competitors[0] ? [{ crop, side: own.competitors[0].side }] : [];
    });
  });

  const tapped = $derived(standTrees(bush.rows.filter((r) => (r.decidedTaps ?? 0) > 0 || r.lastTappedSeason !== null)));
  /** What speaks against the mark that it carries. */
  const back = $derived(releases(row.mark) && !row.fallen ? heldBack(row, stand, bush.today) : null);
  const girdling = $derived(subject ? girdlingCaution(subject, bush.features, tapped) : null);
  const metres = (m: number) => preferences.length(m * 1000, 'ground');

  async function mark(
    id: string,
    said: Pick<Mark, 'purpose' | 'reason' | 'reviewOn' | 'leanDeg'> & Partial<Pick<Mark, 'keepFor' | 'despite'>>
  ): Promise<void> {
    const other = bush.byId.get(id)!;
    await bush.loadTree(id);
    const record = await bush.record(id, { kind: 'mark', ...said });
    saved(bush, `Tree ${other.tag}: ${MARK_SAID[said.purpose].toLowerCase()}.`, record);
  }

  async function choose(choice: 'crop' | 'veto' | 'none'): Promise<void> {
    await bush.loadTree(treeId);
    const record = await bush.record(treeId, { kind: 'cropChoice', choice, reason: '' });
    const what = { crop: 'a crop tree', veto: 'never a crop tree', none: 'judged by its points again' }[choice];
    saved(bush, `Tree ${row.tag} is ${what}.`, record);
  }

  function toggle(id: string): void {
    if (!bush.mayDecide || id === treeId) return;
    const { mark: now, leanDeg } = bush.byId.get(id)!;
    if (now !== null && now !== 'take') {
      toast.info(
        `Tree ${bush.byId.get(id)!.tag} is ${MARK_SAID[now].toLowerCase()}. Take that mark off first, on its own sheet.`
      );
      return;
    }
    const purpose = now === 'take' ? 'none' : 'take';
    void mark(id, {
      purpose,
      reason: purpose === 'take' ? `crowds tree ${row.tag}` : '',
      reviewOn: null,
      leanDeg
    });
  }
</script>

{#if row.cut}
  <p class="mb-3 max-w-prose text-lg" data-testid="is-cut">
    This tree is gone: {CUT_WORDS[row.cut.what]} on {row.cut.on}{row.cut.by ? ` by ${row.cut.by}` : ''}{row.cut.note
      ? `; ${row.cut.note}`
      : ''}.
  </p>
{/if}
{#if row.fallen}
  <p class="caution mb-3 max-w-prose" data-testid="is-fallen">
    {#if row.fallen.what === 'girdled'}<b>Girdled on {row.fallen.on}{row.fallen.by ? ` by ${row.fallen.by}` : ''}.</b> It
      dies standing and drops limbs for years: nobody works or rests under it, and it is for trained fallers if it must come
      down.
    {:else}<b>It lies since {row.fallen.on} and is alive.</b> Its root plate is under tension and can snap back when the trunk
      is cut: trained fallers alone. No taps; look again next summer.{/if}
    {lookAgain(row.fallen.reviewOn, bush.today)}{row.fallen.note ? ` Noted: ${row.fallen.note}.` : ''}
  </p>
{/if}
{#if stand && !isSugarbush(stand)}
  <p class="caution mb-4 max-w-prose">
    {stand.name} is managed for something else{stand.note ? `: ${stand.note}` : '.'} Nothing is thinned here for maples; what
    you see is for looking.
  </p>
{/if}
<div class="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,35rem)_minmax(20rem,1fr)]">
  <section aria-label="Seen from above" class="min-w-0">
    {#if subject && sides}
      <CrownPlan
        {subject}
        trees={mapped}
        features={bush.features}
        {states}
        competing={new Set(sides.competitors.map((c) => c.tree.id))}
        {taken}
        kept={new Set(bush.rows.filter((r) => r.mark !== null && !releases(r.mark)).map((r) => r.id))}
        ontoggle={toggle}
      />
      <p class="aside mt-1.5">
        Crowns to scale: as measured, or from the trunk’s diameter. A neighbour counts when its crown comes within {metres(
          TOUCHING_M
        )} and it is not clearly shorter.
      </p>
    {:else}
      <p class="max-w-prose">
        {#if row.dbhMm === null}How far its crown reaches depends on how thick it is. <a
            class="link"
            href="/bush/{bush.id}/measure/{treeId}">Measure this tree first</a
          >.
        {:else}This tree has no place on the map, so its neighbours are not known. A crown card does without a map.{/if}
      </p>
    {/if}
  </section>
  <section class="flex flex-col gap-4" aria-label="Crown sides">
    {#if card}
      <CrownCardForm {row} ondone={() => (card = false)} />
    {:else}
      {#if unknown === 4}
        <p class="border-l-4 border-primary pl-3">
          <b>The positions are too rough</b> to say whose crowns touch. Stand under the tree, look up and decide side by side.
        </p>
      {:else}
        <p class="font-slab text-2xl font-semibold" data-testid="free-sides">
          {free} of 4 sides free{#if unknown > 0}<span class="aside font-sans text-base font-normal"
              >, {unknown} not looked at</span
            >{/if}
        </p>
        {#if maple === false}
          <p>It is no maple, so its own light is not the question; whose light it takes is.</p>
        {:else if free >= SIDES_WANTED}
          <p>Its crown is free to grow: three or four free sides are the aim.</p>
        {:else}
          <p>Three or four free sides are the aim: free {SIDES_WANTED - free} more to release this crown.</p>
        {/if}
        {#if crowds.length > 0}
          <p data-testid="crowds">
            It stands in the light of
            {#each crowds as { crop, side }, i (crop.id)}{i === 0 ? '' : i === crowds.length - 1 ? ' and ' : ', '}<a
                class="link"
                href="/bush/{bush.id}/thin/{crop.id}">{crop.tag}</a
              >
              (its {side} side){/each}.
          </p>
        {/if}
        <CrownSidesList {row} {states} {taken} competitors={sides?.competitors ?? []} ontoggle={toggle} />
      {/if}
      {#if bush.mayRecord && !row.cut}<button class="btn self-start btn-outline" onclick={() => (card = true)}
          >{row.crownCard ? `Look up again (last on ${row.crownCard.on})` : 'Fill its crown card from below'}</button
        >{/if}
    {/if}
    {#if score}
      <div data-testid="crop">
        <h2>
          {row.crop === 'crop' ? 'Chosen as a crop tree' : row.crop === 'veto' ? 'Never a crop tree' : 'As a crop tree'}
        </h2>
        <p>
          <b>{score.score}</b> points of 100{score.barred ? `; but ${barredWords(score.barred)}` : ''}: {cropPartWords(
            score.parts
          )}.
        </p>
        {#if bush.mayDecide && !row.cut}
          <div class="mt-1 flex flex-wrap gap-2">
            {#if row.crop !== 'crop'}<button class="btn btn-outline btn-sm" onclick={() => choose('crop')}
                >Make it a crop tree</button
              >{/if}
            {#if row.crop === null}<button class="btn btn-outline btn-sm" onclick={() => choose('veto')}
                >Never a crop tree</button
              >{:else}<button class="btn btn-ghost btn-sm" onclick={() => choose('none')}
                >Let the points decide again</button
              >{/if}
          </div>
        {/if}
      </div>
    {/if}
    {#if bush.mayDecide && !row.cut}
      <div>
        {#if row.mark !== null}<p class="mb-1 font-semibold" data-testid="mark">
            {MARK_SAID[row.mark]}{row.markReason ? `: ${row.markReason}` : ''}{row.reviewOn
              ? `; look again by ${row.reviewOn}`
              : ''}.
          </p>{/if}
        {#if back}
          <div class="mb-2 border-l-4 border-error pl-3" data-testid="held">
            {#if back.why === 'clash'}<ul><Clash {row} says={heldBackWords(back)} /></ul>
            {:else}<p>{heldBackWords(back)}. It is not on the fallers’ lists.</p>{/if}
          </div>
        {/if}
        {#key `${row.mark}/${row.markReason}`}
          <MarkForm {row} {girdling} onmark={(said) => mark(treeId, said)} />
        {/key}
      </div>
    {/if}
    {#if subject && unknown < 4}<CrowdingNote {subject} {mapped} {stand} />{/if}
    {#if bush.mayRecord && !row.cut}
      {#if cutting}<CutForm {row} ondone={() => (cutting = false)} />{:else}<button
          class="btn self-start btn-outline"
          onclick={() => (cutting = true)}
          >{row.fallen ? 'It is down or gone: log it' : 'Felled, girdled, fallen? Log it'}</button
        >{/if}
    {/if}
    <RemovalPanel standId={row.standId} {taken} />
    <TreeCautions {row} {subject} />
    <p class="caution">
      Felling kills. No figure here says that a tree is safe to fell. Dead tops, hollow butts, leaners and hung-up trees
      are for trained fallers. Keep two tree lengths clear; helmet, eye, ear and leg protection; never alone; a way of
      retreat. Nests, dens, boundaries and local rules come first.
    </p>
  </section>
</div>
