<script lang="ts">
  import type { CharacterState } from '@baumkin/core/identify';
  import { onMount, untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { headlineOf, inHundred, toneOf } from '$lib/labels/identify.ts';
  import Drawing from '$lib/identify/Drawing.svelte';
  import { Looking } from '$lib/identify/looking.svelte.ts';
  import Told from '$lib/ui/Told.svelte';

  import { felt } from './aloud.ts';
  import type { RowStopProps } from './rowRounds.ts';

  /** What a tree is, one look after another: the next best is asked, until nothing would change the answer. */
  const { stop, walk }: RowStopProps = $props();
  const bush = useBush();
  const looking = untrack(() => new Looking(bush, stop.treeId));
  const { current, judgement, leading, begun } = $derived(looking);
  onMount(() => looking.read());

  async function choose(state: CharacterState): Promise<void> {
    if (!current || walk.busy) return;
    felt(false);
    await looking.choose(current, state.id);
  }
  const save = () =>
    walk.write(async () => {
      const here = stop;
      const says = headlineOf(judgement.verdict, leading.species, true).toLowerCase();
      walk.finish(here, `Tree ${here.row.tag}: ${says}`, [await looking.save()]);
    });
</script>

{#if current}
  <div class="flex min-h-0 grow flex-col gap-2" data-testid="asks">
    <p class="font-slab text-xl leading-snug font-semibold"><Told of={current.question} /></p>
    <div class="grid min-h-0 grow auto-rows-min grid-cols-2 gap-2 overflow-y-auto">
      {#each current.states as state (state.id)}
        <button
          class="flex min-h-18 items-center gap-2 border-2 border-current p-2 text-left"
          onclick={() => choose(state)}
        >
          <Drawing character={current.id} state={state.id} size="h-12 w-12 shrink-0" />
          <span class="text-base leading-tight"
            ><b class="block text-lg leading-tight">{state.label}</b>{state.description}</span
          >
        </button>
      {/each}
    </div>
  </div>
{:else}
  <div class="flex min-h-0 grow flex-col justify-center gap-3 text-lg" data-testid="asks">
    <p class="font-slab text-2xl leading-snug font-semibold">Nothing else that can be seen now would change it.</p>
    {#if judgement.verdict === 'lookAgain' || judgement.verdict === 'mapleOpen'}<p>
        It joins the trees that want another visit{looking.work.season === 'leaf' ? '' : ', in leaf'}.
      </p>{/if}
  </div>
{/if}
<p class="shrink-0 px-3 py-2 text-lg leading-tight {toneOf(judgement.verdict, begun)}" aria-live="polite">
  <b>{headlineOf(judgement.verdict, leading.species, begun)}</b>, {inHundred(judgement.pMaple)} a maple
</p>
<div class="grid shrink-0 grid-cols-[1fr_1fr_2fr] gap-2">
  <button class="btn h-16 text-base leading-tight" onclick={() => walk.putOff(stop)}>Later</button>
  <button class="btn h-16 text-base leading-tight" disabled={!current} onclick={() => looking.cannotTell()}
    >Can’t tell</button
  >
  <button class="btn h-16 text-lg leading-tight btn-primary" disabled={!looking.maySave || walk.busy} onclick={save}
    >Write it down</button
  >
</div>
